import { Box, Button, Slider, Typography } from '@mui/material'
import { useEffect, useState } from 'react'
import { PauseIcon, PlayIcon } from './icons'
import { Segmented } from './parts'

const STEP = 0.1 // of the way each way, a frame
const SHOWN = 12

/** Free motions of a mechanism: which is shown, moved by hand or by itself. */
export function Followed(props: {
  motions: string[]
  motion: number
  phase: number
  onMotion: (motion: number) => void
  onPhase: (phase: number) => void
}) {
  const { motions, motion, phase, onMotion, onPhase } = props
  const [playing, setPlaying] = useState(false)
  const whole = motions.join('|')
  useEffect(() => {
    if (!playing || !whole) return
    let now = phase
    let step = STEP
    const timer = window.setInterval(() => {
      if (now + step > 1 || now + step < -1) step = -step
      now += step
      onPhase(Math.round(now * 100) / 100)
    }, 70)
    return () => window.clearInterval(timer)
    // the phase is the timer's own
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [playing, whole, motion])
  return (
    <Box sx={{ mb: 2 }}>
      {motions.length > 1 && (
        <Segmented
          label="Which motion"
          value={String(motion)}
          onChange={(value) => onMotion(Number(value))}
          options={motions.slice(0, SHOWN).map((what, i) => ({ value: String(i), label: `${i + 1}`, title: what }))}
        />
      )}
      <Typography variant="body2" sx={{ mt: 0.5, fontWeight: 600 }}>
        {motions[motion] ?? motions[0]}
      </Typography>
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center' }}>
        <Button
          size="small"
          variant="outlined"
          startIcon={playing ? <PauseIcon /> : <PlayIcon />}
          onClick={() => setPlaying(!playing)}
          sx={{ flexShrink: 0 }}
        >
          {playing ? 'Stop' : 'Move it'}
        </Button>
        <Slider
          size="small"
          aria-label="Along the motion"
          min={-1}
          max={1}
          step={0.05}
          track={false}
          marks={[{ value: 0 }]}
          value={phase}
          onChange={(_, value) => {
            setPlaying(false)
            onPhase(value as number)
          }}
        />
      </Box>
    </Box>
  )
}
