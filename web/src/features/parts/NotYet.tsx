import { Box, Button, Typography } from '@mui/material'
import type { PartOut } from '../../api'
import { Told, useUnits } from '../../quantity'

interface Props {
  result?: PartOut
  /** Absent where the catalogue is not searched for this kind. */
  onSize?: () => void
  onSet: () => void
}

/** A part whose stock is not chosen, or that does not go together: what is missing, and the ways on. */
export function NotYet({ result, onSize, onSet }: Props) {
  const { main, other } = useUnits()
  if (!result) return null
  const unsized = onSize !== undefined && !result.stock
  const length = result.own && 'length_mm' in result.own ? result.own.length_mm : null
  return (
    <Box sx={{ p: 2, maxWidth: 640 }}>
      {length !== null && (
        <Typography variant="h2" gutterBottom>
          {main(length)} pivot to pivot{' '}
          <Box component="span" sx={{ color: 'text.secondary', fontWeight: 400 }}>
            {other(length)}
          </Box>
        </Typography>
      )}
      <Typography gutterBottom>
        {unsized
          ? 'No parts are chosen yet. Say what it sees, then let the catalogue be searched for the lightest parts that hold; or choose each by hand.'
          : 'Not everything is there, or not all of it goes together:'}
      </Typography>
      {!unsized && (
        <Box component="ul" sx={{ pl: 2.5 }}>
          {result.faults.map((fault, i) => (
            <li key={i} role="alert">
              <Told>{fault.message}</Told>
            </li>
          ))}
        </Box>
      )}
      <Box sx={{ display: 'flex', gap: 1.5, mt: 2 }}>
        {onSize && (
          <Button variant="contained" onClick={onSize}>
            Size it
          </Button>
        )}
        <Button variant="outlined" onClick={onSet}>
          Choose by hand
        </Button>
      </Box>
    </Box>
  )
}
