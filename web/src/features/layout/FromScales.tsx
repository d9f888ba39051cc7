import { Box, Button, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { ApiProblem, answer, api, type Car } from '../../api'
import { Problem } from '../../ui'

type Corners = NonNullable<Car['corners']>

const WHEELS: Record<keyof Corners, string> = {
  front_left_kg: 'left front',
  front_right_kg: 'right front',
  rear_left_kg: 'left rear',
  rear_right_kg: 'right rear',
}

/** Takes what each wheel stands on the corner scales of this machine; all four or none, with undo. */
export function FromScales({ onRead }: { onRead: (corners: Corners) => void }) {
  const read = useMutation({
    mutationFn: async () => {
      const params = { path: { gauge: 'corner scales' } }
      const { figures } = await answer(api.POST('/api/gauges/{gauge}/read', { params, body: {} }))
      const said = figures.map((one) => one.said).join('; ')
      const kg = (name: string) => figures.find((one) => one.name === name && one.unit === 'kg')?.value ?? 0
      const corners = Object.fromEntries(Object.entries(WHEELS).map(([key, name]) => [key, kg(name)])) as Corners
      if (figures.length === 4 && Object.values(corners).every((one) => one > 0)) return { corners, said }
      const message = `What answers as the corner scales said “${said}”, which is not what four wheels weigh. Nothing was taken: look whether each stands under its wheel.`
      throw new ApiProblem(409, { code: 'other_gauge', message, issues: [], request_id: null, current: null })
    },
    onSuccess: ({ corners }) => onRead(corners),
  })
  return (
    <Box sx={{ mb: 0.5 }}>
      <Button size="small" disabled={read.isPending} onClick={() => read.mutate()}>
        From the corner scales
      </Button>
      {read.data && (
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
          they said: {read.data.said}. Driver’s weight in, tyres at pressure, bars off: as for the car that is worked
          out.
        </Typography>
      )}
      {read.error && <Problem error={read.error} />}
    </Box>
  )
}
