import { Box } from '@mui/material'
import { useTheme } from '@mui/material/styles'
import { useEffect, useRef } from 'react'
import type { Scene } from '../api'
import type { Axis, Look } from './look'
import { Stage } from './stage'

interface Props {
  scene: Scene
  travel: number
  points: Record<string, number[]>
  chosen: string | null
  axis: Axis
  look: Look
  onLook: (look: Look) => void
  onAxis: (axis: Axis) => void
  onChoose: (point: string | null) => void
  onPut: (point: string, index: number, mm: number, drag?: number) => void
}

const AXES: Axis[] = ['x', 'y', 'z']
const LOOKS: Record<string, Look> = { f: 'front', s: 'side', t: 'top', r: 'free' }

/** The canvas of the 3D scene: it shows what the core built and tells what a person drags. */
export default function SceneView(props: Props) {
  const { scene, travel, chosen, axis, look } = props
  const { tirante } = useTheme()
  const box = useRef<HTMLDivElement>(null)
  const stage = useRef<Stage>(undefined)
  const latest = useRef(props)
  useEffect(() => {
    latest.current = props
  })

  useEffect(() => {
    const made = new Stage(box.current!, {
      choose: (point) => latest.current.onChoose(point),
      put: (point, mm, drag) => latest.current.onPut(point, AXES.indexOf(latest.current.axis), mm, drag),
      from: (point) => latest.current.points[point]?.[AXES.indexOf(latest.current.axis)] ?? 0,
      turned: () => latest.current.look !== 'free' && latest.current.onLook('free'),
    })
    stage.current = made
    return () => made.end()
  }, [])
  useEffect(() => stage.current?.show(scene, tirante), [scene, tirante])
  useEffect(() => stage.current?.move(travel), [scene, travel, tirante])
  useEffect(() => stage.current?.mark(chosen, axis), [scene, chosen, axis, travel, tirante])
  useEffect(() => stage.current?.look(look), [look])

  const press = (event: React.KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return
    const key = event.key.toLowerCase()
    const names = scene.solids.flatMap((solid) => (solid.kind === 'ball' && solid.point ? [solid.point] : []))
    if (LOOKS[key]) props.onLook(LOOKS[key])
    else if (AXES.includes(key as Axis)) props.onAxis(key as Axis)
    else if (key === 'n' || key === 'p') {
      const at = chosen ? names.indexOf(chosen) : -1
      props.onChoose(names[(at + (key === 'n' ? 1 : -1) + names.length) % names.length] ?? null)
    } else if (chosen && ['arrowup', 'arrowright', 'arrowdown', 'arrowleft'].includes(key)) {
      const step = (key === 'arrowup' || key === 'arrowright' ? 1 : -1) * (event.shiftKey ? 10 : 1)
      const index = AXES.indexOf(axis)
      props.onPut(chosen, index, (props.points[chosen]?.[index] ?? 0) + step)
    } else return
    event.preventDefault()
    event.stopPropagation()
  }
  return (
    <Box
      ref={box}
      tabIndex={0}
      role="application"
      aria-label="Suspension in 3D. N and P choose a joint, X, Y and Z the axis, arrow keys move it, F, S, T and R the view."
      data-chosen={chosen ?? ''}
      onKeyDown={press}
      sx={{ position: 'absolute', inset: 0, touchAction: 'none', '& canvas': { display: 'block' } }}
    />
  )
}
