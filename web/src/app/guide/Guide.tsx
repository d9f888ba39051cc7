import { Box, Button, Typography } from '@mui/material'
import { useEffect } from 'react'
import { useLocation, useNavigate, useParams } from 'react-router'
import { useChanges } from '../../features/history'
import { useSessionPart } from '../session'
import { STATIONS } from '../stations'
import type { Progress } from './progress'
import { STEPS, type Seen } from './steps'

const BAR = {
  display: 'flex',
  alignItems: 'center',
  gap: 1.5,
  px: 2,
  py: 0.75,
  borderBottom: 1,
  borderColor: 'divider',
  bgcolor: 'background.paper',
} as const

/** A first job, step by step on the real stations; left and gone on with at any time. */
export function Guide({ progress, onProgress }: { progress: Progress; onProgress: (next: Progress) => void }) {
  const empty = useSessionPart(({ design }) => design.ends.length === 0 && design.parts.length === 0)
  if (progress.state === 'led') return <Led progress={progress} onProgress={onProgress} />
  if (progress.state === 'left' || !empty) return null
  return (
    <Box component="aside" aria-label="A first job" sx={BAR}>
      <Typography variant="body2" sx={{ flex: 1 }}>
        The first time here? {STEPS.length} steps lead from here to the cut list, on the stations themselves.
      </Typography>
      <Button size="small" variant="contained" onClick={() => onProgress({ at: 0, state: 'led' })}>
        Lead me
      </Button>
      <Button size="small" onClick={() => onProgress({ at: 0, state: 'left' })}>
        Not now
      </Button>
    </Box>
  )
}

function Led({ progress, onProgress }: { progress: Progress; onProgress: (next: Progress) => void }) {
  const design = useSessionPart((state) => state.design)
  const evaluation = useSessionPart((state) => state.evaluation)
  const jobId = useSessionPart((state) => state.jobId)
  const { partId } = useParams()
  const station = useLocation().pathname.split('/')[3] ?? ''
  const go = useNavigate()
  const issued = Boolean(useChanges().data?.since)
  const seen: Seen = { design, evaluation, station, partId, issued }
  // what is done already is passed over
  const next = STEPS.findIndex((step, i) => i >= progress.at && !step.done?.(seen))
  const at = next < 0 ? STEPS.length : next
  // kept, so that a step that was done by looking stays done
  useEffect(() => {
    if (at > progress.at) onProgress({ at, state: 'led' })
  }, [at, progress.at, onProgress])
  const leave = () => onProgress({ at, state: 'left' })
  if (at >= STEPS.length)
    return (
      <Box component="aside" aria-label="A first job" sx={BAR}>
        <Typography variant="body2" role="status" sx={{ flex: 1 }}>
          <b>That was all of it.</b> The cards are on a phone at this same address; the build log will keep what was
          measured.
        </Typography>
        <Button size="small" onClick={() => onProgress({ at: 0, state: 'left' })}>
          Close
        </Button>
      </Box>
    )
  const step = STEPS[at]!
  const where = STATIONS.find((one) => one.path === step.station)
  return (
    <Box component="aside" aria-label="A first job" sx={BAR}>
      <Typography variant="caption" sx={{ color: 'text.secondary', whiteSpace: 'nowrap' }}>
        {at + 1} of {STEPS.length}
      </Typography>
      <Typography variant="body2" role="status" sx={{ flex: 1, minWidth: 0 }}>
        <b>{step.title}.</b> {step.how}
      </Typography>
      {station !== step.station && (
        <Button
          size="small"
          variant="contained"
          onClick={() => void go(`/jobs/${jobId}/${step.station}`)}
          sx={{ whiteSpace: 'nowrap' }}
        >
          To {where?.name}
        </Button>
      )}
      <Button size="small" onClick={() => onProgress({ at: at + 1, state: 'led' })}>
        Next
      </Button>
      <Button size="small" color="inherit" onClick={leave} sx={{ whiteSpace: 'nowrap' }}>
        Leave it
      </Button>
    </Box>
  )
}
