import { Box, IconButton, Popover, Slider, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api, type SuspensionEnd } from '../../api'
import { useUnits } from '../../quantity'
import { useTheSession } from '../session'
import { studied, useTravel } from './context'

/** Each wheel of a beam axle by itself: the core finds the travel and roll that lift them so. */
export function OneWheel({ endId, box }: { endId: string; box: SuspensionEnd['box'] }) {
  const session = useTheSession()
  const { steer, move } = useTravel()
  const { main } = useUnits()
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  const [wheels, setWheels] = useState({ left: 0, right: 0 })
  const stand = useMutation({
    mutationFn: ({ left, right }: { left: number; right: number }) =>
      answer(
        api.POST('/api/study/wheels', {
          body: { design: studied(session.state().design), end_id: endId, left_mm: left, right_mm: right, steer },
        }),
      ),
    onSuccess: (found) => {
      if (found.travel_mm !== null && found.roll_deg !== null)
        move({ travel: found.travel_mm, roll: found.roll_deg, playing: false })
    },
  })
  const lift = (part: Partial<typeof wheels>) => {
    const now = { ...wheels, ...part }
    setWheels(now)
    stand.mutate(now)
  }
  const fault = stand.data?.faults[0]?.message
  return (
    <>
      <IconButton
        size="small"
        aria-label="Each wheel alone"
        title="each wheel alone"
        aria-expanded={Boolean(anchor)}
        onClick={(event) => setAnchor(event.currentTarget)}
        sx={{ fontSize: 13, px: 0.75, borderRadius: 1, color: 'text.secondary' }}
      >
        one wheel
      </IconButton>
      <Popover
        open={Boolean(anchor)}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'top', horizontal: 'right' }}
        transformOrigin={{ vertical: 'bottom', horizontal: 'right' }}
      >
        <Box sx={{ p: 2, width: 320 }} role="group" aria-label="Each wheel alone">
          {(['left', 'right'] as const).map((side) => (
            <Box key={side} sx={{ display: 'flex', alignItems: 'center', gap: 1.5 }}>
              <Typography variant="body2" sx={{ width: 42 }}>
                {side}
              </Typography>
              <Slider
                size="small"
                aria-label={`${side} wheel`}
                min={-box.droop_mm}
                max={box.bump_mm}
                step={1}
                track={false}
                marks={[{ value: 0 }]}
                value={wheels[side]}
                onChange={(_, value) => lift({ [side]: value as number })}
              />
              <Typography
                variant="caption"
                sx={(theme) => ({
                  fontFamily: theme.tirante.mono,
                  width: 84,
                  textAlign: 'right',
                  whiteSpace: 'nowrap',
                })}
              >
                {wheels[side] < 0 ? '−' : ''}
                {main(Math.abs(wheels[side]))}
              </Typography>
            </Box>
          ))}
          <Typography
            variant="caption"
            role={fault ? 'alert' : undefined}
            sx={{ color: fault ? 'error.main' : 'text.secondary' }}
          >
            {fault ?? 'against the body; the axle leans as it must'}
          </Typography>
        </Box>
      </Popover>
    </>
  )
}
