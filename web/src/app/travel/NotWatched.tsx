import { Box, Typography } from '@mui/material'
import { useSessionPart } from '../session'

/** What the rod ends and spacers allow, and the joints that nothing is known of. */
export function NotWatched({ endId }: { endId: string }) {
  const known = useSessionPart(({ evaluation }) => evaluation?.ends.find((end) => end.id === endId))
  if (!known || known.allowed.length + known.not_watched.length === 0) return null
  return (
    <Box sx={{ mt: 1 }}>
      {[...known.not_watched, ...known.allowed].map((line) => (
        <Typography
          key={line}
          variant="caption"
          component="p"
          sx={{ m: 0, color: known.not_watched.includes(line) ? 'warning.main' : 'text.secondary' }}
        >
          {line}
        </Typography>
      ))}
    </Box>
  )
}
