import type { AngleTaken } from '../../api'

/** Angles that can be read, in words, and which way counts. */
export const MEASURES: { value: AngleTaken['measure']; label: string; note: string; with: AngleTaken['instrument'] }[] = [
  { value: 'camber_deg', label: 'camber', note: 'Top leaning out is +, top leaning in is −.', with: 'inclinometer' },
  { value: 'toe_deg', label: 'toe', note: 'Of this wheel alone; pointing in is +.', with: 'toe bar' },
  { value: 'caster_deg', label: 'caster', note: 'Steering axis leaning back is +.', with: 'caster gauge' },
  { value: 'kingpin_inclination_deg', label: 'kingpin inclination', note: 'Steering axis leaning in is +.', with: 'caster gauge' },
  { value: 'pinion_deg', label: 'pinion', note: 'Nose up is +.', with: 'inclinometer' },
  { value: 'pinion_change_deg', label: 'axle nose, up from as laid out', note: 'How far the axle has turned nose up; 0 as its points were taken.', with: 'inclinometer' },
  { value: 'axle_steer_deg', label: 'axle, turned seen from above', note: 'To the left is +.', with: 'other' },
] // prettier-ignore

export const INSTRUMENTS: AngleTaken['instrument'][] = ['inclinometer', 'toe bar', 'caster gauge', 'other']
export const measureOf = (value: AngleTaken['measure']) => MEASURES.find((one) => one.value === value) ?? MEASURES[0]!
export const ofAxle = (value: AngleTaken['measure']) =>
  ['pinion_deg', 'pinion_change_deg', 'axle_steer_deg'].includes(value)
export const degrees = (value: number, digits = 1) =>
  `${value > 0 ? '+' : value < 0 ? '−' : ''}${Math.abs(value).toFixed(digits)}°`
