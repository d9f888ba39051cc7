import { createContext, useContext, useMemo, useSyncExternalStore } from 'react'
import { useQuery } from '@tanstack/react-query'
import {
  answer,
  api,
  type AnyPart,
  type Car,
  type End,
  type KindOut,
  type Mount,
  type PartOut,
  type SuspensionEnd,
} from '../../api'
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

/** A part with its results, and how to edit it. */
export function usePart(partId: string | undefined) {
  const session = useTheSession()
  const design = useDesign()
  const evaluation = useSessionPart((state) => state.evaluation)
  const save = useSessionPart((state) => state.save)
  const index = design.parts.findIndex((part) => part.id === partId)
  const part: AnyPart | undefined = design.parts[index]
  const result: PartOut | undefined = evaluation?.parts.find((one) => one.id === partId)
  const edit = (label: string, change: (part: AnyPart) => AnyPart) =>
    session.edit(`${partId}:${label}`, (now) => ({
      ...now,
      parts: now.parts.map((one) => (one.id === partId ? change(one) : one)),
    }))
  const problems = refusedUnder(save, `parts.${index}.`)
  for (const fault of result?.faults ?? []) if (!problems.has(fault.field)) problems.set(fault.field, fault.message)
  // the part as it would be by a figure that is still being typed: its drawing is asked for ahead
  const foresee = (change: (part: AnyPart) => AnyPart) =>
    session.foresee((now) => ({ ...now, parts: now.parts.map((one) => (one.id === partId ? change(one) : one)) }))
  return { session, design, part, result, edit, foresee, problems }
}

/** The kinds of part, what may be set of each, and the station that it stands at. */
export function useKinds() {
  return useQuery({ queryKey: ['kinds'], queryFn: () => answer(api.GET('/api/kinds')), staleTime: Infinity }).data
    ?.kinds
}

/** The design's parts that stand at a station, in the job's order. */
export function usePartsOf(station: KindOut['station']) {
  const parts = useSessionPart((state) => state.design.parts)
  const kinds = useKinds()
  return useMemo(() => {
    const here = new Set(kinds?.filter((kind) => kind.station === station).map((kind) => kind.key))
    return parts.filter((part) => here.has(part.kind))
  }, [parts, kinds, station])
}

/** A member of the car that brackets stand on, and how to edit it. */
export function useMount(mountId: string) {
  const session = useTheSession()
  const mounts = useSessionPart((state) => state.design.mounts)
  const save = useSessionPart((state) => state.save)
  const index = mounts.findIndex((one) => one.id === mountId)
  const edit = (label: string, change: (now: Mount) => Mount) =>
    session.edit(`${mountId}:${label}`, (now) => ({
      ...now,
      mounts: now.mounts.map((one) => (one.id === mountId ? change(one) : one)),
    }))
  return { mount: mounts[index], edit, problems: refusedUnder(save, `mounts.${index}.`) }
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
