export { DrawingView } from './DrawingView'
export { useDrawing } from './useDrawing'
export { useEndDrawing } from './useEndDrawing'
