import { Box, Button, Menu, MenuItem, Typography } from '@mui/material'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { FlagIcon, StateMark } from '../../ui'
import { holdsOf } from '../holds'
import { useTravel } from '../travel'
import { useOtherHolds } from '../useOtherHolds'
import { useSessionPart } from '../session'

/** Every failing, close or missing check of the job, worst first; choosing one goes there. */
export function Holds() {
  const evaluation = useSessionPart((state) => state.evaluation)
  const jobId = useSessionPart((state) => state.jobId)
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  const go = useNavigate()
  const { move } = useTravel()
  const others = useOtherHolds()
  const holds = holdsOf(evaluation, others)
  const stops = holds.some((hold) => hold.state === 'stop')
  const label = holds.length === 0 ? 'nothing to settle' : `${holds.length} to settle`
  return (
    <>
      <Button
        size="small"
        color={stops ? 'error' : holds.length ? 'warning' : 'inherit'}
        startIcon={<FlagIcon />}
        disabled={holds.length === 0}
        aria-haspopup="menu"
        onClick={(event) => setAnchor(event.currentTarget)}
      >
        {label}
      </Button>
      <Menu
        open={Boolean(anchor)}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        slotProps={{ paper: { sx: { maxWidth: 480, maxHeight: 480 } } }}
      >
        {holds.map((hold, i) => (
          <MenuItem
            key={i}
            sx={{ whiteSpace: 'normal', gap: 1.5, alignItems: 'baseline' }}
            onClick={() => {
              setAnchor(null)
              if (hold.endId) move({ endId: hold.endId })
              void go(`/jobs/${jobId}/${hold.to}`)
            }}
          >
            <StateMark state={hold.state === 'incomplete' ? 'in hand' : hold.state} />
            <Box>
              <Typography variant="body2">
                <b>{hold.part}</b>: {hold.title}
              </Typography>
              <Typography variant="caption" sx={{ color: 'text.secondary' }}>
                {hold.detail}
              </Typography>
            </Box>
          </MenuItem>
        ))}
      </Menu>
    </>
  )
}
