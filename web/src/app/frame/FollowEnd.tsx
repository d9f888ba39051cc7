import { useEffect } from 'react'
import { useParams } from 'react-router'
import { useSessionPart } from '../session'
import { useTravel } from '../travel'

/** The strip moves the end that the part on the sheet belongs to; of a bracket, that of what it holds. */
export function FollowEnd() {
  const { partId } = useParams()
  const { move } = useTravel()
  const endId = useSessionPart(({ design, evaluation }) => {
    const of = (id: string | undefined) => evaluation?.parts.find((one) => one.id === id)?.of_end ?? null
    const held = design.joints.find((one) => one.by === partId)?.held
    return of(partId) ?? (held ? ('part' in held ? of(held.part) : held.end_id) : null)
  })
  useEffect(() => {
    if (partId && endId) move({ endId })
  }, [partId, endId, move])
  return null
}
