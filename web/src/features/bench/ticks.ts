import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { ApiProblem, answer, api, newId, type BenchPartOut, type TickIn } from '../../api'
import { NOTHING_TOLD } from '../../app/told'

const AGAIN = 4000 // ms between tries while the server is away

const keyOf = (jobId: string) => `tirante:ticks:${jobId}`

function waiting(jobId: string): TickIn[] {
  try {
    return JSON.parse(localStorage.getItem(keyOf(jobId)) ?? '[]') as TickIn[]
  } catch {
    return []
  }
}

function keep(jobId: string, ticks: TickIn[]) {
  try {
    if (ticks.length) localStorage.setItem(keyOf(jobId), JSON.stringify(ticks))
    else localStorage.removeItem(keyOf(jobId))
  } catch {
    /* a full or forbidden storage: they are sent while the page stands */
  }
}

/**
 * Ticks of a job's steps: those that the server has, and over them those that wait for it. A tick is kept in the page first and then
 * sent; while the server is away it waits, over a reload too, and is sent when it is back.
 */
export function useTicks(jobId: string, number: number | null) {
  const queries = useQueryClient()
  const [queue, setQueue] = useState(() => waiting(jobId))
  const [fault, setFault] = useState<unknown>(null)
  const [shut, setShut] = useState<string[]>([]) // why some were not kept
  const sending = useRef(false)
  const refused = fault instanceof ApiProblem && !fault.passing ? fault : null
  useEffect(() => {
    const some = queue.slice(0, 500)
    if (some.length === 0 || refused) return
    const go = async () => {
      if (sending.current) return
      sending.current = true
      try {
        const kept = await answer(
          api.POST('/api/jobs/{job_id}/ticks', { params: { path: { job_id: jobId } }, body: { ticks: some } }),
        )
        if (kept.refused.length) setShut(kept.refused.map((one) => one.why))
        // what the server says is fetched before its ticks go from here, so that none seems to be undone meanwhile
        await queries.refetchQueries({ queryKey: ['bench', jobId] })
        const ids = new Set(some.map((one) => one.id))
        setQueue((now) => {
          const left = now.filter((one) => !ids.has(one.id))
          keep(jobId, left)
          return left
        })
        setFault(null)
      } catch (error) {
        setFault(error) // anew each time, so that it is tried again
      } finally {
        sending.current = false
      }
    }
    const timer = setTimeout(() => void go(), fault ? AGAIN : 0)
    const back = () => void go()
    window.addEventListener('online', back)
    return () => {
      clearTimeout(timer)
      window.removeEventListener('online', back)
    }
  }, [queue, fault, refused, jobId, queries])
  const done = (part: BenchPartOut, step: string, hand: string): boolean => {
    const mine = queue.filter(
      (one) => one.part_id === part.id && one.step === step && one.hand === hand && one.metal === part.metal,
    )
    const last = mine.at(-1)
    return last ? last.done : part.ticks.some((one) => one.step === step && one.hand === hand && one.done)
  }
  /** Every step and hand of a part that was ticked, here or there. */
  const ever = (part: BenchPartOut): [string, string][] => {
    const mine = queue.filter((one) => one.part_id === part.id && one.metal === part.metal)
    const keys = new Set([...part.ticks, ...mine].map((one) => `${one.step} ${one.hand}`))
    return [...keys].map((key) => key.split(' ') as [string, string])
  }
  const tick = (part: BenchPartOut, step: string, hand: string, to: boolean) => {
    const one: TickIn = {
      ...{ id: newId(), number, part_id: part.id, hand: hand as TickIn['hand'], step, metal: part.metal, done: to },
      ...{ at_ms: Date.now(), told: NOTHING_TOLD },
    }
    setQueue((now) => {
      const next = [...now, one]
      keep(jobId, next)
      return next
    })
  }
  return {
    done,
    ever,
    tick,
    waiting: queue.length,
    refused,
    again: () => setFault(null),
    shut: [...new Set(shut)],
    seen: () => setShut([]),
  }
}

export type Ticks = ReturnType<typeof useTicks>

/** How many of a part's steps are done, every hand counted. */
export const stepsDone = (part: BenchPartOut, ticks: Ticks) =>
  ticks.ever(part).filter(([step, hand]) => ticks.done(part, step, hand)).length

/** What of a part is ticked by itself: the left one and the right one of a pair. */
export const handsOf = (part: BenchPartOut) => (part.side === 'pair' ? ['left', 'right'] : [''])
