import {
  Alert,
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  TextField,
  Typography,
} from '@mui/material'
import { useState } from 'react'
import { ApiProblem, type Design } from '../../api'
import { useDesign, useSessionPart, useTheSession } from '../session'

type Named = { id: string; name: string }

/** Parts of the same id that differ, field by field, as short lines. */
function unlike<T extends Named>(mine: T[], theirs: T[]): { name: string; mine: string; theirs: string }[] {
  const rows: { name: string; mine: string; theirs: string }[] = []
  for (const id of new Set([...mine, ...theirs].map((part) => part.id))) {
    const a = mine.find((part) => part.id === id)
    const b = theirs.find((part) => part.id === id)
    if (JSON.stringify(a) === JSON.stringify(b)) continue
    const fields = new Set([...Object.keys(a ?? {}), ...Object.keys(b ?? {})]) as Set<keyof T & string>
    const changed = [...fields].filter((field) => JSON.stringify(a?.[field]) !== JSON.stringify(b?.[field]))
    const say = (part: T | undefined) =>
      part ? changed.map((field) => `${field.replaceAll('_', ' ')}: ${brief(part[field])}`).join('; ') : 'not there'
    rows.push({ name: a?.name ?? b?.name ?? id, mine: say(a), theirs: say(b) })
  }
  return rows
}

/** A joint called by what is held at it. */
const named = (design: Design) => (joint: Design['joints'][number]) => {
  const id = 'part' in joint.held ? joint.held.part : null
  return { ...joint, name: `joint of ${design.parts.find((part) => part.id === id)?.name ?? 'a point'}` }
}

/** What two versions of a job differ in. */
function differences(mine: Design, theirs: Design): { name: string; mine: string; theirs: string }[] {
  const rows = [
    ...unlike<Named>(mine.parts, theirs.parts),
    ...unlike<Named>(mine.joints.map(named(mine)), theirs.joints.map(named(theirs))),
    ...unlike(mine.ends, theirs.ends),
  ]
  for (const field of ['name', 'note', 'settings', 'car', 'loads'] as const)
    if (JSON.stringify(mine[field]) !== JSON.stringify(theirs[field]))
      rows.push({ name: `the job’s ${field}`, mine: brief(mine[field]), theirs: brief(theirs[field]) })
  return rows
}

function brief(value: unknown): string {
  if (value === null || value === undefined) return 'none'
  const text =
    typeof value === 'string'
      ? value
      : JSON.stringify(value)
          .replace(/[{}"[\]]/g, ' ')
          .trim()
  return text.length > 110 ? `${text.slice(0, 110)}…` : text
}

/** Two people edited: both versions shown, theirs taken or mine kept as a branch; nothing is lost. */
export function Conflict() {
  const session = useTheSession()
  const design = useDesign()
  const save = useSessionPart((state) => state.save)
  const [name, setName] = useState('my version')
  const [failed, setFailed] = useState<string | null>(null)
  if (save.kind !== 'conflict') return null
  const { theirs } = save
  const rows = differences(design, theirs.design)
  const keep = async () => {
    try {
      await session.keepMineAsBranch(name.trim() || 'my version')
    } catch (error) {
      setFailed(error instanceof ApiProblem ? error.message : 'That did not work; try again.')
    }
  }
  return (
    <Dialog open maxWidth="md" fullWidth aria-labelledby="conflict-title">
      <DialogTitle id="conflict-title">Somebody else saved this job while you were editing</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 2 }}>
          Theirs was saved at {new Date(theirs.saved_at).toLocaleTimeString()}. Both versions are here; take theirs, or
          keep yours beside it as a branch that you find under the revisions.
        </Typography>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1.5fr 1.5fr', columnGap: 2, rowGap: 1 }}>
          <Typography variant="h3">Part</Typography>
          <Typography variant="h3">Yours</Typography>
          <Typography variant="h3">Theirs</Typography>
          {rows.map((row) => (
            <Box key={row.name} sx={{ display: 'contents' }}>
              <Typography variant="body2">{row.name}</Typography>
              <Typography variant="body2" sx={{ overflowWrap: 'anywhere' }}>
                {row.mine}
              </Typography>
              <Typography variant="body2" sx={{ overflowWrap: 'anywhere' }}>
                {row.theirs}
              </Typography>
            </Box>
          ))}
        </Box>
        <TextField
          size="small"
          label="Name of your branch"
          value={name}
          onChange={(event) => setName(event.target.value)}
          sx={{ mt: 3 }}
          slotProps={{ htmlInput: { maxLength: 80 } }}
        />
        {failed && (
          <Alert severity="error" sx={{ mt: 2 }}>
            {failed}
          </Alert>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={() => session.takeTheirs()}>Take theirs</Button>
        <Button variant="contained" onClick={() => void keep()}>
          Keep mine as a branch
        </Button>
      </DialogActions>
    </Dialog>
  )
}
