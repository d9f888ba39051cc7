export { DrawingView } from './DrawingView'
export { useDrawing } from './useDrawing'
