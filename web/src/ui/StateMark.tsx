import { Box } from '@mui/material'

export type MarkState = 'untouched' | 'in hand' | 'good' | 'attention' | 'stop'

const SHAPES: Record<MarkState, { shape: string; tone: 'text.secondary' | 'warning.main' | 'error.main' }> = {
  untouched: { shape: '○', tone: 'text.secondary' },
  'in hand': { shape: '◐', tone: 'text.secondary' },
  good: { shape: '●', tone: 'text.secondary' },
  attention: { shape: '▲', tone: 'warning.main' },
  stop: { shape: '■', tone: 'error.main' },
}

/** How a station or part stands: by shape and word, colour only besides. */
export function StateMark({ state }: { state: MarkState }) {
  const { shape, tone } = SHAPES[state]
  return (
    <Box component="span" role="img" aria-label={state} title={state} sx={{ color: tone, fontSize: 13, lineHeight: 1 }}>
      {shape}
    </Box>
  )
}

export const markOf = (status: 'incomplete' | 'stop' | 'attention' | 'ok'): MarkState =>
  status === 'incomplete' ? 'in hand' : status === 'ok' ? 'good' : status
