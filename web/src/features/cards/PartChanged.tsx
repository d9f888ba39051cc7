import { Box, Typography } from '@mui/material'
import type { PartChangedOut } from '../../api'
import { Told, useUnits } from '../../quantity'

/** What has changed of one part: what to do with one that was made, and the figures that differ. */
export function PartChanged({ part, big = false }: { part: PartChangedOut; big?: boolean }) {
  const { main, unit } = useUnits()
  const length = (mm: number | null) => (mm === null ? 'none' : main(mm).replace(' mm', ''))
  return (
    <>
      <Typography variant={big ? 'body1' : 'body2'}>
        <Told>{part.says}</Told>
        {part.left_mm !== 0 && ` It stays ${main(Math.abs(part.left_mm))} too ${part.left_mm > 0 ? 'short' : 'long'}.`}
      </Typography>
      {part.figures.map((one) => (
        <Typography key={one.label} variant={big ? 'body1' : 'body2'} sx={{ color: 'text.secondary' }}>
          {one.label}:{' '}
          <Box component="span" sx={(theme) => ({ fontFamily: theme.tirante.mono, color: 'text.primary' })}>
            {length(one.before_mm)} → {length(one.now_mm)}
          </Box>{' '}
          {unit}
        </Typography>
      ))}
    </>
  )
}
