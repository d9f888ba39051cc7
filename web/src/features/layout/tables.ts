import type { End, EndKind } from '../../api'
import { plain, type Field } from '../../fields'

const options = (names: string[]) => names.map((value) => ({ value, label: plain(value) }))

/** A place beside the template's joints: the body it is on, and its point, named after what it is. */
export const placeFields = (kind: EndKind, path: string, label: string): Field[] => [
  { kind: 'choice', path: `${path}/body`, label: `${label}, on`, options: options(kind.bodies) },
]

export const WHEEL: Field[] = [
  { kind: 'mm', path: 'wheel/loaded_radius_mm', label: 'Loaded radius' },
  { kind: 'mm', path: 'wheel/width_mm', label: 'Tyre width' },
  { kind: 'mm', path: 'wheel/spacer_mm', label: 'Hub spacer put on since', min: 0 },
  { kind: 'number', path: 'wheel/camber_deg', label: 'Camber, top out +', unit: '°', min: -30, max: 30 },
  { kind: 'number', path: 'wheel/toe_deg', label: 'Toe-in, a wheel', unit: '°', min: -30, max: 30 },
]

export const RIM: Field[] = [
  { kind: 'mm', path: 'wheel/rim/barrel_radius_mm', label: 'Barrel, inside radius' },
  { kind: 'mm', path: 'wheel/rim/spokes_mm', label: 'Offset when the points were taken', signed: true },
  { kind: 'mm', path: 'wheel/rim/offset_mm', label: 'Offset of the wheel on it now', signed: true, optional: true },
  { kind: 'mm', path: 'wheel/rim/inboard_edge_mm', label: 'Inboard edge', signed: true },
  { kind: 'mm', path: 'wheel/rim/joint_radius_mm', label: 'Joints inside, radius' },
  { kind: 'mm', path: 'wheel/rim/wanted_mm', label: 'Clearance wanted', min: 0 },
]
export const NEW_RIM = { barrel_radius_mm: 165, spokes_mm: 25, inboard_edge_mm: -90, joint_radius_mm: 22, wanted_mm: 5 }

export const CAR: Field[] = [
  {
    kind: 'choice',
    path: 'use',
    label: 'It is for',
    options: ['road', 'circuit', 'off-road'].map((value) => ({ value, label: value })),
  },
  { kind: 'mm', path: 'wheelbase_mm', label: 'Wheelbase' },
  { kind: 'number', path: 'mass_kg', label: 'Mass of the whole car', unit: 'kg', optional: true, min: 1 },
  {
    kind: 'mm',
    path: 'cg_behind_front_mm',
    label: 'It stands behind the front axle',
    optional: true,
    signed: true,
  },
  { kind: 'mm', path: 'cg_height_mm', label: 'Height of the mass' },
  { kind: 'check', path: 'cg_is_a_guess', label: 'that height is a guess' },
  { kind: 'number', path: 'brake_front_share', label: 'Braking at the front', unit: '', min: 0, max: 1 },
  { kind: 'number', path: 'drive_front_share', label: 'Drive at the front', unit: '', min: 0, max: 1 },
]
export const RIDE: Field[] = [
  { kind: 'mm', path: 'front_rise_mm', label: 'Front, higher by', signed: true, min: -300, max: 300 },
  { kind: 'mm', path: 'rear_rise_mm', label: 'Rear, higher by', signed: true, min: -300, max: 300 },
]
const REACTED = [
  { value: 'outboard', label: 'outboard, on the upright' },
  { value: 'inboard', label: 'inboard, on the chassis' },
]
const DRIVEN = [
  { value: 'upright', label: 'by the upright or axle' },
  { value: 'inboard', label: 'by the chassis' },
]
export const torque = (end: 'front' | 'rear'): Field[] => [
  { kind: 'choice', path: `brakes_${end}`, label: 'Brake torque taken', options: REACTED },
  { kind: 'choice', path: `drive_${end}`, label: 'Drive torque taken', options: DRIVEN, optional: true },
]
export const CORNERS: Field[] = [
  { kind: 'number', path: 'corners/front_left_kg', label: 'Front left', unit: 'kg', min: 1 },
  { kind: 'number', path: 'corners/front_right_kg', label: 'Front right', unit: 'kg', min: 1 },
  { kind: 'number', path: 'corners/rear_left_kg', label: 'Rear left', unit: 'kg', min: 1 },
  { kind: 'number', path: 'corners/rear_right_kg', label: 'Rear right', unit: 'kg', min: 1 },
]
export const UNSPRUNG: Field[] = [
  { kind: 'number', path: 'unsprung_front_kg', label: 'Unsprung, front', unit: 'kg', optional: true, min: 1 },
  { kind: 'number', path: 'unsprung_rear_kg', label: 'Unsprung, rear', unit: 'kg', optional: true, min: 1 },
]
export const NEW_CORNERS = { front_left_kg: 250, front_right_kg: 250, rear_left_kg: 250, rear_right_kg: 250 }

export const DAMPER: Field[] = [
  { kind: 'mm', path: 'damper/closed_mm', label: 'Length closed', optional: true },
  { kind: 'mm', path: 'damper/open_mm', label: 'Length open', optional: true },
  { kind: 'number', path: 'damper/rate_n_per_mm', label: 'Rate of the spring', unit: 'N/mm', optional: true, min: 0 },
  { kind: 'mm', path: 'damper/od_mm', label: 'Spring, outside', optional: true },
]
export const STOP: Field[] = [
  { kind: 'direction', path: 'bump_stop/axis', label: 'It points along' },
  { kind: 'direction', path: 'bump_stop/face', label: 'The pad faces along' },
  { kind: 'mm', path: 'bump_stop/pad_radius_mm', label: 'Pad, radius' },
  { kind: 'mm', path: 'bump_stop/crush_mm', label: 'Crush to solid', min: 0 },
  {
    kind: 'number',
    path: 'bump_stop/rate_n_per_mm',
    label: 'Rate, k of F = k x + k₃ x³',
    unit: 'N/mm',
    optional: true,
    min: 0,
  },
  { kind: 'number', path: 'bump_stop/rate3_n_per_mm3', label: 'k₃', unit: 'N/mm³', min: 0 },
]
export const STRAP: Field[] = [{ kind: 'mm', path: 'strap/length_mm', label: 'Length taut' }]

export const boxFields = (kind: EndKind, end: End): Field[] => [
  ...(kind.rises
    ? ([
        { kind: 'mm', path: 'bump_mm', label: 'Bump', min: 1, max: 600 },
        { kind: 'mm', path: 'droop_mm', label: 'Droop', min: 1, max: 600 },
      ] as Field[])
    : []),
  { kind: 'number', path: 'roll_deg', label: 'Roll, each way', unit: '°', min: 0, max: 15 },
  ...((!kind.steered
    ? []
    : end.steering
      ? [{ kind: 'number', path: 'steer_deg', label: 'Steering arm, each way', unit: '°', min: 0, max: 60 }]
      : [{ kind: 'mm', path: 'steer_mm', label: 'Rack, each way', min: 0, max: 200 }]) as Field[]),
]

/** One end of a link: its bolt and what the joint allows. */
export const jointFields = (path: string): Field[] => [
  { kind: 'direction', path: `${path}/bolt_axis`, label: 'Bolt along' },
  { kind: 'number', path: `${path}/limit_deg`, label: 'It allows', unit: '°', optional: true, min: 0.1, max: 90 },
  {
    kind: 'number',
    path: `${path}/limit_with_spacers_deg`,
    label: 'With misalignment spacers',
    unit: '°',
    optional: true,
    min: 0.1,
    max: 90,
  },
  {
    kind: 'choice',
    path: `${path}/kind`,
    label: 'It is',
    options: [
      { value: 'spherical', label: 'spherical: rod end or bearing' },
      { value: 'hinged', label: 'hinged: clevis or bush, one way only' },
    ],
  },
]
export const NEW_JOINT = { bolt_axis: [1, 0, 0], limit_deg: 20, limit_with_spacers_deg: null, kind: 'spherical' }
export const NEW_LINK = { a: null, b: null, clocking_deg: 0, stiffness_n_per_mm: 50000, od_mm: null }
export const linkFields = (name: string): Field[] => [
  { kind: 'mm', path: `links/${name}/od_mm`, label: 'Tube, outside', optional: true },
  { kind: 'number', path: `links/${name}/clocking_deg`, label: 'Ends clocked', unit: '°', min: -180, max: 180 },
]

export const bushFields = (name: string): Field[] => [
  { kind: 'number', path: `bushes/${name}/radial_n_per_mm`, label: 'Radial', unit: 'N/mm', optional: true, min: 1 },
  { kind: 'number', path: `bushes/${name}/axial_n_per_mm`, label: 'Axial', unit: 'N/mm', optional: true, min: 1 },
  {
    kind: 'number',
    path: `bushes/${name}/conical_nmm_per_deg`,
    label: 'Leaning',
    unit: 'N·mm/°',
    optional: true,
    min: 1,
  },
]
export const NEW_BUSH = { radial_n_per_mm: 8000, axial_n_per_mm: 1500, conical_nmm_per_deg: 30000 }
export const ballFields = (name: string): Field[] => [
  { kind: 'direction', path: `balls/${name}/stud_axis`, label: 'Stud or pin along' },
  { kind: 'number', path: `balls/${name}/limit_deg`, label: 'It allows', unit: '°', optional: true, min: 0.1, max: 90 },
]
export const NEW_BALL = { stud_axis: [0, 0, 1], housing_axis: null, limit_deg: 25 }
export const sliderFields = (name: string): Field[] => [
  { kind: 'mm', path: `sliders/${name}/along_mm`, label: 'Room along its line', min: 0 },
  { kind: 'mm', path: `sliders/${name}/back_mm`, label: 'Room back', min: 0 },
]
export const NEW_SLIDER = { along_mm: 80, back_mm: 80 }
export const SHAFT = 'drive shaft'
export const SHAFT_FIELDS: Field[] = [
  { kind: 'direction', path: `shafts/${SHAFT}/inner_axis`, label: 'Inner flange along' },
  { kind: 'mm', path: `shafts/${SHAFT}/od_mm`, label: 'Outside', optional: true },
  { kind: 'mm', path: `shafts/${SHAFT}/plunge_in_mm`, label: 'Plunge inward', optional: true, min: 0 },
  { kind: 'mm', path: `shafts/${SHAFT}/plunge_out_mm`, label: 'Plunge outward', optional: true, min: 0 },
  {
    kind: 'number',
    path: `shafts/${SHAFT}/angle_limit_deg`,
    label: 'Joints allow',
    unit: '°',
    optional: true,
    min: 0.1,
    max: 90,
  },
]
export const NEW_SHAFT = {
  inner_axis: [0, 1, 0],
  outer_axis: null,
  od_mm: null,
  plunge_in_mm: null,
  plunge_out_mm: null,
  angle_limit_deg: null,
  pair: true,
}
/** Two parts that must miss each other; parts as the core calls them. */
export const missFields = (kind: EndKind, end: End, i: number): Field[] => {
  const bodies = kind.bodies.filter((body) => body !== 'ground').map((body) => body.replaceAll('_', ' '))
  const parts = [...kind.links, ...bodies, ...(end.damper ? ['damper'] : []), ...Object.keys(end.shafts)]
  const choices = parts.map((value) => ({ value, label: value }))
  return [
    { kind: 'choice', path: `misses/${i}/a`, label: 'This part', options: choices },
    { kind: 'choice', path: `misses/${i}/b`, label: 'must miss', options: choices },
    { kind: 'mm', path: `misses/${i}/wanted_mm`, label: 'by', min: 0 },
  ]
}

export const SHAPES: Record<string, Field[]> = {
  round: [
    { kind: 'at', path: 'shape/a', label: 'From' },
    { kind: 'at', path: 'shape/b', label: 'To' },
    { kind: 'mm', path: 'shape/radius_mm', label: 'Radius', min: 0 },
  ],
  block: [
    { kind: 'at', path: 'shape/low', label: 'Lowest corner' },
    { kind: 'at', path: 'shape/high', label: 'Highest corner' },
  ],
  wall: [
    { kind: 'at', path: 'shape/through', label: 'Through' },
    { kind: 'direction', path: 'shape/normal', label: 'It faces along' },
  ],
}
export const obstacleFields = (kind: EndKind): Field[] => [
  { kind: 'text', path: 'name', label: 'Name' },
  { kind: 'choice', path: 'body', label: 'It is on', options: options(kind.bodies) },
  { kind: 'mm', path: 'wanted_mm', label: 'Clearance wanted', min: 0 },
  { kind: 'check', path: 'both_sides', label: 'the same on the right side' },
]
