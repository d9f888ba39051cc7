import type { Design } from '../../api'
import type { Field } from '../../fields'

export type CarCase = Design['loads']['cases'][number]

const KINDS = [
  { value: 'wheel', label: 'a wheel is hit' },
  { value: 'car', label: 'the whole car, in g' },
  { value: 'landing', label: 'landing on the bump stop' },
  { value: 'strike', label: 'down on a link’s middle' },
  { value: 'jack', label: 'jacked at a point' },
  { value: 'snatch', label: 'snatch at full droop' },
]
const PLACES = [
  { value: 'ride', label: 'ride height' },
  { value: 'stop', label: 'bump stop contact' },
  { value: 'droop', label: 'full droop' },
]
const ENDS = ['both', 'front', 'rear'].map((value) => ({ value, label: value === 'both' ? 'both ends' : value }))
const TORQUES = [
  { value: 'rolling', label: 'none, the wheel rolls' },
  { value: 'brake', label: 'the brakes hold it' },
  { value: 'drive', label: 'the engine drives it' },
]

/** The fields that a case of each kind has. */
export function caseFields(kind: CarCase['kind']): Field[] {
  const factor = (path: string, label: string, unit: string): Field => ({
    kind: 'number', path, label, unit, min: path === 'vertical' ? 0 : -20, max: 20,
  }) // prettier-ignore
  const common: Field[] = [
    { kind: 'text', path: 'name', label: 'Name' },
    { kind: 'choice', path: 'kind', label: 'What happens', options: KINDS },
    { kind: 'choice', path: 'end', label: 'At', options: ENDS },
    { kind: 'choice', path: 'at', label: 'Travel position', options: PLACES },
    { kind: 'mm', path: 'travel_mm', label: 'Another travel position', optional: true, signed: true },
  ]
  const own: Record<CarCase['kind'], Field[]> = {
    wheel: [
      factor('vertical', 'Up, × standing load', '×'),
      factor('longitudinal', 'Ahead +, × standing load', '×'),
      factor('lateral', 'To the middle, × standing', '×'),
      { kind: 'choice', path: 'torque', label: 'Torque on the wheel', options: TORQUES },
    ],
    car: [
      factor('longitudinal', 'Ahead +', 'g'),
      factor('lateral', 'Sideways, each way', 'g'),
      factor('vertical', 'Up, × standing load', '×'),
      { kind: 'choice', path: 'torque', label: 'Torque on the wheels', options: TORQUES },
    ],
    landing: [
      { kind: 'mm', path: 'drop_mm', label: 'Drop height', optional: true },
      { kind: 'number', path: 'speed_m_s', label: 'or speed down', unit: 'm/s', optional: true, min: 0 },
    ],
    strike: [
      factor('vertical', 'Force, × standing load', '×'),
      { kind: 'text', path: 'link', label: 'Link, as Layout names it' },
    ],
    jack: [
      factor('vertical', 'Of what stands there', '×'),
      { kind: 'text', path: 'point', label: 'Point' },
      { kind: 'text', path: 'body', label: 'Part it lifts' },
    ],
    snatch: [
      { kind: 'number', path: 'speed_m_s', label: 'Wheel falls at', unit: 'm/s', min: 0 },
      { kind: 'number', path: 'stiffness_n_per_mm', label: 'Stopped by, at the wheel', unit: 'N/mm', min: 0 },
    ],
  }
  return [...common, ...own[kind], { kind: 'text', path: 'source', label: 'Source' }]
}

/** What a case of a kind must have beside what it has. */
export function ofKind(now: CarCase, kind: CarCase['kind']): CarCase {
  const bare = { ...now, kind, drop_mm: null, speed_m_s: null, stiffness_n_per_mm: null }
  if (kind === 'landing') return { ...bare, drop_mm: 300, at: 'stop' }
  if (kind === 'snatch') return { ...bare, speed_m_s: 1, stiffness_n_per_mm: 1000, at: 'droop' }
  if (kind === 'jack') return { ...bare, point: now.point ?? 'wheel_centre_left', at: 'droop' }
  return bare
}

export const NEW_CASE: Omit<CarCase, 'name'> = {
  kind: 'wheel', end: 'both', at: 'ride', travel_mm: null, roll_deg: 0, steer: 0, wheels: 'each', vertical: 2, longitudinal: 0, lateral: 0,
  torque: 'rolling', link: null, body: null, point: null, drop_mm: null, speed_m_s: null, stiffness_n_per_mm: null,
  source: 'common practice, no source',
} // prettier-ignore
