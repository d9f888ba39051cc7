export { Drawn } from './Drawn'
export { DrawingView } from './DrawingView'
export { drawingOf, useDrawing } from './useDrawing'
