import { Alert, Box, Button, Checkbox, FormControlLabel, Typography } from '@mui/material'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api } from '../../api'
import { useSessionPart, useTheSession } from '../../app/session'
import { DrawingView } from '../../drawing'
import { Told } from '../../quantity'
import { Fold, Problem } from '../../ui'

const MOST = 200 // that the server tells

interface ChosenProps {
  going: boolean
  issued: number | null
  onMake: (what: 'pack.zip' | 'pack.pdf', parts: string[]) => void
}

/** A pack, sheets or labels of some parts alone: of what is issued where anything is, else of the draft. */
export function ChosenParts({ going, issued, onMake }: ChosenProps) {
  const parts = useSessionPart((state) => state.evaluation?.parts) ?? []
  const jobId = useSessionPart((state) => state.jobId)
  const session = useTheSession()
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set())
  const some = parts.filter((part) => chosen.has(part.id)).map((part) => part.id)
  const labels = useMutation({
    mutationFn: async () => {
      if (!(await session.saveNow())) throw new Error('not saved')
      const params = { path: { job_id: jobId } }
      return answer(api.POST('/api/jobs/{job_id}/labels', { params, body: { parts: some.length ? some : null } }))
    },
  })
  const turn = (id: string) =>
    setChosen((now) => {
      const next = new Set(now)
      if (!next.delete(id)) next.add(id)
      return next
    })
  const printed = labels.data
  return (
    <>
      <Fold title="Chosen parts" note={some.length ? `${some.length} chosen` : 'all, until some are chosen'}>
        <Box sx={{ maxHeight: 220, overflowY: 'auto', mb: 1 }} role="group" aria-label="Parts to print">
          {parts.map((part) => (
            <FormControlLabel
              key={part.id}
              sx={{ display: 'flex', mr: 0, '& .MuiFormControlLabel-label': { fontSize: 14 } }}
              control={<Checkbox size="small" checked={chosen.has(part.id)} onChange={() => turn(part.id)} />}
              label={part.name}
            />
          ))}
        </Box>
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary', mb: 1 }}>
          {issued === null ? 'Of the draft, marked so.' : `Of rev ${issued}, which is issued.`}
        </Typography>
        <Box sx={{ display: 'grid', gap: 1 }}>
          <Button variant="outlined" disabled={going || !some.length} onClick={() => onMake('pack.zip', some)}>
            Pack of these
          </Button>
          <Button variant="outlined" disabled={going || !some.length} onClick={() => onMake('pack.pdf', some)}>
            Sheets of these
          </Button>
          <Button variant="outlined" disabled={labels.isPending} onClick={() => labels.mutate()}>
            {some.length ? 'Labels of these' : 'Labels of all'}
          </Button>
        </Box>
      </Fold>
      {labels.error && <Problem error={labels.error} />}
      {printed && (
        <Box role="region" aria-label="What the label printer prints" tabIndex={0} sx={{ my: 1 }}>
          <Typography variant="caption" component="p" sx={{ color: 'text.secondary', mb: 0.5 }}>
            {printed.printer}, {printed.labels.length} labels of rev {printed.number}
          </Typography>
          <Box sx={{ maxHeight: 360, overflowY: 'auto', display: 'grid', gap: 1 }}>
            {printed.labels.map((label, i) => (
              <DrawingView key={i} drawing={label.drawing} />
            ))}
          </Box>
          {printed.left_out.length > 0 && (
            <Alert severity="warning" variant="outlined">
              Without a label: <Told>{printed.left_out.join('; ')}</Told>
            </Alert>
          )}
        </Box>
      )}
    </>
  )
}

/** What was printed, and which parts on it are other in the job as it stands. */
export function Printed({ version }: { version: string }) {
  const jobId = useSessionPart((state) => state.jobId)
  const found = useQuery({
    queryKey: ['prints', jobId, version],
    queryFn: ({ signal }) =>
      answer(api.GET('/api/jobs/{job_id}/prints', { params: { path: { job_id: jobId } }, signal })),
    staleTime: 0,
    placeholderData: (before) => before,
  })
  const prints = found.data?.prints ?? []
  if (found.error) return <Problem error={found.error} />
  if (prints.length === 0) return null
  const old = prints.filter((one) => one.changed.length + one.gone.length > 0).length
  return (
    <Fold
      title="Printed"
      note={`${old ? `${old} of ${prints.length} out of date` : 'every part’s metal is as it was printed'}${prints.length === MOST ? ', the latest 200' : ''}`}
      open={old > 0}
      wrong={old > 0}
    >
      <Box component="ul" aria-label="What was printed" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {prints.map((one, i) => (
          <Box component="li" key={i} sx={{ py: 0.75, borderTop: i ? 1 : 0, borderColor: 'divider' }}>
            <Typography variant="body2">
              {one.what} of rev {one.number}
              {!one.issued && ', draft'}, {one.parts} {one.parts === 1 ? 'part' : 'parts'},{' '}
              {new Date(one.last_at).toLocaleDateString()}
              {one.times > 1 && `, ${one.times} times`}
            </Typography>
            {one.changed.length > 0 && (
              <Typography variant="body2" sx={{ color: 'warning.main', fontWeight: 700 }}>
                Other now: {one.changed.join(', ')}
              </Typography>
            )}
            {one.gone.length > 0 && (
              <Typography variant="body2" sx={{ color: 'warning.main', fontWeight: 700 }}>
                Not in the job any more: {one.gone.join(', ')}
              </Typography>
            )}
          </Box>
        ))}
      </Box>
    </Fold>
  )
}
