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
import { ApiProblem, type MergeOut } from '../../api'
import { Busy, Fold, Segmented } from '../../ui'
import { useSessionPart, useTheSession, type Take } from '../session'

/** Two people edited: what both changed is chosen field by field, the rest goes together; or theirs, or mine as a branch. */
export function Conflict() {
  const session = useTheSession()
  const save = useSessionPart((state) => state.save)
  const [name, setName] = useState('my version')
  const [failed, setFailed] = useState<string | null>(null)
  const [take, setTake] = useState<Take>({})
  if (save.kind !== 'conflict') return null
  const { theirs, merge, asking } = save
  if (asking)
    return (
      <Dialog open aria-label="Putting two versions together">
        <Busy what="Somebody else saved this job; theirs and yours are being put together" />
      </Dialog>
    )
  const act = async (what: () => Promise<unknown>) => {
    try {
      setFailed(null)
      await what()
      setTake({})
    } catch (error) {
      setFailed(error instanceof ApiProblem ? error.message : 'That did not work; try again.')
    }
  }
  const together = () =>
    act(async () => {
      if (!(await session.putTogether(take)))
        setFailed('They do not go together so. Take theirs, or keep yours as a branch; nothing is lost.')
    })
  const left = merge ? merge.clashes.filter((one) => !take[one.key]).length : 0
  return (
    <Dialog open maxWidth="md" fullWidth aria-labelledby="conflict-title">
      <DialogTitle id="conflict-title">Somebody else saved this job while you were editing</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 2 }}>
          Theirs was saved at {new Date(theirs.saved_at).toLocaleTimeString()}. Nothing is lost:{' '}
          {merge?.merged ? 'choose for each field that you both changed; the rest goes together.' : NOT_TOGETHER}
        </Typography>
        {merge?.fault && <Alert severity="warning">{merge.fault}</Alert>}
        {merge && <Clashes merge={merge} take={take} onTake={setTake} />}
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
        <Button onClick={() => session.takeTheirs()}>Take theirs whole</Button>
        <Button onClick={() => void act(() => session.keepMineAsBranch(name.trim() || 'my version'))}>
          Keep mine as a branch
        </Button>
        {merge?.merged && (
          <Button variant="contained" disabled={left > 0} onClick={() => void together()}>
            {left > 0 ? `${left} to choose` : 'Put both together'}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  )
}

const NOT_TOGETHER =
  'take theirs, or keep yours beside it as a branch that you find under the revisions. The two cannot be put together by themselves.'

function Clashes({ merge, take, onTake }: { merge: MergeOut; take: Take; onTake: (take: Take) => void }) {
  const all = (whose: 'mine' | 'theirs') => onTake(Object.fromEntries(merge.clashes.map((one) => [one.key, whose])))
  return (
    <>
      {merge.clashes.length > 1 && (
        <Box sx={{ display: 'flex', gap: 1, mb: 1 }}>
          <Button size="small" onClick={() => all('mine')}>
            Mine for all
          </Button>
          <Button size="small" onClick={() => all('theirs')}>
            Theirs for all
          </Button>
        </Box>
      )}
      {merge.clashes.map((one) => (
        <Box
          key={one.key}
          role="group"
          aria-label={`${one.of}, ${one.field}`}
          sx={{ borderTop: 1, borderColor: 'divider', py: 1.25 }}
        >
          <Typography sx={{ fontWeight: 600 }}>
            {one.of}
            {one.field && `: ${one.field}`}
          </Typography>
          <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0, mb: 0.75 }}>
            it was {one.base}
          </Typography>
          <Segmented
            fullWidth
            label={`Whose of ${one.of}, ${one.field}`}
            value={take[one.key] ?? ''}
            options={[
              { value: 'mine', label: `yours: ${one.mine}` },
              { value: 'theirs', label: `theirs: ${one.theirs}` },
            ]}
            onChange={(whose) => whose && onTake({ ...take, [one.key]: whose })}
          />
        </Box>
      ))}
      {merge.mine.length + merge.others.length > 0 && (
        <Fold title="What goes together by itself">
          {[
            ['only you changed', merge.mine],
            ['only they changed', merge.others],
          ].map(([whose, rows]) => (
            <Typography key={String(whose)} variant="body2" sx={{ mb: 0.5 }}>
              {String(whose)}: {(rows as string[]).join('; ') || 'nothing'}
            </Typography>
          ))}
        </Fold>
      )}
    </>
  )
}
