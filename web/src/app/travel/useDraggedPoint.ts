import { useCallback, useRef } from 'react'
import type { EndDrawOut, SuspensionEnd } from '../../api'
import type { PointMoves } from './useMovedPoint'

type At = [x: number, y: number]
type View = EndDrawOut['views'][number]

let drags = 0

/** A point of the end that is dragged in one of its three views: along that view's two axes, to half a millimetre. */
export function useDraggedPoint(end: SuspensionEnd, views: View[], put: PointMoves['put']) {
  const held = useRef<{ view: View; point: string; at: number[]; drag: number } | null>(null)
  const onDrag = useCallback(
    (ref: string, [x, y]: At, [x0, y0]: At) => {
      if (!held.current) {
        const view = views.find(({ box: [left = 0, low = 0, w = 0, h = 0] }) => {
          return x0 >= left && x0 <= left + w && y0 >= low && y0 <= low + h
        })
        const point = ref.slice('point:'.length)
        const at = end.end.points[point]
        if (!view || !at) return
        held.current = { view, point, at: [...at], drag: ++drags }
      }
      const { view, point, at, drag } = held.current
      const moved: [number, number][] = [
        [view.across, (x - x0) / (view.scale * view.flip)],
        [view.up, (y - y0) / view.scale],
      ]
      for (const [axis, by] of moved) {
        const mm = Math.round(((at[axis] ?? 0) + by) * 2) / 2
        put('points', point, axis, mm, `drag ${point} in drag ${drag}`)
      }
    },
    [end, views, put],
  )
  const onEnd = useCallback(() => {
    held.current = null
  }, [])
  return { from: 'point:', onDrag, onEnd }
}
