import { useCallback, useState } from 'react'

/** How far somebody is with the steps at a job: not asked yet, led, or left (to be gone on with). */
export interface Progress {
  at: number
  state: 'offered' | 'led' | 'left'
}

const KEY = 'tirante:first-job'
const NEW: Progress = { at: 0, state: 'offered' }

function readAll(): Record<string, Progress> {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? '{}') as Record<string, Progress>
  } catch {
    return {} // a forbidden storage: the steps begin anew with the page
  }
}

/** Kept in the browser, a job at a time. */
export function useProgress(jobId: string): [Progress, (next: Progress) => void] {
  const [progress, setProgress] = useState(() => readAll()[jobId] ?? NEW)
  const put = useCallback(
    (next: Progress) => {
      setProgress(next)
      try {
        localStorage.setItem(KEY, JSON.stringify({ ...readAll(), [jobId]: next }))
      } catch {
        // as above
      }
    },
    [jobId],
  )
  return [progress, put]
}
