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

/** Whether a part that was begun does not fit or hold as it is, or nobody can tell. */
export const askew = (one: MadePartOut) => one.verdict !== 'fits' || !one.holds
