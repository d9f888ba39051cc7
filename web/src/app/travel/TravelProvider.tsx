import { useCallback, useEffect, useMemo, useState, type ReactNode } from 'react'
import { useSessionPart } from '../session'
import { TravelContext, type Travel } from './context'

const FRAME_MS = 60

/** Keeps where the suspension stands while the stations change; plays it up and down. */
export function TravelProvider({ children }: { children: ReactNode }) {
  const [state, setState] = useState<Omit<Travel, 'move'>>({
    endId: null,
    travel: 0,
    roll: 0,
    steer: 0,
    playing: false,
  })
  const box = useSessionPart(({ design }) => (design.ends.find((one) => one.id === state.endId) ?? design.ends[0])?.box)
  const bump = box?.bump_mm ?? 0
  const droop = box?.droop_mm ?? 0
  useEffect(() => {
    if (!state.playing) return
    let up = true
    const timer = window.setInterval(() => {
      setState((now) => {
        const step = (bump + droop) / 40
        let travel = now.travel + (up ? step : -step)
        if (travel >= bump) up = false
        if (travel <= -droop) up = true
        travel = Math.min(bump, Math.max(-droop, travel))
        return { ...now, travel: Math.round(travel * 10) / 10 }
      })
    }, FRAME_MS)
    return () => window.clearInterval(timer)
  }, [state.playing, bump, droop])
  const move = useCallback<Travel['move']>(
    (part) =>
      setState((now) => {
        const other = part.endId !== undefined && part.endId !== now.endId
        return other ? { ...now, travel: 0, roll: 0, steer: 0, playing: false, ...part } : { ...now, ...part }
      }),
    [],
  )
  const value = useMemo<Travel>(() => ({ ...state, move }), [state, move])
  return <TravelContext value={value}>{children}</TravelContext>
}
