import { Box, Button, Typography } from '@mui/material'
import type { AdjusterTold } from '../../api'
import { Told } from '../../quantity'

/** Turn the adjuster step by step and see where it runs out; what a turn does is the core's to say. */
export function AdjusterSteps({
  adjuster,
  turns,
  onTurn,
}: {
  adjuster: AdjusterTold
  turns: number
  onTurn: (turns: number) => void
}) {
  const step = adjuster.step_turns
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, px: 3, pb: 1.25 }} role="group" aria-label="Adjuster">
      <Button size="small" variant="outlined" onClick={() => onTurn(turns - step)} aria-label={`${step} turn in`}>
        − {step} turn
      </Button>
      <Button size="small" variant="outlined" onClick={() => onTurn(turns + step)} aria-label={`${step} turn out`}>
        + {step} turn
      </Button>
      <Button size="small" disabled={turns === 0} onClick={() => onTurn(0)}>
        as built
      </Button>
      <Typography variant="body2" role="status" sx={{ color: adjuster.past ? 'warning.main' : 'text.secondary' }}>
        <Told>{adjuster.text}</Told>
      </Typography>
    </Box>
  )
}
