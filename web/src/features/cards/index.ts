export { Draft, PartCard } from './PartCard'
export { PartChanged } from './PartChanged'
export { VERDICT } from './verdicts'
