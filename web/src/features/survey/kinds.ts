import type { TakenReading } from '../../api'

type Kind = TakenReading['kind']

/** What can be read, in words; of which places; with what by habit. */
export const KINDS: { value: Kind; label: string; of: string[]; with: TakenReading['instrument']; note: string }[] = [
  { value: 'distance', label: 'distance between two', of: ['From', 'To'], with: 'tape', note: 'Centre to centre. Outside of one hole to inside of an equal one is centre to centre as it stands; else add or take off half of both holes below.' },
  { value: 'height', label: 'height over the floor', of: ['Of'], with: 'square', note: 'From the datum’s floor up.' },
  { value: 'left', label: 'offset from the centre line', of: ['Of'], with: 'square', note: 'To the left positive; to the right negative.' },
  { value: 'ahead', label: 'offset from the cross line', of: ['Of'], with: 'square', note: 'Ahead positive; behind negative.' },
  { value: 'level', label: 'angle to the level', of: ['From', 'To'], with: 'inclinometer', note: 'Positive where the second place is higher.' },
  { value: 'side', label: 'angle in the side view', of: ['From', 'To'], with: 'inclinometer', note: 'From straight ahead, up positive: 90 is straight up, more leans back.' },
  { value: 'top', label: 'angle from above', of: ['From', 'To'], with: 'other', note: 'From straight ahead, to the left positive.' },
  { value: 'front', label: 'angle seen from ahead or behind', of: ['From', 'To'], with: 'inclinometer', note: 'From straight left, up positive.' },
  { value: 'tube', label: 'distance to a tube’s axis', of: ['Of', 'Tube, one place', 'Tube, other place'], with: 'rule', note: 'To its surface: add its radius below.' },
  { value: 'face', label: 'offset from a flat face', of: ['Of', 'Face, its middle', 'Straight out of it'], with: 'rule', note: 'A hub’s face; shims between face and jig are taken off below.' },
] // prettier-ignore

export const INSTRUMENTS: TakenReading['instrument'][] = [
  'tape', 'rule', 'square', 'string', 'plumb line', 'level', 'calliper', 'inclinometer', 'other',
] // prettier-ignore

export const isAngle = (kind: Kind) => ['level', 'side', 'top', 'front'].includes(kind)
export const kindOf = (kind: Kind) => KINDS.find((one) => one.value === kind) ?? KINDS[0]!
