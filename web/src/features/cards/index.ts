export { Draft, Headline, PartCard } from './PartCard'
export { PartChanged } from './PartChanged'
export { VERDICT } from './verdicts'
