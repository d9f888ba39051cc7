export { Drawn } from './Drawn'
export { DrawingView } from './DrawingView'
export { useDrawing } from './useDrawing'
