import { Navigate, useParams } from 'react-router'
import { usePartsOf, useSessionPart } from '../../app/session'
import { PartView } from '../parts'
import { MembersOverview } from './MembersOverview'

/** Station 5: all members of the job, or one of them. */
export function MembersStation() {
  const { partId } = useParams()
  const members = usePartsOf('members')
  const jobId = useSessionPart((state) => state.jobId)
  // come from a bracket: to what it holds
  const held = useSessionPart(({ design }) => design.joints.find((one) => one.by === partId)?.held)
  if (partId && members.some((part) => part.id === partId)) return <PartView key={partId} partId={partId} />
  if (held && 'part' in held) return <Navigate to={`/jobs/${jobId}/members/${held.part}`} replace />
  return <MembersOverview />
}
