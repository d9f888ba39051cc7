import { Button, Dialog, DialogActions, DialogContent, DialogTitle, MenuItem, TextField } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api } from '../../api'
import { newId, useTheSession } from '../../app/session'
import { useTemplates, useTravel } from '../../app/travel'
import { Problem, TextRow } from '../../ui'

/** An end from a template: its points stand where a sound example has them. */
export function NewEnd({ count, onClose }: { count: number; onClose: () => void }) {
  const session = useTheSession()
  const { move } = useTravel()
  const templates = useTemplates()
  const [name, setName] = useState(count === 0 ? 'Front' : 'Rear')
  const [template, setTemplate] = useState('double-wishbone')
  const add = useMutation({
    mutationFn: async () => {
      const id = newId()
      const found = await answer(
        api.POST('/api/ends', { body: { design: session.state().design, id, name: name.trim(), template } }),
      )
      return { id, end: found.end }
    },
    onSuccess: ({ id, end }) => {
      session.edit('add an end', (now) => ({ ...now, ends: [...now.ends, end] }))
      move({ endId: id })
      onClose()
    },
  })
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs" aria-labelledby="new-end">
      <DialogTitle id="new-end">New suspension end</DialogTitle>
      <DialogContent>
        <TextRow label="Name" value={name} onChange={setName} />
        <TextField
          select
          fullWidth
          size="small"
          label="Kind"
          value={template}
          onChange={(event) => setTemplate(event.target.value)}
          sx={{ mt: 1.5 }}
        >
          {templates.data?.templates.map((one) => (
            <MenuItem key={one.name} value={one.name}>
              {one.title}
            </MenuItem>
          ))}
        </TextField>
        {add.error && <Problem error={add.error} />}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave it</Button>
        <Button variant="contained" disabled={!name.trim() || add.isPending} onClick={() => add.mutate()}>
          Add the end
        </Button>
      </DialogActions>
    </Dialog>
  )
}
