import type { TickTold } from '../api'

/** Nothing written down with a step. */
export const NOTHING_TOLD: TickTold = { who: '', heat: '', filler: '', welder: '', note: '' }
