import { useMediaQuery } from '@mui/material'
import { Suspense, lazy } from 'react'
import { Busy } from '../ui'

// each is fetched where it is wanted: a phone beside the saw has no use for the stations
const BenchView = lazy(async () => ({ default: (await import('../features/bench')).BenchView }))
const Draft = lazy(async () => ({ default: (await import('./Draft')).Draft }))

/** A job: the stations in their frame; on a narrow screen the part cards alone. */
export function JobPage() {
  const narrow = useMediaQuery('(max-width: 700px)', { noSsr: true })
  return <Suspense fallback={<Busy what="Opening the job" />}>{narrow ? <BenchView /> : <Draft />}</Suspense>
}
