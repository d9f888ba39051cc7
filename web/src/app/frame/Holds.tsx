import { Box, Button, Menu, MenuItem, Typography } from '@mui/material'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { FlagIcon, StateMark } from '../../ui'
import { placeOf } from '../holds'
import { useTravel } from '../travel'
import { useSessionPart } from '../session'
import { Told } from '../../quantity'

/** Every failing, close or missing check of the job, worst first; choosing one goes there. */
export function Holds() {
  const worked = useSessionPart((state) => state.evaluation?.holds)
  const holds = worked ?? []
  const jobId = useSessionPart((state) => state.jobId)
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  const go = useNavigate()
  const { move } = useTravel()
  const stops = holds.some((hold) => hold.state === 'stop')
  // until it is worked out nobody knows whether there is anything
  const label = !worked ? 'working it out' : holds.length === 0 ? 'nothing to settle' : `${holds.length} to settle`
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
              if (['loads', 'layout', 'cycle'].includes(hold.station)) move({ endId: hold.id })
              void go(`/jobs/${jobId}/${placeOf(hold)}`)
            }}
          >
            <StateMark state={hold.state === 'incomplete' ? 'in hand' : hold.state} />
            <Box>
              <Typography variant="body2">
                <b>{hold.part}</b>: <Told>{hold.what}</Told>
              </Typography>
              <Typography variant="caption" sx={{ color: 'text.secondary' }}>
                <Told>{hold.detail}</Told>
              </Typography>
            </Box>
          </MenuItem>
        ))}
      </Menu>
    </>
  )
}
