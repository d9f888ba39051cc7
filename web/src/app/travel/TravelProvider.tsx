import { useEffect, useMemo, useState, type ReactNode } from 'react'
import { useSession } from '../session'
import { TravelContext, type Travel } from './context'

const FRAME_MS = 60

/** Keeps where the suspension stands while the stations change; plays it up and down. */
export function TravelProvider({ children }: { children: ReactNode }) {
  const { design } = useSession()
  const [state, setState] = useState<Omit<Travel, 'move'>>({
    endId: null,
    travel: 0,
    roll: 0,
    steer: 0,
    playing: false,
  })
  const end = design.ends.find((one) => one.id === state.endId) ?? design.ends[0]
  const bump = end?.box.bump_mm ?? 0
  const droop = end?.box.droop_mm ?? 0
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
  const value = useMemo<Travel>(
    () => ({
      ...state,
      move: (part) =>
        setState((now) => {
          const other = part.endId !== undefined && part.endId !== now.endId
          return other ? { ...now, travel: 0, roll: 0, steer: 0, playing: false, ...part } : { ...now, ...part }
        }),
    }),
    [state],
  )
  return <TravelContext value={value}>{children}</TravelContext>
}
