export { TravelProvider } from './TravelProvider'
export { TravelStrip } from './TravelStrip'
export {
  drawnFirst,
  steering,
  studied,
  studyKey,
  useEnd,
  useEnds,
  useKind,
  useKindsOf,
  useMade,
  useRested,
  useStudy,
  useTemplates,
  useTravel,
} from './context'
export { NotWatched } from './NotWatched'
export { useEarly } from './useEarly'
export { usePointMoves, type Keeps, type Moved, type PointMoves } from './useMovedPoint'
export { EndViews } from './EndViews'
export { USUAL, type Plots } from './useEndDrawing'
