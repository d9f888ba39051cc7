import type { Evaluation, HoldOut } from '../api'

/** Something to settle: a failing or close check, or something missing. */
export interface Hold {
  part: string
  /** Where it is settled, under the job. */
  to: string
  /** The suspension end to turn to first. */
  endId?: string
  title: string
  detail: string
  rank: number
  state: 'stop' | 'attention' | 'incomplete'
}

/** Every failing or missing check of the job, worst first. */
export function holdsOf(evaluation: Evaluation | null, others: HoldOut[] = []): Hold[] {
  const found: Hold[] = others.map((one) => ({
    part: one.part,
    to: one.station === 'members' ? `members?arm=${one.id}&show=${encodeURIComponent(one.selection)}` : one.station,
    endId: one.station === 'loads' ? one.id : undefined,
    title: one.what,
    detail: one.detail,
    rank: one.rank,
    state: one.state,
  }))
  for (const link of evaluation?.links ?? []) {
    const common = { part: link.name }
    const at = (selection: string) => `members/${link.id}?show=${encodeURIComponent(selection)}`
    for (const check of link.checks) {
      if (check.state !== 'stop' && check.state !== 'attention') continue
      found.push({
        ...common,
        title: `${check.name} ${check.utilisation === null ? '' : check.shown}`,
        detail: check.note || check.case || check.part,
        to: at(`check:${check.key}`),
        rank: (check.state === 'stop' ? 1e6 : 0) + Math.min(check.utilisation ?? 1, 1e5),
        state: check.state,
      })
    }
    const unsized = link.tube_label === null
    if (unsized)
      found.push({
        ...common,
        title: link.headline,
        detail: 'no parts yet',
        to: at('field:tube'),
        rank: 0.3,
        state: 'incomplete',
      })
    for (const fault of unsized ? [] : link.faults)
      found.push({
        ...common,
        title: fault.message,
        detail: 'not complete',
        to: at(`field:${fault.field}`),
        rank: 0.5,
        state: 'incomplete',
      })
    if (link.status === 'incomplete' && link.faults.length === 0 && !unsized)
      found.push({
        ...common,
        title: link.headline,
        detail: 'no load entered',
        to: at('field:cases'),
        rank: 0.4,
        state: 'incomplete',
      })
  }
  return found.sort((a, b) => b.rank - a.rank)
}
