import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api, type SuspensionEnd } from '../../api'
import { useTheSession } from '../../app/session'
import { studied } from '../../app/travel'
import { useUnits } from '../../quantity'
import { Problem } from '../../ui'

/** A table of points from a spreadsheet: pasted, read row by row, looked at, put in. */
export function PastePoints({
  end,
  onRead,
}: {
  end: SuspensionEnd
  onRead: (points: Record<string, number[]>) => void
}) {
  const [open, setOpen] = useState(false)
  return (
    <>
      <Button size="small" onClick={() => setOpen(true)}>
        Paste a table
      </Button>
      {open && <PasteDialog end={end} onRead={onRead} onClose={() => setOpen(false)} />}
    </>
  )
}

function PasteDialog(props: {
  end: SuspensionEnd
  onRead: (points: Record<string, number[]>) => void
  onClose: () => void
}) {
  const { end, onRead, onClose } = props
  const session = useTheSession()
  const { unit, main } = useUnits()
  const [text, setText] = useState('')
  const read = useMutation({
    mutationFn: (pasted: string) =>
      answer(
        api.POST('/api/points/paste', {
          body: { design: studied(session.state().design), end_id: end.id, text: pasted, unit },
        }),
      ),
  })
  const rows = read.data?.rows ?? []
  const take = () => {
    onRead(Object.fromEntries(rows.map((row) => [row.point, row.at])))
    onClose()
  }
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="paste-title">
      <DialogTitle id="paste-title">Paste points of {end.name}</DialogTitle>
      <DialogContent>
        <Typography variant="body2" sx={{ mb: 1.5 }}>
          A point a row: its name, then x ahead, y left, z up. Without names the rows are taken in the order of the
          list. A bare number is in {unit === 'mm' ? 'millimetres' : 'inches'}; 12 1/2 in or 317.5 mm say it themselves,
          and a heading such as “x (in)” does for its column.
        </Typography>
        <TextField
          multiline
          fullWidth
          autoFocus
          minRows={5}
          maxRows={9}
          label="The table"
          value={text}
          onChange={(event) => {
            setText(event.target.value)
            read.reset()
          }}
          onPaste={(event) => {
            const pasted = event.clipboardData.getData('text/plain')
            if (text.trim() || !pasted.trim()) return
            event.preventDefault()
            setText(pasted)
            read.mutate(pasted)
          }}
          slotProps={{ htmlInput: { maxLength: 60000, style: { fontFamily: 'inherit', whiteSpace: 'pre' } } }}
        />
        {read.error && (
          <Box sx={{ mt: 1.5 }}>
            <Problem error={read.error} />
          </Box>
        )}
        {rows.length > 0 && (
          <Box component="table" aria-label="As it is read" sx={{ width: '100%', mt: 1.5, fontSize: 13.5 }}>
            <tbody>
              {rows.map((row) => (
                <tr key={row.point}>
                  <td>{row.what}</td>
                  {row.at.map((mm, i) => (
                    <Box
                      component="td"
                      key={i}
                      sx={(theme) => ({ textAlign: 'right', pl: 1.5, fontFamily: theme.tirante.mono })}
                    >
                      {mm < 0 ? '−' : ''}
                      {main(Math.abs(mm))}
                    </Box>
                  ))}
                </tr>
              ))}
            </tbody>
          </Box>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave it</Button>
        {rows.length > 0 ? (
          <Button variant="contained" onClick={take}>
            Put in {rows.length === 1 ? 'this point' : `these ${rows.length} points`}
          </Button>
        ) : (
          <Button variant="contained" disabled={!text.trim() || read.isPending} onClick={() => read.mutate(text)}>
            Read it
          </Button>
        )}
      </DialogActions>
    </Dialog>
  )
}
