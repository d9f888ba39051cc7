import { Box, Button, Typography } from '@mui/material'
import type { LinkOut } from '../../api'
import { useUnits } from '../../quantity'

/** A link whose parts are not chosen, or do not go together: what is missing, and the two ways on. */
export function NotYet({ result, onSize, onSet }: { result?: LinkOut; onSize: () => void; onSet: () => void }) {
  const { main, other } = useUnits()
  if (!result) return null
  const unsized = !result.tube_label
  return (
    <Box sx={{ p: 2, maxWidth: 640 }}>
      <Typography variant="h2" gutterBottom>
        {main(result.length_mm)} pivot to pivot{' '}
        <Box component="span" sx={{ color: 'text.secondary', fontWeight: 400 }}>
          {other(result.length_mm)}
        </Box>
      </Typography>
      <Typography gutterBottom>
        {unsized
          ? 'No parts are chosen yet. Say what the link sees, then let the catalogue be searched for the lightest parts that hold; or choose each by hand.'
          : 'Not everything is there, or not all of it goes together:'}
      </Typography>
      {!unsized && (
        <Box component="ul" sx={{ pl: 2.5 }}>
          {result.faults.map((fault, i) => (
            <li key={i}>{fault.message}</li>
          ))}
        </Box>
      )}
      <Box sx={{ display: 'flex', gap: 1.5, mt: 2 }}>
        <Button variant="contained" onClick={onSize}>
          Size it
        </Button>
        <Button variant="outlined" onClick={onSet}>
          Choose by hand
        </Button>
      </Box>
    </Box>
  )
}
