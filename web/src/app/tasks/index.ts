export { TaskBar } from './TaskBar'
export { useTask } from './useTask'
