import { Box } from '@mui/material'

const LIMIT_AT = 0.87 // where utilisation 1 stands along the bar

/** Utilisation as a bar with its limit marked; past the limit it runs over the mark. */
export function MarginBar({
  utilisation,
  state,
}: {
  utilisation: number | null
  state: 'ok' | 'attention' | 'stop' | 'not asked'
}) {
  const share = utilisation === null ? 0 : Math.min(1, utilisation * LIMIT_AT)
  const tone = state === 'stop' ? 'error.main' : state === 'attention' ? 'warning.main' : 'text.primary'
  return (
    <Box aria-hidden sx={{ position: 'relative', height: 10, mt: 0.25 }}>
      <Box sx={{ position: 'absolute', top: 3, left: 0, right: 0, height: 4, bgcolor: 'divider', opacity: 0.55 }} />
      <Box sx={{ position: 'absolute', top: 3, left: 0, width: `${share * 100}%`, height: 4, bgcolor: tone }} />
      <Box
        sx={{
          position: 'absolute',
          top: 0,
          bottom: 0,
          left: `${LIMIT_AT * 100}%`,
          width: '1.5px',
          bgcolor: 'text.primary',
        }}
      />
    </Box>
  )
}
