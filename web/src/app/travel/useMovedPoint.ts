import { useQuery } from '@tanstack/react-query'
import { useCallback, useMemo, useRef, useState } from 'react'
import { answer, api, type End, type SuspensionEnd } from '../../api'
import { useEndEdit, useSessionPart } from '../session'

/** What stays when a pick-up is moved: the wheel, parts made anew; or the parts' lengths, the wheel going where they take it. */
export type Keeps = 'wheel' | 'lengths'
type Side = 'points' | 'right_points'

/** What came of the last move: how far the wheel went [mm], by how much camber and toe changed [deg]. */
export interface Moved {
  wheel_mm: number[]
  camber_deg: number
  toe_deg: number
  bases_mm: Record<string, number>
  left_behind: string[]
}

export interface PointMoves {
  keeps: Keeps
  setKeeps: (keeps: Keeps) => void
  why: 'made' | 'issued' | null
  moved: Moved | null
  refused: { of: Side; point: string; message: string } | null
  put: (of: Side, point: string, index: number, mm: number, label: string) => void
  /** Look ahead to what is being typed; it may be taken, or not. */
  foresee: (of: Side, point: string, index: number, mm: number) => void
}

interface Wanted {
  of: Side
  point: string
  index: number
  mm: number
  label: string
}

/** An end with one coordinate of a point put elsewhere, all else as it is. */
const placed = (end: End, of: Side, point: string, index: number, mm: number): End => ({
  ...end,
  [of]: { ...end[of], [point]: (end[of][point] ?? [0, 0, 0]).map((old, i) => (i === index ? mm : old)) },
})

/** Moving points of an end, one after the other, by what is to stay. */
export function usePointMoves(end: SuspensionEnd): PointMoves {
  const { session, editEnd } = useEndEdit(end.id)
  const jobId = useSessionPart((state) => state.jobId)
  const issued = useQuery({
    queryKey: ['revisions', jobId, 'issued'],
    queryFn: () => answer(api.GET('/api/jobs/{job_id}/revisions', { params: { path: { job_id: jobId } } })),
    select: (found) => found.revisions.some((revision) => revision.kind === 'issued'),
    staleTime: 5_000,
  })
  const why = end.made ? 'made' : issued.data ? 'issued' : null
  const [chosen, setChosen] = useState<Keeps | null>(null)
  const [moved, setMoved] = useState<Moved | null>(null)
  const [refused, setRefused] = useState<PointMoves['refused']>(null)
  const keeps = chosen ?? (why ? 'lengths' : 'wheel')
  const waiting = useRef<Wanted[]>([])
  const going = useRef(false)

  const carry = useCallback(async () => {
    if (going.current) return
    going.current = true
    for (let next = waiting.current.shift(); next; next = waiting.current.shift()) {
      const { of, point, index, mm, label } = next
      const { design } = session.state()
      const places = design.ends.find((one) => one.id === end.id)?.end[of][point]
      if (!places) continue
      const [x = 0, y = 0, z = 0] = places.map((old, i) => (i === index ? mm : old))
      try {
        const side = of === 'points' ? 'left' : 'right'
        const body = { design, end_id: end.id, point, side, at: [x, y, z] } as const
        const found = await answer(api.POST('/api/ends/move-point', { body: { ...body, at: [x, y, z] } }))
        const { points, right_points, wheel, links, balls } = found.end.end
        const { camber_deg, toe_deg } = wheel
        editEnd(label, (now) => ({
          ...now,
          points,
          right_points,
          links,
          balls,
          wheel: { ...now.wheel, camber_deg, toe_deg },
        }))
        setMoved(found)
        setRefused(null)
      } catch (error) {
        setMoved(null)
        setRefused({ of, point, message: error instanceof Error ? error.message : String(error) })
      }
    }
    going.current = false
  }, [session, editEnd, end.id])

  const foresee = useCallback(
    (of: Side, point: string, index: number, mm: number) => {
      if (keeps === 'wheel')
        session.foresee((design) => ({
          ...design,
          ends: design.ends.map((one) =>
            one.id === end.id ? { ...one, end: placed(one.end, of, point, index, mm) } : one,
          ),
        }))
    },
    [keeps, session, end.id],
  )
  const put = useCallback(
    (of: Side, point: string, index: number, mm: number, label: string) => {
      if (keeps === 'wheel') {
        setRefused(null)
        editEnd(label, (now) => placed(now, of, point, index, mm))
        return
      }
      // one that is dragged asks again before the last is answered: only where it is now counts
      const wanted = { of, point, index, mm, label }
      const last = waiting.current.at(-1)
      if (last?.of === of && last.point === point && last.index === index) waiting.current.pop()
      waiting.current.push(wanted)
      void carry()
    },
    [keeps, editEnd, carry],
  )
  const setKeeps = useCallback((next: Keeps) => {
    setChosen(next)
    setMoved(null)
    setRefused(null)
  }, [])
  return useMemo(
    () => ({ keeps, setKeeps, why, moved, refused, put, foresee }),
    [keeps, setKeeps, why, moved, refused, put, foresee],
  )
}
