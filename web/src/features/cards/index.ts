export { MadeFigures } from './MadeFigures'
export { Draft, Headline, PartCard } from './PartCard'
export { PartChanged } from './PartChanged'
export { called, VERDICT } from './verdicts'
