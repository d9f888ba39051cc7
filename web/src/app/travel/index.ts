export { TravelProvider } from './TravelProvider'
export { TravelStrip } from './TravelStrip'
export { useEnd, useStudy, useTemplates, useTravel } from './context'
