import { Box, Button, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { answer, api, ApiProblem } from '../../api'
import { Problem } from '../../ui'

interface Props {
  gauge: string
  /** What is wanted of it: a figure of another sort is not taken. */
  unit: 'mm' | 'deg'
  onRead: (value: number) => void
}

/** Takes the one figure that a gauge of this machine shows; nothing is kept by it, and what it said stands beside the button. */
export function FromGauge({ gauge, unit, onRead }: Props) {
  const read = useMutation({
    mutationFn: async () => {
      const found = await answer(api.POST('/api/gauges/{gauge}/read', { params: { path: { gauge } }, body: {} }))
      const [shown, ...more] = found.figures
      if (shown?.unit === unit && more.length === 0) return shown
      const said = found.figures.map((one) => one.said).join('; ')
      const message = `What answers as the ${gauge} said “${said}”, which is no figure in ${unit}. Look which gauge is at its port.`
      throw new ApiProblem(409, { code: 'other_gauge', message, issues: [], request_id: null, current: null })
    },
    onSuccess: (shown) => onRead(shown.value),
  })
  return (
    <Box>
      <Button size="small" disabled={read.isPending} onClick={() => read.mutate()}>
        From the {gauge}
      </Button>
      {read.data && (
        <Typography component="span" variant="caption" sx={{ color: 'text.secondary' }}>
          it said: {read.data.said}
        </Typography>
      )}
      {read.error && <Problem error={read.error} />}
    </Box>
  )
}
