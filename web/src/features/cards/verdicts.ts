import type { MadePartOut, PartChangedOut } from '../../api'

/** What is done with a part that was made to what was issued. */
export const VERDICT: Record<PartChangedOut['verdict'], string> = {
  make: 're-make',
  cut: 're-cut',
  incomplete: 'not complete',
  set: 're-adjust',
  buy: 'buy other',
  new: 'new',
  gone: 'not wanted',
  fits: 'fits',
}

/** A hand of a part that was begun, with what it is by now. */
export const called = (one: MadePartOut) => `${one.name}${one.hand && `, ${one.hand.toUpperCase()}`} (${one.is_now})`
