import { createContext, useContext, useMemo, useSyncExternalStore } from 'react'
import type { Car, Design, End, Link, LinkOut, SuspensionEnd } from '../../api'
import type { Session, SessionState } from './session'

export const SessionContext = createContext<Session | null>(null)

/** The job's session itself: how to edit, undo and save. It never changes while the job is open. */
export function useTheSession(): Session {
  const session = useContext(SessionContext)
  if (!session) throw new Error('outside a job')
  return session
}

/** One part of the session's state: what uses it is drawn again only when that part changes. */
export function useSessionPart<T>(select: (state: SessionState) => T): T {
  const session = useTheSession()
  return useSyncExternalStore(session.subscribe, () => select(session.state()))
}

/** The design as it is being edited. */
export const useDesign = () => useSessionPart((state) => state.design)

/** A link with its results, and how to edit it. */
export function useLink(linkId: string | undefined) {
  const session = useTheSession()
  const design = useDesign()
  const evaluation = useSessionPart((state) => state.evaluation)
  const save = useSessionPart((state) => state.save)
  const index = design.links.findIndex((link) => link.id === linkId)
  const link: Link | undefined = design.links[index]
  const result: LinkOut | undefined = evaluation?.links.find((one) => one.id === linkId)
  const edit = (label: string, change: (link: Link) => Link) =>
    session.edit(`${linkId}:${label}`, (now) => replaceLink(now, linkId, change))
  const problems = refusedUnder(save, `links.${index}.`)
  for (const fault of result?.faults ?? []) if (!problems.has(fault.field)) problems.set(fault.field, fault.message)
  return { session, design, link, result, edit, problems }
}

function replaceLink(design: Design, linkId: string | undefined, change: (link: Link) => Link): Design {
  const links = design.links.map((link) => (link.id === linkId ? change(link) : link))
  return { ...design, links }
}

/** What the last save was refused for, of the fields under a place of the design. */
function refusedUnder(save: ReturnType<Session['state']>['save'], place: string): Map<string, string> {
  const found = new Map<string, string>()
  if (save.kind === 'refused')
    for (const issue of save.problem.issues) {
      const path = issue.path.replace(/^design\./, '')
      if (path.startsWith(place)) found.set(path.slice(place.length), issue.message)
    }
  return found
}

/** How to edit a suspension end and the car it stands in, and what a save was refused for. */
export function useEndEdit(endId: string) {
  const session = useTheSession()
  const car = useSessionPart((state) => state.design.car)
  const index = useSessionPart((state) => state.design.ends.findIndex((end) => end.id === endId))
  const refused = useSessionPart((state) => (state.save.kind === 'refused' ? state.save : null))
  // the same functions from one drawing to the next, so that rows that did not change need not be drawn again
  const { edit, editEnd } = useMemo(() => {
    const edit = (label: string, change: (now: SuspensionEnd) => SuspensionEnd) =>
      session.edit(`${endId}:${label}`, (now) => ({
        ...now,
        ends: now.ends.map((end) => (end.id === endId ? change(end) : end)),
      }))
    const editEnd = (label: string, change: (now: End) => End) =>
      edit(label, (now) => ({ ...now, end: change(now.end) }))
    return { edit, editEnd }
  }, [session, endId])
  const editCar = (part: Partial<Car>) =>
    session.edit(`car ${Object.keys(part).join()}`, (now) => ({ ...now, car: { ...now.car, ...part } }))
  const problems = new Map<string, string>()
  if (refused)
    for (const place of [`ends.${index}.end.`, `ends.${index}.`, 'car.'])
      for (const [path, message] of refusedUnder(refused, place))
        problems.set(place === 'car.' ? `car.${path}` : path, message)
  return { session, car, edit, editEnd, editCar, problems }
}
