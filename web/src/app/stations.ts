/** The nine stations in the order of the work. */
export interface Station {
  number: number
  path: string
  name: string
  /** What will be there, for those that are not built yet. */
  planned?: string
}

export const STATIONS: Station[] = [
  { number: 1, path: 'survey', name: 'Survey', planned: 'Tape distances, squares-and-floor readings and hub-face offsets will become coordinates here, each with its uncertainty, and the reading that does not fit will be named.' },
  { number: 2, path: 'layout', name: 'Layout' },
  { number: 3, path: 'cycle', name: 'Cycle' },
  { number: 4, path: 'loads', name: 'Loads' },
  { number: 5, path: 'members', name: 'Members' },
  { number: 6, path: 'brackets', name: 'Brackets' },
  { number: 7, path: 'jigs', name: 'Jigs' },
  { number: 8, path: 'pack', name: 'Cut & pack' },
  { number: 9, path: 'log', name: 'Build log', planned: 'The traveller with its hold points, as-built measurements and signatures will be kept here.' },
] // prettier-ignore
