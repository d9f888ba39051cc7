/** The nine stations in the order of the work. */
export interface Station {
  number: number
  path: string
  name: string
  /** What one asks there. */
  asks: string
}

export const STATIONS: Station[] = [
  { number: 1, path: 'survey', name: 'Survey', asks: 'Where are the points on this car, really?' },
  { number: 2, path: 'layout', name: 'Layout', asks: 'Which kind of suspension, where do the pivots go?' },
  { number: 3, path: 'cycle', name: 'Cycle', asks: 'Does it move right, does anything bind or hit, what stops it first?' },
  { number: 4, path: 'loads', name: 'Loads', asks: 'What does a pothole, a kerb, a panic stop put into each part?' },
  { number: 5, path: 'members', name: 'Members', asks: 'Which tube, which joint, how much thread?' },
  { number: 6, path: 'brackets', name: 'Brackets', asks: 'What shape do I cut, will it tear, will the joint clear?' },
  { number: 7, path: 'jigs', name: 'Jigs', asks: 'How do I hold it true, both sides the same?' },
  { number: 8, path: 'pack', name: 'Cut & pack', asks: 'What do I buy, saw, cut and print?' },
  { number: 9, path: 'log', name: 'Build log', asks: 'What is tacked, checked, welded, measured, signed?' },
] // prettier-ignore
