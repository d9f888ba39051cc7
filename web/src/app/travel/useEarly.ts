import { useEffect, useRef } from 'react'
import type { Design } from '../../api'
import { useTheSession } from '../session'

/**
 * Ask the server as soon as the design changes, before the page has drawn its own fields anew, and already while a figure is being
 * typed: what is drawn follows an edit sooner.
 */
export function useEarly(ask: (design: Design) => void, enabled = true) {
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
      if (design.ends === before.ends && design.car === before.car) return
      before = design
      latest.current(design)
    })
    const rest = session.onForeseen((design) => latest.current(design))
    return () => {
      leave()
      rest()
    }
  }, [session, enabled])
}
