export { Guide } from './Guide'
export { useProgress, type Progress } from './progress'
