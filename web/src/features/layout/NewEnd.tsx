import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api } from '../../api'
import { newId, useDesign, useTheSession } from '../../app/session'
import { useTemplates, useTravel } from '../../app/travel'
import { FileButton, Problem, Segmented, TextRow } from '../../ui'
import { KindCards, shipped, type KindCard } from './KindCards'

/** What is said to the server of the kind chosen: one that ships, another end's own, a new one. */
type Wanted = { template?: string; like?: string; begin?: 'independent' | 'beam'; file?: string }
const NONE = { template: null, like: null, begin: null, file: null }

const OWN = {
  independent: {
    title: 'Of its own, independent: begin with a wheel on an upright',
    says: 'Points, bodies and joints are yours to put in; what still moves is counted as it is built.',
  },
  beam: {
    title: 'Of its own, beam axle: begin with two wheels on an axle',
    says: 'Points, bodies and joints are yours to put in; what still moves is counted as it is built.',
  },
} as const

/** An end from a template: its points stand where a sound example has them. */
export function NewEnd({ count, onClose }: { count: number; onClose: () => void }) {
  const session = useTheSession()
  const { move } = useTravel()
  const templates = useTemplates()
  const own = useDesign().ends.filter((one) => one.end.kind)
  const [name, setName] = useState(count === 0 ? 'Front' : 'Rear')
  const [where, setWhere] = useState<'front' | 'rear'>(count === 0 ? 'front' : 'rear')
  const [kind, setKind] = useState('template:double-wishbone')
  const cards: KindCard[] = [
    ...shipped(templates.data?.templates ?? []),
    ...own.map(({ id, name: of, end }) => ({
      value: `like:${id}`,
      title: `${end.kind?.title}, as ${of}`,
      says: 'The kind of its own that another end of this job has, its points where they stand there.',
      axle: end.kind?.axle ?? 'independent',
    })),
    ...(['independent', 'beam'] as const).map((axle) => ({ value: `begin:${axle}`, axle, ...OWN[axle] })),
  ]
  // no text yet: the file is chosen and still being read, and an end added now would be of another kind
  const [file, setFile] = useState<{ name: string; text: string | null } | null>(null)
  const read = async (chosen: File) => {
    setFile({ name: chosen.name, text: null })
    const text = await chosen.text()
    setFile((now) => (now?.name === chosen.name ? { name: chosen.name, text } : now))
  }
  const wanted = (): Wanted => {
    if (file?.text != null) return { file: file.text }
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
      const placed = { ...end, end: { ...end.end, end: where } }
      session.edit('add an end', (now) => ({ ...now, ends: [...now.ends, placed] }))
      move({ endId: id })
      onClose()
    },
  })
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="lg" aria-labelledby="new-end">
      <DialogTitle id="new-end">New suspension end</DialogTitle>
      <DialogContent>
        <TextRow label="Name" value={name} onChange={setName} />
        <Segmented
          label="Which end of the car it is"
          value={where}
          onChange={setWhere}
          options={[
            { value: 'front', label: 'front of the car' },
            { value: 'rear', label: 'rear of the car' },
          ]}
        />
        <Box sx={{ mt: 1.5, opacity: file ? 0.4 : 1 }} inert={file !== null}>
          <KindCards cards={cards} value={kind} onChoose={setKind} />
        </Box>
        <FileButton label="Template file" accept=".json,application/json" onFile={(chosen) => void read(chosen)}>
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
        <Button
          variant="contained"
          disabled={!name.trim() || add.isPending || file?.text === null}
          onClick={() => add.mutate()}
        >
          Add the end
        </Button>
      </DialogActions>
    </Dialog>
  )
}
