import { useTheme } from '@mui/material/styles'
import { memo, useId, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import type { Drawing, Primitive } from '../api'

interface Props {
  drawing: Drawing
  /** What is selected: items that show it are drawn in amber. */
  selected?: string[]
  onSelect?: (ref: string) => void
  /** What can be dragged, by what its ref begins with; told where on the sheet it is, y up, and where it was taken hold of. */
  drag?: { from: string; onDrag: (ref: string, at: SheetAt, start: SheetAt) => void; onEnd: () => void }
}
type SheetAt = [x: number, y: number]

const WIDTHS: Record<string, number> = {
  visible: 0.35, thin: 0.18, hidden: 0.18, centre: 0.15, dimension: 0.15, hatch: 0.1, cut: 0.2, mark: 0.15, bend: 0.2,
} // prettier-ignore
const DASHES: Record<string, string> = { hidden: '1.6 0.8', bend: '3 1.2', centre: '4 0.8 0.6 0.8' }
const radians = (degrees: number) => (degrees * Math.PI) / 180

interface Stop {
  name: string
  /** Where in the drawing it is met first. */
  first: number
}
const NO_STOPS = new Map<string, Stop>()

/** What a drawing shows that can be picked, in the order that it is drawn, each by the words that stand at it. */
function stopsOf(drawing: Drawing): Map<string, Stop> {
  const found = new Map<string, Stop>()
  const words = new Map<string, string[]>()
  drawing.items.forEach((item, i) => {
    if (item.ref === null) return
    if (!found.has(item.ref)) found.set(item.ref, { name: '', first: i })
    if (item.kind === 'text') words.set(item.ref, [...(words.get(item.ref) ?? []), item.text])
  })
  for (const [ref, stop] of found) {
    const colon = ref.indexOf(':')
    const named = `${ref.slice(0, colon)}: ${ref.slice(colon + 1).replaceAll('_', ' ')}`
    stop.name = [named, ...(words.get(ref) ?? [])].join(', ')
  }
  return found
}

/**
 * The core's drawing on the screen: the same primitives that are printed and cut, each picked by what it shows. With the keys: arrows go
 * from one thing to the next, Enter picks it.
 */
export const DrawingView = memo(function DrawingView({ drawing, selected = [], onSelect, drag }: Props) {
  const { tirante } = useTheme()
  const marked = useMemo(() => new Set(selected), [selected])
  const id = useId()
  const stops = useMemo(() => (onSelect ? stopsOf(drawing) : NO_STOPS), [drawing, onSelect])
  const [reached, reach] = useState<string | null>(null)
  const at = reached !== null && stops.has(reached) ? reached : null
  const walk = (event: KeyboardEvent) => {
    const refs = [...stops.keys()]
    const now = at === null ? -1 : refs.indexOf(at)
    const to = { ArrowRight: now + 1, ArrowDown: now + 1, ArrowLeft: now - 1, ArrowUp: now - 1, Home: 0, End: -1 }[
      event.key
    ]
    if (to !== undefined && refs.length > 0) reach(refs.at(Math.max(-1, to) % refs.length) ?? null)
    else if (event.key === 'Enter' && at !== null) onSelect?.(at)
    else if (event.key === 'Escape' && at !== null) reach(null)
    else return
    event.preventDefault()
    event.stopPropagation()
  }
  const fill = (name: string, tone: 'ink' | 'muted' | 'blue' | 'amber' | 'red') =>
    name === 'none'
      ? 'none'
      : name === 'solid'
        ? tirante[tone]
        : name === 'blue'
          ? tirante.blue
          : tirante.fills[name as 'steel']
  const h = drawing.height
  const held = useRef<{ ref: string; start: SheetAt } | null>(null)
  const onSheet = (event: PointerEvent<SVGSVGElement>): SheetAt => {
    const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(
      event.currentTarget.getScreenCTM()!.inverse(),
    )
    return [x, h - y]
  }
  const grips = drag && {
    onPointerDown: (event: PointerEvent<SVGSVGElement>) => {
      const ref = (event.target as Element).closest('[data-ref]')?.getAttribute('data-ref')
      if (!ref?.startsWith(drag.from) || event.button !== 0) return
      event.currentTarget.setPointerCapture(event.pointerId)
      held.current = { ref, start: onSheet(event) }
    },
    onPointerMove: (event: PointerEvent<SVGSVGElement>) => {
      if (held.current) drag.onDrag(held.current.ref, onSheet(event), held.current.start)
    },
    onPointerUp: () => {
      if (held.current) drag.onEnd()
      held.current = null
    },
    style: { touchAction: 'none' },
  }

  const draw = (item: Primitive, key: number) => {
    const on = item.ref !== null && (marked.has(item.ref) || item.ref === at)
    const ink = on ? tirante.amber : tirante[item.tone]
    const style = 'style' in item && item.style ? item.style : null
    const pen = style
      ? { stroke: ink, strokeWidth: (WIDTHS[style] ?? 0.3) * (on ? 1.8 : 1), strokeDasharray: DASHES[style] }
      : { stroke: 'none' }
    const stop = item.ref ? stops.get(item.ref) : undefined
    const named = stop?.first === key ? { id: `${id}${key}`, role: 'img', 'aria-label': stop.name } : {}
    const held = item.ref && drag && item.ref.startsWith(drag.from) ? 'grip' : 'pick'
    const pick = item.ref && (onSelect || held === 'grip') ? { 'data-ref': item.ref, className: held, ...named } : {}
    switch (item.kind) {
      case 'line':
        return <line key={key} x1={item.x1} y1={h - item.y1} x2={item.x2} y2={h - item.y2} {...pen} {...pick} />
      case 'arc': {
        const paint = on && item.fill !== 'none' ? tirante.select : fill(item.fill, item.tone)
        if (Math.abs(item.end_deg - item.start_deg) >= 360 - 1e-9)
          return <circle key={key} cx={item.cx} cy={h - item.cy} r={item.r} fill={paint} {...pen} {...pick} />
        const at = (angle: number) =>
          `${item.cx + item.r * Math.cos(radians(angle))} ${h - item.cy - item.r * Math.sin(radians(angle))}`
        const large = (((item.end_deg - item.start_deg) % 360) + 360) % 360 > 180 ? 1 : 0
        const path = `M ${at(item.start_deg)} A ${item.r} ${item.r} 0 ${large} 0 ${at(item.end_deg)}`
        return <path key={key} d={path} fill="none" {...pen} {...pick} />
      }
      case 'area': {
        const paint = on && item.fill !== 'solid' && item.fill !== 'none' ? tirante.select : fill(item.fill, item.tone)
        const points = item.points.map(([x = 0, y = 0]) => `${x},${h - y}`).join(' ')
        return <polygon key={key} points={points} fill={on && item.fill === 'solid' ? ink : paint} {...pen} {...pick} />
      }
      case 'text':
        return (
          <text
            key={key}
            x={item.x}
            y={h - item.y}
            fontSize={item.size}
            textAnchor={item.anchor}
            fill={ink}
            fontFamily={item.mono ? tirante.mono : undefined}
            fontWeight={item.bold ? 700 : undefined}
            transform={item.angle_deg ? `rotate(${-item.angle_deg} ${item.x} ${h - item.y})` : undefined}
            {...pick}
          >
            {item.text}
          </text>
        )
    }
  }

  return (
    <svg
      viewBox={`0 0 ${drawing.width} ${h}`}
      width="100%"
      height="100%"
      preserveAspectRatio="xMidYMin meet"
      role={onSelect ? 'application' : 'img'}
      aria-roledescription="drawing"
      aria-label={`Drawing: ${drawing.title}`}
      tabIndex={onSelect ? 0 : undefined}
      aria-activedescendant={at === null ? undefined : `${id}${stops.get(at)?.first}`}
      onKeyDown={onSelect && walk}
      data-drawing={drawing.name}
      {...grips}
      onClick={(event) => {
        const ref = (event.target as Element).closest('[data-ref]')?.getAttribute('data-ref')
        if (ref && onSelect) onSelect(ref)
      }}
    >
      {drawing.items.map(draw)}
    </svg>
  )
})
