import { Navigate } from 'react-router'
import { useSessionPart } from './session'

/** Where a job opens: at its members, or where its first step is while there is nothing of it. */
export function FirstStation() {
  const begun = useSessionPart(({ design }) => design.parts.length > 0 || design.ends.length > 0)
  return <Navigate to={begun ? 'members' : 'layout'} replace />
}
