import type { TakenReading } from '../../api'

type Kind = TakenReading['kind']

/** What can be read, in words; of which places; with what by habit. */
export const KINDS: { value: Kind; label: string; of: string[]; with: TakenReading['instrument']; note: string }[] = [
  { value: 'distance', label: 'distance between two', of: ['From', 'To'], with: 'tape', note: 'Where holes, bolt heads or tubes were touched at a side, say so: half of them is taken into account.' },
  { value: 'height', label: 'height over the floor', of: ['Of'], with: 'square', note: 'From the datum’s floor up.' },
  { value: 'left', label: 'offset from the centre line', of: ['Of'], with: 'square', note: 'To the left positive; to the right negative.' },
  { value: 'ahead', label: 'offset from the cross line', of: ['Of'], with: 'square', note: 'Ahead positive; behind negative.' },
  { value: 'level', label: 'angle to the level', of: ['From', 'To'], with: 'inclinometer', note: 'Positive where the second place is higher.' },
  { value: 'side', label: 'angle in the side view', of: ['From', 'To'], with: 'inclinometer', note: 'From straight ahead, up positive: 90 is straight up, more leans back.' },
  { value: 'top', label: 'angle from above', of: ['From', 'To'], with: 'other', note: 'From straight ahead, to the left positive.' },
  { value: 'front', label: 'angle seen from ahead or behind', of: ['From', 'To'], with: 'inclinometer', note: 'From straight left, up positive.' },
  { value: 'bar', label: 'toe bar on a wheel or hub', of: ['Face, its middle', 'Straight out of it'], with: 'tape', note: 'A bar held flat on it: both its marks against the centre line, or a string along it. To the left positive, so that to the right both are negative.' },
  { value: 'swing', label: 'caster gauge, its swing', of: ['Axis, below', 'Axis, above'], with: 'inclinometer', note: 'Camber with the wheel turned out and in by the same angle on turn plates, top out positive.' },
  { value: 'tube', label: 'distance to a tube’s axis', of: ['Of', 'Tube, one place', 'Tube, other place'], with: 'rule', note: 'Say where the tube was touched: half of it is taken into account.' },
  { value: 'face', label: 'offset from a flat face', of: ['Of', 'Face, its middle', 'Straight out of it'], with: 'rule', note: 'A hub’s face. Shims left between face and jig count in the figure, and are taken off.' },
] // prettier-ignore

export const INSTRUMENTS: TakenReading['instrument'][] = [
  'tape', 'rule', 'square', 'string', 'plumb line', 'level', 'calliper', 'inclinometer', 'other',
] // prettier-ignore

export const isAngle = (kind: Kind) => ['level', 'side', 'top', 'front', 'bar', 'swing'].includes(kind)
export const kindOf = (kind: Kind) => KINDS.find((one) => one.value === kind) ?? KINDS[0]!

/** Where a round was touched, in words; as many of a reading’s features as may be. */
export const SIDES: { value: 'centre' | 'near side' | 'far side'; label: string }[] = [
  { value: 'centre', label: 'to its centre' },
  { value: 'near side', label: 'to its side nearer to the other end' },
  { value: 'far side', label: 'to its far side' },
]
export const touches = (kind: Kind) =>
  kind === 'distance'
    ? ['From', 'To']
    : ['height', 'left', 'ahead'].includes(kind)
      ? ['Of']
      : kind === 'tube'
        ? ['Tube']
        : []
