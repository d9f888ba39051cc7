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
import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api, type RevisionOut } from '../../api'
import { useSessionPart, useTheSession } from '../../app/session'
import { Busy, Problem } from '../../ui'
import { IssueDialog, useSeal } from './IssueDialog'
import { Review } from './Review'

export { ChangesDialog, ChangesList } from './ChangesList'
export { IssueDialog } from './IssueDialog'
export { MadeList, useMade } from './MadeList'
export { useChanges } from './useChanges'

const KIND: Record<RevisionOut['kind'], string> = {
  sealed: 'kept by itself',
  named: 'named',
  issued: 'issued to build from',
  branch: 'branch',
}

/** The revisions of a job: name or issue the state as it stands, open an older one. */
export function HistoryDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="history-title">
      <DialogTitle id="history-title">Revisions</DialogTitle>
      {open && <History onClose={onClose} />}
    </Dialog>
  )
}

function History({ onClose }: { onClose: () => void }) {
  const session = useTheSession()
  const jobId = useSessionPart((state) => state.jobId)
  const version = useSessionPart((state) => state.version)
  const [name, setName] = useState('')
  const [issuing, setIssuing] = useState(false)
  const [asking, ask] = useState<number | null>(null)
  const [unfolded, unfold] = useState<number[]>([])
  const path = { job_id: jobId }
  const list = useQuery({
    queryKey: ['revisions', jobId, version],
    queryFn: async () => {
      await session.saveNow()
      return answer(api.GET('/api/jobs/{job_id}/revisions', { params: { path } }))
    },
    staleTime: 0,
  })
  const seal = useSeal(() => setName(''))
  const restore = useMutation({
    mutationFn: (number: number) =>
      answer(api.GET('/api/jobs/{job_id}/revisions/{number}', { params: { path: { ...path, number } } })),
    onSuccess: (found) => {
      session.edit(`open revision ${found.revision.number}`, () => found.design)
      onClose()
    },
  })
  return (
    <>
      <DialogContent>
        <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', flexWrap: 'wrap', mb: 1 }}>
          <TextField
            size="small"
            label="Name this state"
            value={name}
            onChange={(event) => setName(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 80 } }}
            sx={{ flex: 1, minWidth: 200 }}
          />
          <Button
            variant="outlined"
            disabled={!name.trim() || seal.isPending}
            onClick={() => seal.mutate({ name, issue: false })}
          >
            Name it
          </Button>
          <Button variant="contained" onClick={() => setIssuing(true)}>
            Issue to build from
          </Button>
        </Box>
        {issuing && <IssueDialog onClose={() => setIssuing(false)} />}
        {seal.error && (
          <Box sx={{ mt: 1 }}>
            <Problem error={seal.error} />
          </Box>
        )}
        <Box sx={{ mt: 2 }}>
          {list.error && <Problem error={list.error} retry={() => void list.refetch()} />}
          {list.isPending && <Busy what="Reading the revisions" />}
          {list.data?.revisions.length === 0 && (
            <Alert severity="info" variant="outlined">
              No revision yet. One is kept when you name or issue the job, make a pack, or leave it alone for half a
              minute.
            </Alert>
          )}
          {folded(list.data?.revisions ?? [], unfolded).map(({ revision, hidden }) => (
            <Box
              key={revision.number}
              sx={{
                display: 'flex',
                gap: 2,
                alignItems: 'baseline',
                py: 0.75,
                borderBottom: 1,
                borderColor: 'divider',
              }}
            >
              <Typography sx={{ width: 60, fontWeight: 700 }}>rev {revision.number}</Typography>
              <Box sx={{ flex: 1, minWidth: 0 }}>
                <Typography variant="body2" noWrap>
                  {revision.name || KIND[revision.kind]}
                  {revision.current && ' · as it stands now'}
                </Typography>
                <Typography variant="caption" sx={{ color: 'text.secondary' }}>
                  {new Date(revision.sealed_at).toLocaleString()}
                  {revision.name && ` · ${KIND[revision.kind]}`}
                  {revision.kind === 'issued' &&
                    ` · ${revision.reviewer ? `reviewed by ${revision.reviewer}` : 'not reviewed'}`}
                  {revision.acknowledged_by &&
                    ` · ${revision.acknowledged_by} answers for ${revision.acknowledged.length} that ${revision.acknowledged.length === 1 ? 'is' : 'are'} not settled`}
                  {revision.parent !== null && ` · from rev ${revision.parent}`}
                </Typography>
                {hidden > 0 && (
                  <Button
                    size="small"
                    sx={{ display: 'block', p: 0, fontSize: 12 }}
                    onClick={() => unfold((now) => [...now, revision.number])}
                  >
                    and {hidden} before it, kept by {hidden === 1 ? 'itself' : 'themselves'}
                  </Button>
                )}
                {revision.kind === 'issued' && (
                  <Review revision={revision} jobId={jobId} not={list.data?.not_reviewed_by_me ?? ''} />
                )}
              </Box>
              <Button
                size="small"
                disabled={revision.current || restore.isPending}
                color={asking === revision.number ? 'warning' : 'primary'}
                onClick={() => (asking === revision.number ? restore.mutate(revision.number) : ask(revision.number))}
              >
                {asking === revision.number ? 'Open it in place of what stands now' : 'Open'}
              </Button>
            </Box>
          ))}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </>
  )
}

/** Revisions that were kept by themselves one after another as one line, the newest of them; named and issued ones always stand. */
function folded(revisions: RevisionOut[], unfolded: number[]): { revision: RevisionOut; hidden: number }[] {
  const shown: { revision: RevisionOut; hidden: number }[] = []
  let head: number | null = null // of the run that is gone through
  for (const revision of revisions) {
    const inRun = head !== null && revision.kind === 'sealed' && !revision.current
    const last = shown.at(-1)
    if (inRun && last && !unfolded.includes(head!)) last.hidden += 1
    else shown.push({ revision, hidden: 0 })
    if (!inRun) head = revision.kind === 'sealed' ? revision.number : null
  }
  return shown
}
