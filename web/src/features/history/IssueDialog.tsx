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
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api, ApiProblem } from '../../api'
import { newId, useSessionPart, useTheSession } from '../../app/session'
import { Fold, Problem } from '../../ui'
import { ChangesList } from './ChangesList'
import { useChanges } from './useChanges'
import { Told } from '../../quantity'

/** Name a state, or issue it to build from; what is not settled is answered for by name before it is issued. */
export function useSeal(done: () => void) {
  const session = useTheSession()
  const jobId = useSessionPart((state) => state.jobId)
  const queries = useQueryClient()
  return useMutation({
    mutationFn: async (asked: { name: string; issue: boolean; open?: string[]; person?: string }) => {
      if (!(await session.saveNow())) throw new Error('not saved')
      const person = asked.person?.trim() || null
      const body = {
        save_id: newId(),
        version: session.state().version,
        name: asked.name.trim(),
        issue: asked.issue,
        reviewer: null,
        acknowledged: person ? (asked.open ?? []) : [],
        acknowledged_by: person,
      }
      return answer(api.POST('/api/jobs/{job_id}/revisions', { params: { path: { job_id: jobId } }, body }))
    },
    onSuccess: async (found) => {
      session.sealed(found.number)
      await queries.invalidateQueries({ queryKey: ['revisions', jobId] })
      done()
    },
  })
}

/** Issue the job as it stands: one press, unless somebody has to answer for what is not settled. */
export function IssueDialog({ onClose }: { onClose: () => void }) {
  const changes = useChanges()
  const since = changes.data?.since
  const [named, setName] = useState<string | null>(null)
  const [person, setPerson] = useState('')
  const seal = useSeal(onClose)
  const refused = seal.error instanceof ApiProblem && seal.error.body.code === 'to_acknowledge' ? seal.error : null
  const name = named ?? (since ? `again after rev ${since.number}` : 'first issue')
  const issue = () => seal.mutate({ name, issue: true, person, open: refused?.body.issues.map((one) => one.message) })
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="issue-title">
      <Box
        component="form"
        onSubmit={(event) => {
          event.preventDefault()
          issue()
        }}
        sx={{ display: 'flex', flexDirection: 'column', minHeight: 0 }}
      >
        <DialogTitle id="issue-title">Issue the job to build from</DialogTitle>
        <DialogContent>
          <Typography variant="body2" sx={{ mb: 2 }}>
            What is issued is kept as it is, and its sheets print without DRAFT. They say NOT REVIEWED until somebody
            who did not draw it has reviewed it and signed, under Revisions.
          </Typography>
          <TextField
            size="small"
            fullWidth
            label="Called"
            value={name}
            onChange={(event) => setName(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 80 } }}
            sx={{ mb: 2 }}
          />
          {since && changes.data && (
            <Box sx={{ mt: 1 }}>
              <Fold title={`Changed since rev ${since.number} was issued`} note={`${changes.data.parts.length} parts`}>
                <ChangesList found={changes.data} />
              </Fold>
            </Box>
          )}
          {refused && (
            <Box sx={{ mt: 2 }}>
              <Alert severity="warning" variant="outlined">
                <Told>{refused.message}</Told>
                <Box
                  component="ul"
                  aria-label="Not settled"
                  sx={{ m: 0, mt: 0.5, pl: 2, maxHeight: 220, overflow: 'auto' }}
                >
                  {refused.body.issues.map((one) => (
                    <li key={one.message}>
                      <Told>{one.message}</Told>
                    </li>
                  ))}
                </Box>
              </Alert>
              <TextField
                size="small"
                fullWidth
                autoFocus
                label="Who answers for this list"
                value={person}
                onChange={(event) => setPerson(event.target.value)}
                slotProps={{ htmlInput: { maxLength: 80 } }}
                sx={{ mt: 1.5 }}
              />
            </Box>
          )}
          {seal.error && !refused && (
            <Box sx={{ mt: 1 }}>
              <Problem error={seal.error} />
            </Box>
          )}
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>Not yet</Button>
          <Button
            type="submit"
            variant="contained"
            disabled={!name.trim() || seal.isPending || (refused !== null && !person.trim())}
          >
            {refused ? 'Issue it nevertheless' : 'Issue'}
          </Button>
        </DialogActions>
      </Box>
    </Dialog>
  )
}
