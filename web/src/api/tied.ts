import type { AnyPart, Design, Patch } from './types'

/** The suspension end whose points a part follows. */
const endOf = (part: AnyPart): string | null =>
  'end_id' in part ? part.end_id : 'between' in part && part.between.kind === 'end' ? part.between.end_id : null

/** What is held at a joint, by the id of its part. */
const heldPart = (joint: Design['joints'][number]) => ('part' in joint.held ? joint.held.part : null)

/** The joints of a part: where it is held, or what it holds. */
export const jointsOf = (design: Design, partId: string) =>
  design.joints.filter((joint) => joint.by === partId || heldPart(joint) === partId)

/** What the figures of some parts depend on, for keys of what is asked of the server: themselves, what they hold, their ends. */
export function dependsOn(design: Design, ids: string[]): unknown[] {
  const joints = ids.flatMap((id) => jointsOf(design, id))
  const known = new Set([...ids, ...joints.map(heldPart)])
  const parts = design.parts.filter((part) => known.has(part.id))
  const eyes = joints.flatMap(({ held }) => ('end_id' in held ? [held.end_id] : []))
  const ends = new Set([...parts.map(endOf), ...eyes])
  return [
    parts,
    joints,
    design.mounts.filter((mount) => joints.some((joint) => joint.mount === mount.id)),
    design.settings,
    design.catalogue,
    design.ends.filter((end) => ends.has(end.id)).map(({ id, end, box }) => [id, end, box]),
    ends.size > 1 || !ends.has(null) ? [design.car, design.loads] : null,
  ]
}

const over = <T>(old: T[], next: T[], key: (one: T) => string): T[] => [
  ...new Map([...old, ...next].map((one) => [key(one), one])).values(),
]

/** The design with an answer of the server put in: its parts, joints and rows in the place of those with their ids, or added. */
export function withPatch(design: Design, patch: Pick<Patch, 'parts' | 'joints' | 'rows'>): Design {
  const catalogue = { ...design.catalogue }
  for (const table of Object.keys(patch.rows) as (keyof typeof catalogue)[])
    (catalogue[table] as { key: string }[]) = over<{ key: string }>(
      catalogue[table],
      patch.rows[table],
      (row) => row.key,
    )
  return {
    ...design,
    parts: over(design.parts, patch.parts, (part) => part.id),
    joints: over(design.joints, patch.joints, (joint) => joint.id),
    catalogue,
  }
}

/** The design without a part, and without the joints at which it was held or held another. */
export const withoutPart = (design: Design, partId: string): Design => ({
  ...design,
  parts: design.parts.filter((part) => part.id !== partId),
  joints: design.joints.filter((joint) => joint.by !== partId && heldPart(joint) !== partId),
})
