import type { HoldOut } from '../api'

/** Where something is settled, under the job; the core says what it is, the page only goes there. */
export function placeOf(hold: HoldOut): string {
  if (!['members', 'brackets', 'jigs'].includes(hold.station)) return hold.station
  return `${hold.station}/${hold.id}?show=${encodeURIComponent(hold.selection)}`
}

/** Stations whose address names a part. */
export const OF_A_PART = ['members', 'brackets', 'jigs']
