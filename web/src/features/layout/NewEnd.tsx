import {
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  ListSubheader,
  MenuItem,
  TextField,
  Typography,
} from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api } from '../../api'
import { newId, useDesign, useTheSession } from '../../app/session'
import { useTemplates, useTravel } from '../../app/travel'
import { FileButton, Problem, TextRow } from '../../ui'

/** What is said to the server of the kind chosen: one that ships, another end's own, a new one. */
type Wanted = { template?: string; like?: string; begin?: 'independent' | 'beam'; file?: string }
const NONE = { template: null, like: null, begin: null, file: null }

const OWN = {
  independent: 'Of its own, independent: begin with a wheel on an upright',
  beam: 'Of its own, beam axle: begin with two wheels on an axle',
} as const

/** An end from a template: its points stand where a sound example has them. */
export function NewEnd({ count, onClose }: { count: number; onClose: () => void }) {
  const session = useTheSession()
  const { move } = useTravel()
  const templates = useTemplates()
  const own = useDesign().ends.filter((one) => one.end.kind)
  const [name, setName] = useState(count === 0 ? 'Front' : 'Rear')
  const [kind, setKind] = useState('template:double-wishbone')
  const [file, setFile] = useState<{ name: string; text: string } | null>(null)
  const wanted = (): Wanted => {
    if (file) return { file: file.text }
    const [sort, which = ''] = kind.split(':')
    return sort === 'like' ? { like: which } : sort === 'begin' ? { begin: which as 'beam' } : { template: which }
  }
  const add = useMutation({
    mutationFn: async () => {
      const id = newId()
      const body = { design: session.state().design, id, name: name.trim(), ...NONE, ...wanted() }
      const found = await answer(api.POST('/api/ends', { body }))
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
          value={kind}
          disabled={file !== null}
          onChange={(event) => setKind(event.target.value)}
          sx={{ mt: 1.5 }}
        >
          {templates.data?.templates.map((one) => (
            <MenuItem key={one.name} value={`template:${one.name}`}>
              {one.title}
            </MenuItem>
          ))}
          <ListSubheader>None of these</ListSubheader>
          {own.map((one) => (
            <MenuItem key={one.id} value={`like:${one.id}`}>
              {one.end.kind?.title}, as {one.name}
            </MenuItem>
          ))}
          {Object.entries(OWN).map(([axle, title]) => (
            <MenuItem key={axle} value={`begin:${axle}`}>
              {title}
            </MenuItem>
          ))}
        </TextField>
        <FileButton
          label="Template file"
          accept=".json,application/json"
          onFile={(chosen) => void chosen.text().then((text) => setFile({ name: chosen.name, text }))}
        >
          Or a template file
        </FileButton>
        {file && (
          <Typography variant="body2">
            {file.name}
            <Button size="small" onClick={() => setFile(null)}>
              not this one
            </Button>
          </Typography>
        )}
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
