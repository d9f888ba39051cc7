import type { AnyPart, Design, HeldJoint } from '../../api'

export type Place = HeldJoint['held']

/** The ends of a part that a bracket can hold. */
export function placesOf(part: AnyPart): Place[] {
  if (part.kind === 'link')
    return (['a', 'b'] as const)
      .filter((end) => part[`end_${end}`].kind === 'rod_end')
      .map((end) => ({ kind: 'link_end', part: part.id, end }))
  if (part.kind === 'arm' && part.pivots === 'rod ends')
    return (['front', 'rear'] as const).map((pivot) => ({ kind: 'arm_pivot', part: part.id, pivot }))
  return []
}

/** One key a place. */
export const heldAt = (place: Place): string =>
  place.kind === 'link_end'
    ? `${place.part}:${place.end}`
    : place.kind === 'arm_pivot'
      ? `${place.part}:${place.pivot}`
      : JSON.stringify(place)

/** Whether two are one. */
export const samePlace = (one: Place, other: Place) => heldAt(one) === heldAt(other)

/** It in words. */
export function sayPlace(design: Design, place: Place): string {
  if (place.kind === 'point') return `${place.body.replaceAll('_', ' ')}, ${place.point.replaceAll('_', ' ')}`
  const name = design.parts.find((part) => part.id === place.part)?.name ?? 'a part that is gone'
  return place.kind === 'link_end' ? `${name}, end ${place.end.toUpperCase()}` : `${name}, ${place.pivot} pivot`
}
