import { useMemo } from 'react'
import type { Evaluation, HeldJoint } from '../../api'
import { useDesign, useSessionPart } from '../../app/session'

export type Place = Evaluation['places'][number]
export type Held = HeldJoint['held']

/** One key a place. */
export const heldAt = (held: Held): string =>
  held.kind === 'link_end'
    ? `${held.part}:${held.end}`
    : held.kind === 'arm_pivot'
      ? `${held.part}:${held.pivot}`
      : `${held.end_id}:${held.body}:${held.point}`

/** Whether two are one. */
export const samePlace = (one: Held, other: Held) => heldAt(one) === heldAt(other)

/** Every place that a bracket may hold, as last worked out, with what holds it as the design now says. */
export function usePlaces(): Place[] {
  const places = useSessionPart((state) => state.evaluation?.places)
  const { joints } = useDesign()
  return useMemo(() => {
    const by = new Map(joints.map((joint) => [heldAt(joint.held), joint.by]))
    return (places ?? []).map((place) => ({ ...place, by: by.get(heldAt(place.held)) ?? null }))
  }, [places, joints])
}

/** A place in words. */
export const sayPlace = (places: Place[], held: Held): string => {
  const place = places.find((one) => samePlace(one.held, held))
  return place ? `${place.of}, ${place.name}` : 'something that is gone'
}
