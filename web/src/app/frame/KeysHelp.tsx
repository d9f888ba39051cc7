import { Box, Button, Dialog, DialogContent, DialogTitle, Typography } from '@mui/material'
import { Fold } from '../../ui'
import { WORDS } from './words'

const KEYS: [string, string][] = [
  ['1 to 9', 'the stations'],
  ['[ and ]', 'the part before, the next part'],
  [', and .', 'step the travel'],
  ['Space', 'play it, or stop'],
  ['/', 'find a part, a check, an end, a case or a station'],
  ['U', 'millimetres or inches'],
  ['Ctrl Z, Ctrl Shift Z', 'undo, redo'],
  ['Enter, Escape', 'take what is typed, or leave it'],
  ['?', 'this list'],
]

export function KeysHelp({ open, onClose, onLead }: { open: boolean; onClose: () => void; onLead: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} aria-labelledby="keys-title">
      <DialogTitle id="keys-title">Keys and words</DialogTitle>
      <DialogContent>
        <List rows={KEYS} mono />
        <Typography variant="body2" sx={{ mt: 2, color: 'text.secondary' }}>
          Lengths may be typed as 546.1, 21 1/2 in, 14.5in, 1/2" or 2' 3 1/4", in any field of a length, whichever unit
          the page shows.
        </Typography>
        <Box sx={{ mt: 2 }}>
          <Fold title="Words" note="as they are used here">
            <List rows={WORDS} />
          </Fold>
        </Box>
        <Button variant="outlined" size="small" sx={{ mt: 2 }} onClick={onLead}>
          Lead me through a first job
        </Button>
      </DialogContent>
    </Dialog>
  )
}

function List({ rows, mono = false }: { rows: [string, string][]; mono?: boolean }) {
  return (
    <Box component="dl" sx={{ display: 'grid', gridTemplateColumns: 'auto 1fr', columnGap: 3, rowGap: 1, m: 0 }}>
      {rows.map(([word, told]) => (
        <Box key={word} sx={{ display: 'contents' }}>
          <Typography
            component="dt"
            sx={(theme) => (mono ? { fontFamily: theme.tirante.mono } : { fontWeight: 600, maxWidth: 170 })}
          >
            {word}
          </Typography>
          <Typography component="dd" sx={{ m: 0 }}>
            {told}
          </Typography>
        </Box>
      ))}
    </Box>
  )
}
