import type { Evaluation } from '../api'

/** Something to settle: a failing or close check, or something missing. */
export interface Hold {
  linkId: string
  linkName: string
  title: string
  detail: string
  selection: string
  rank: number
  state: 'stop' | 'attention' | 'incomplete'
}

/** Every failing or missing check of the job, worst first. */
export function holdsOf(evaluation: Evaluation | null): Hold[] {
  const found: Hold[] = []
  for (const link of evaluation?.links ?? []) {
    const common = { linkId: link.id, linkName: link.name }
    for (const check of link.checks) {
      if (check.state !== 'stop' && check.state !== 'attention') continue
      found.push({
        ...common,
        title: `${check.name} ${check.utilisation === null ? '' : check.shown}`,
        detail: check.note || check.case || check.part,
        selection: `check:${check.key}`,
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
        selection: 'field:tube',
        rank: 0.3,
        state: 'incomplete',
      })
    for (const fault of unsized ? [] : link.faults)
      found.push({
        ...common,
        title: fault.message,
        detail: 'not complete',
        selection: `field:${fault.field}`,
        rank: 0.5,
        state: 'incomplete',
      })
    if (link.status === 'incomplete' && link.faults.length === 0 && !unsized)
      found.push({
        ...common,
        title: link.headline,
        detail: 'no load entered',
        selection: 'field:cases',
        rank: 0.4,
        state: 'incomplete',
      })
  }
  return found.sort((a, b) => b.rank - a.rank)
}
