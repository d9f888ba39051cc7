import type { EndKind, SuspensionEnd } from '../../api'
import { plain, withValue, type Taken } from '../../fields'

/** What an end's forms leave to it: its bodies, and its parts as the core calls them. */
export function choicesOf(kind: EndKind, end: SuspensionEnd['end']): Taken {
  const bodies = kind.bodies.filter((body) => body !== 'ground').map((body) => body.replaceAll('_', ' '))
  const parts = [
    ...kind.links,
    ...bodies,
    ...(end.damper ? ['damper'] : []),
    ...Object.keys(end.other_dampers),
    ...Object.keys(end.shafts),
  ]
  return {
    bodies: kind.bodies.map((value) => ({ value, label: plain(value) })),
    links: kind.links.map((value) => ({ value, label: value })),
    parts: parts.map((value) => ({ value, label: value })),
  }
}

/** The end with something between two new places: the first over the wheel on the chassis, the second on the wheel's side. */
export function withPlaces(
  now: SuspensionEnd['end'],
  path: string,
  places: Record<string, string>,
  kind: EndKind,
  more: Record<string, unknown>,
): SuspensionEnd['end'] {
  const [x = 0, y = 0, z = 0] = now.points.wheel_centre ?? []
  const points = { ...now.points }
  const bodies = ['ground', kind.bodies.find((body) => body !== 'ground') ?? 'ground']
  const made: Record<string, unknown> = { ...more }
  Object.entries(places).forEach(([name, point], i) => {
    points[point] ??= [x, Math.max(1, y - 160), i === 0 ? z + 250 : z]
    made[name] = { body: bodies[i], point }
  })
  return withValue({ ...now, points }, path, made)
}

/** The end without the points that neither its kind nor anything it still carries asks for. */
export function pruned(end: SuspensionEnd['end'], kind: EndKind): SuspensionEnd['end'] {
  const places = [
    end.damper?.a, end.damper?.b, end.strap?.a, end.strap?.b, end.bump_stop?.tip, end.bump_stop?.pad,
    ...Object.values(end.other_dampers).flatMap((unit) => [unit.a, unit.b]),
    ...Object.values(end.shafts).flatMap((shaft) => [shaft.inner, shaft.outer]),
  ] // prettier-ignore
  const used = new Set([
    ...kind.points.map((point) => point.name),
    ...places.flatMap((place) => (place ? [place.point] : [])),
    ...(end.steering ? [end.steering.pivot] : []),
  ])
  const kept = (points: Record<string, number[]>) =>
    Object.fromEntries(Object.entries(points).filter(([name]) => used.has(name)))
  return { ...end, points: kept(end.points), right_points: kept(end.right_points) }
}
