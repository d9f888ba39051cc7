import { Box, ButtonBase, Typography } from '@mui/material'
import { useState } from 'react'
import type { StudyOut } from '../../api'
import { Told, lengthText, useUnits } from '../../quantity'

type Row = StudyOut['ride'][number]

/** Every measure at ride height beside its usual range. */
export function RideTable({ rows }: { rows: Row[] }) {
  return rows.map((row) => <Line key={row.key} row={row} />)
}

function Line({ row }: { row: Row }) {
  const { main, unit, style } = useUnits()
  const [open, setOpen] = useState(false)
  const out = row.low !== null && row.high !== null && (row.value < row.low || row.value > row.high)
  const digits = row.unit === '%' ? 1 : 2
  const size = (value: number) =>
    row.unit === 'mm'
      ? main(Math.abs(value))
      : `${Math.abs(value).toFixed(digits)}${row.unit === '%' ? ' %' : row.unit}`
  const nothing = !/[1-9]/.test(size(row.value))
  const sign = nothing ? '' : row.value > 0 && row.unit === '°' ? '+' : row.value < 0 ? '−' : ''
  const bound = (value: number) =>
    row.unit === 'mm' && unit === 'in' ? lengthText(value, unit, style) : String(value).replace('-', '−')
  return (
    <Box sx={{ borderBottom: 1, borderColor: 'divider' }}>
      <ButtonBase
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        sx={{ display: 'flex', width: '100%', gap: 1, py: 0.5, alignItems: 'baseline', textAlign: 'left' }}
      >
        <Typography variant="body2" component="span" sx={{ flex: 1, minWidth: 0 }}>
          {row.name}
        </Typography>
        <Typography
          variant="body2"
          component="span"
          sx={(theme) => ({
            fontFamily: theme.tirante.mono,
            color: out ? 'warning.main' : 'text.primary',
            whiteSpace: 'nowrap',
          })}
        >
          {sign}
          {size(row.value)}
        </Typography>
        <Typography
          variant="caption"
          component="span"
          sx={{ color: 'text.secondary', width: 88, textAlign: 'right', whiteSpace: 'nowrap' }}
        >
          {row.low !== null && row.high !== null && `${bound(row.low)} to ${bound(row.high)}`}
        </Typography>
      </ButtonBase>
      {(open || out) && (
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0, mb: 0.5 }}>
          {open && <Told>{`${row.what} `}</Told>}
          {row.why && <Told>{`${row.why[0]?.toUpperCase()}${row.why.slice(1)}.`}</Told>}
        </Typography>
      )}
    </Box>
  )
}
