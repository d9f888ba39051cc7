import { Box, Button, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { answer, api, type FigureOfGauge } from '../../api'
import { Problem } from '../../ui'

/** Takes what a gauge of this machine shows; nothing is kept by it, and what it said stands beside the button. */
export function FromGauge({ gauge, onRead }: { gauge: string; onRead: (figures: FigureOfGauge[]) => void }) {
  const read = useMutation({
    mutationFn: () => answer(api.POST('/api/gauges/{gauge}/read', { params: { path: { gauge } }, body: {} })),
    onSuccess: (found) => onRead(found.figures),
  })
  return (
    <Box>
      <Button size="small" disabled={read.isPending} onClick={() => read.mutate()}>
        From the {gauge}
      </Button>
      {read.data && (
        <Typography component="span" variant="caption" sx={{ color: 'text.secondary' }}>
          it said: {read.data.figures.map((one) => one.said).join('; ')}
        </Typography>
      )}
      {read.error && <Problem error={read.error} />}
    </Box>
  )
}
