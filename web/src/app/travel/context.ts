import {
  keepPreviousData,
  queryOptions,
  useQueries,
  useQuery,
  useQueryClient,
  type QueryClient,
} from '@tanstack/react-query'
import { createContext, startTransition, useContext, useEffect, useMemo, useState } from 'react'
import { answer, api, type Design, type EndMotionOut, type SuspensionEnd } from '../../api'
import { useDesign, useSessionPart, useTheSession, type Session } from '../session'

/** Where the suspension stands: which end, and its travel, roll and steer. */
export interface Travel {
  endId: string | null
  travel: number
  roll: number
  steer: number
  playing: boolean
  move: (part: Partial<Pick<Travel, 'endId' | 'travel' | 'roll' | 'steer' | 'playing'>>) => void
}

export const TravelContext = createContext<Travel>({
  endId: null,
  travel: 0,
  roll: 0,
  steer: 0,
  playing: false,
  move: () => undefined,
})

export const useTravel = () => useContext(TravelContext)

/** The end that the strip moves. */
export function useEnd() {
  const { endId } = useTravel()
  return useSessionPart(({ design }) => design.ends.find((end) => end.id === endId) ?? design.ends[0])
}

const names = (design: Design) => JSON.stringify(design.ends.map(({ id, name }) => ({ id, name })))

/** The ends of the car to choose from, by id and name. */
export function useEnds() {
  const text = useSessionPart(({ design }) => names(design))
  return useMemo(() => JSON.parse(text) as { id: string; name: string }[], [text])
}

/** The design with no more than a study asks of it. */
export const studied = (design: Design): Design => ({
  ...design,
  // an anti-roll bar's size is its end's rate
  parts: design.parts.filter((one) => one.kind === 'anti_roll_bar'),
  joints: [],
  catalogue: { tubes: [], grades: [], joints: [], inserts: [], nuts: [], bolts: [], spacers: [] },
})

/** What a study's answer depends on. */
export const studyKey = (design: Design, end: SuspensionEnd | undefined, made?: Partial<Made>) => [
  end,
  studied(design).parts,
  design.car,
  design.settings,
  made,
]

export type Made = { [Key in 'limits' | 'bends' | 'shapes']: EndMotionOut[Key] | null }

/**
 * What the parts of the job make of an end's links, as the core last said: what rod ends and spacers allow, how they are bent, how thick they are. A study is
 * asked without the parts that say it.
 */
export function useMade(endId: string | undefined): Made {
  const text = useSessionPart(({ evaluation }) => {
    const end = evaluation?.ends.find((one) => one.id === endId)
    return JSON.stringify({ limits: end?.limits ?? null, bends: end?.bends ?? null, shapes: end?.shapes ?? null })
  })
  return useMemo(() => JSON.parse(text) as Made, [text])
}

const drawing = (queries: QueryClient) =>
  ['end-drawing', 'scene', 'draw'].some((kind) => queries.isFetching({ queryKey: [kind] }) > 0)

/** That a picture is given to come onto the screen, before what follows it takes the page's time. */
const AFTER_MS = 12
/** Resolves when the browser has put on the screen what the page has drawn so far. */
const painted = () => new Promise((done) => requestAnimationFrame(() => setTimeout(done, AFTER_MS)))

/** Resolves when no view of an end or part is on its way: the picture is what an edit waits for, its measures come after. */
export async function drawnFirst(queries: QueryClient) {
  while (drawing(queries)) await new Promise((done) => setTimeout(done, 8))
  // a page that is not seen paints nothing: then it must not wait for that
  if (document.visibilityState === 'visible') await painted()
}

/**
 * A value as it was until the picture of the newest one is on the screen: what hangs on it (a panel of many fields) is drawn
 * after what an edit waits for. It follows at once where no picture is on its way.
 */
export function useRested<T>(value: T): T {
  const queries = useQueryClient()
  const [rested, setRested] = useState(value)
  useEffect(() => {
    let gone = false
    const ready = drawing(queries) ? drawnFirst(queries) : Promise.resolve()
    void ready.then(() => !gone && startTransition(() => setRested(value)))
    return () => {
      gone = true
    }
  }, [value, queries])
  return rested
}

/** The core's study of an end along its travel, at the strip's roll and steer. */
export function useStudy() {
  const design = useDesign()
  const { roll, steer } = useTravel()
  const end = useEnd()
  const made = useMade(end?.id)
  const queries = useQueryClient()
  return useQuery({
    queryKey: ['study', ...studyKey(design, end, made), roll, steer],
    queryFn: async ({ signal }) => {
      await drawnFirst(queries)
      return answer(
        api.POST('/api/study', {
          body: { design: studied(design), end_id: end!.id, roll_deg: roll, steer, ...made },
          signal,
        }),
      )
    },
    enabled: end !== undefined,
    placeholderData: keepPreviousData,
  })
}

/** The kinds of suspension, and what can be added to them. */
export function useTemplates() {
  return useQuery({ queryKey: ['templates'], queryFn: () => answer(api.GET('/api/templates')), staleTime: Infinity })
}

/** What an end's points, bodies and links are, its additions counted. */
export function useKind(end: SuspensionEnd | undefined) {
  const session = useTheSession()
  const found = useQuery({
    ...kindOptions(session, end),
    enabled: end !== undefined,
    placeholderData: keepPreviousData,
  })
  return found.data?.template
}

/** The same of several ends. */
export function useKindsOf(ends: SuspensionEnd[]) {
  const session = useTheSession()
  return useQueries({ queries: ends.map((end) => kindOptions(session, end)) }).map((found) => found.data?.template)
}

const kindOptions = (session: Session, end: SuspensionEnd | undefined) =>
  queryOptions({
    queryKey: ['kind', end?.end.template, end?.end.kind, end?.end.additions],
    queryFn: ({ signal }) =>
      answer(
        api.POST('/api/ends/kind', { body: { design: studied(session.state().design), end_id: end!.id }, signal }),
      ),
    staleTime: Infinity,
  })

/** How far an end is steered each way, and in which unit: of its rack, or of its steering arm. */
export const steering = (end: SuspensionEnd): { most: number; unit: '°' | 'mm' } =>
  end.end.steering ? { most: end.box.steer_deg, unit: '°' } : { most: end.box.steer_mm, unit: 'mm' }
