import { Box, Dialog, DialogContent, DialogTitle, Typography } from '@mui/material'

const KEYS: [string, string][] = [
  ['1 to 9', 'the stations'],
  ['[ and ]', 'the link before, the next link'],
  [', and .', 'step the travel'],
  ['Space', 'play it, or stop'],
  ['/', 'find a link, a check or a station'],
  ['U', 'millimetres or inches'],
  ['Ctrl Z, Ctrl Shift Z', 'undo, redo'],
  ['Enter, Escape', 'take what is typed, or leave it'],
  ['?', 'this list'],
]

export function KeysHelp({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} aria-labelledby="keys-title">
      <DialogTitle id="keys-title">Keys</DialogTitle>
      <DialogContent>
        <Box component="dl" sx={{ display: 'grid', gridTemplateColumns: 'auto 1fr', columnGap: 3, rowGap: 1, m: 0 }}>
          {KEYS.map(([key, does]) => (
            <Box key={key} sx={{ display: 'contents' }}>
              <Typography component="dt" sx={(theme) => ({ fontFamily: theme.tirante.mono })}>
                {key}
              </Typography>
              <Typography component="dd" sx={{ m: 0 }}>
                {does}
              </Typography>
            </Box>
          ))}
        </Box>
        <Typography variant="body2" sx={{ mt: 2, color: 'text.secondary' }}>
          Lengths may be typed as 546.1, 21 1/2 in, 14.5in, 1/2" or 2' 3 1/4", in any field of a length, whichever unit
          the page shows.
        </Typography>
      </DialogContent>
    </Dialog>
  )
}
