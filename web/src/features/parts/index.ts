export { PartList } from './PartList'
export { PartView } from './PartView'
export { useNewBracket } from './HeldBy'
export { placesOf, samePlace, sayPlace } from './places'
