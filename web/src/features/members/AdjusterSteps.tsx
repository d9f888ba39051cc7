import { Box, Button, Typography } from '@mui/material'
import type { LinkOut } from '../../api'
import { useUnits } from '../../quantity'

/** Turn the adjuster step by step and see where it runs out. */
export function AdjusterSteps({
  stack,
  turns,
  onTurn,
}: {
  stack: NonNullable<LinkOut['stack']>
  turns: number
  onTurn: (turns: number) => void
}) {
  const { main } = useUnits()
  const pair = stack.mm_per_turn !== null
  const perTurn = stack.mm_per_turn ?? (stack.mm_per_half_turn === null ? null : 2 * stack.mm_per_half_turn)
  if (perTurn === null) return null
  const step = pair ? 0.25 : 0.5
  const inward = (stack.centre_to_centre_mm - stack.shortest_mm) / perTurn
  const outward = (stack.longest_mm - stack.centre_to_centre_mm) / perTurn
  const length = stack.centre_to_centre_mm + turns * perTurn
  const out = turns > outward + 1e-9
  const past = out || -turns > inward + 1e-9
  const say = past
    ? out
      ? 'past the end: too little thread is left in the insert'
      : 'past the end: it bottoms or the nut is on the eye'
    : `${main(length)} pivot to pivot`
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
      <Typography variant="body2" role="status" sx={{ color: past ? 'warning.main' : 'text.secondary' }}>
        {turns === 0 ? 'as built' : `${turns > 0 ? '+' : '−'}${Math.abs(turns)} turns`} · {say}
        {!past && ` · runs out after ${Math.floor(inward * 100) / 100} in, ${Math.floor(outward * 100) / 100} out`}
      </Typography>
    </Box>
  )
}
