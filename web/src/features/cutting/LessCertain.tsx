import { Alert, Link } from '@mui/material'
import { Link as RouterLink } from 'react-router'
import { useSessionPart } from '../../app/session'
import { useMeans } from '../../app/surveyMeans'
import { useUnits } from '../../quantity'

/** Parts that are cut after points which the survey knows less surely than anything takes up. */
export function LessCertain() {
  const jobId = useSessionPart((state) => state.jobId)
  const { finely } = useUnits()
  const worst = new Map<string, number>()
  for (const one of useMeans().data?.lengths ?? [])
    if (one.beyond && one.sd !== null) worst.set(one.part, Math.max(one.sd, worst.get(one.part) ?? 0))
  if (worst.size === 0) return null
  return (
    <Alert severity="warning" variant="outlined" sx={{ my: 1 }}>
      Cut after points that the{' '}
      <Link component={RouterLink} to={`/jobs/${jobId}/survey`}>
        survey
      </Link>{' '}
      knows less surely than anything takes up: {[...worst].map(([part, sd]) => `${part} (± ${finely(sd)})`).join(', ')}
      . Measure more before they are cut.
    </Alert>
  )
}
