import { useEffect, useState } from 'react'

const SOON_MS = 2000

/**
 * A figure as it was just taken, until it comes back as the value: a page that draws what is more urgent first must not show
 * the figure before, for a moment, in the field that was left. What is never taken up is let go after a while.
 */
export function useKept(value: number | undefined): [number | undefined, (taken: number) => void] {
  const [kept, setKept] = useState<{ taken: number; before: number | undefined } | null>(null)
  if (kept && kept.before !== value) setKept(null)
  useEffect(() => {
    if (!kept) return undefined
    const timer = window.setTimeout(() => setKept(null), SOON_MS)
    return () => window.clearTimeout(timer)
  }, [kept])
  return [kept?.taken ?? value, (taken) => setKept(taken === value ? null : { taken, before: value })]
}
