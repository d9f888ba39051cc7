import { useEffect, useRef } from 'react'
import type { Design } from '../../api'
import { useTheSession } from '../session'

const MOVES = (design: Design): unknown[] => [design.ends, design.car]

/**
 * Ask the server as soon as the design changes, before the page has drawn its own fields anew, and already while a figure is being
 * typed: what is drawn follows an edit sooner. `of` is what of the design it hangs on.
 */
export function useEarly(ask: (design: Design) => void, enabled = true, of = MOVES) {
  const session = useTheSession()
  const latest = useRef(ask)
  useEffect(() => {
    latest.current = ask
  })
  useEffect(() => {
    if (!enabled) return undefined
    let before = session.state().design
    const leave = session.subscribe(() => {
      const { design } = session.state()
      const was = of(before)
      before = design
      if (of(design).every((one, i) => one === was[i])) return
      latest.current(design)
    })
    const rest = session.onForeseen((design) => latest.current(design))
    return () => {
      leave()
      rest()
    }
  }, [session, enabled, of])
}
