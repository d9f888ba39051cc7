import { Box, Button, Typography } from '@mui/material'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api, type CuttingOut } from '../../api'
import { newId, useSessionPart } from '../../app/session'
import { MmField, Told, useUnits } from '../../quantity'
import { Problem, Section, TextRow } from '../../ui'

type Cutting = CuttingOut
const STATES = { kept: 'not cut yet', cut: 'cut', undone: 'taken back' }
const LEAST = 150 // mm: what is shorter holds in no vice; common practice

const pathOf = (jobId: string) => ({ path: { job_id: jobId } })
export const keptKey = (jobId: string) => ['cuttings', jobId]

/** Layouts that are kept: when one is cut its sticks go off the rack and what is left goes on it, and it can be taken back. */
export function Kept() {
  const jobId = useSessionPart((state) => state.jobId)
  const queries = useQueryClient()
  const kept = useQuery({
    queryKey: keptKey(jobId),
    queryFn: ({ signal }) => answer(api.GET('/api/jobs/{job_id}/cuttings', { params: pathOf(jobId), signal })),
  })
  const [least, setLeast] = useState(LEAST)
  const [place, setPlace] = useState('')
  const act = useMutation({
    mutationFn: ({ one, what }: { one: Cutting; what: 'confirm' | 'undo' | 'remove' }) => {
      const params = { path: { job_id: jobId, cutting_id: one.id } }
      if (what === 'undo')
        return answer(api.POST('/api/jobs/{job_id}/cuttings/{cutting_id}/undo', { params, body: {} }))
      if (what === 'remove')
        return answer(api.POST('/api/jobs/{job_id}/cuttings/{cutting_id}/remove', { params, body: {} }))
      const ids = Array.from({ length: Math.min(400, one.cutting.sticks.length) }, newId)
      return answer(
        api.POST('/api/jobs/{job_id}/cuttings/{cutting_id}/confirm', { params, body: { ids, least_mm: least, place } }),
      )
    },
    onSuccess: (found) => {
      queries.setQueryData(keptKey(jobId), found)
      void queries.invalidateQueries({ queryKey: ['rack'] })
    },
    onError: () => void kept.refetch(),
  })
  const every = kept.data?.cuttings ?? []
  if (every.length === 0) return kept.error ? <Problem error={kept.error} /> : null
  return (
    <Section
      title="Layouts kept"
      note="as they were laid out, never worked out again; when one is cut, its sticks go off the rack and what is left goes on it, where you say"
    >
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-end', flexWrap: 'wrap', mb: 1 }}>
        <Box sx={{ width: 240 }}>
          <MmField
            label="Scrap is shorter than"
            value={least}
            min={0}
            max={100_000}
            onChange={(mm) => mm !== null && setLeast(mm)}
          />
        </Box>
        <Box sx={{ width: 240 }}>
          <TextRow label="Where" optional value={place} maxLength={80} onChange={setPlace} />
        </Box>
      </Box>
      {act.error && <Problem error={act.error} />}
      <Box component="ul" aria-label="Layouts kept" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {every.map((one) => (
          <Row key={one.id} one={one} waits={act.isPending} onAct={(what) => act.mutate({ one, what })} />
        ))}
      </Box>
    </Section>
  )
}

function Row({
  one,
  waits,
  onAct,
}: {
  one: Cutting
  waits: boolean
  onAct: (what: 'confirm' | 'undo' | 'remove') => void
}) {
  const { main } = useUnits()
  const { cutting } = one
  return (
    <Box component="li" sx={{ py: 1, borderBottom: 1, borderColor: 'divider' }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
        <Typography sx={{ flex: 1, minWidth: 240, fontWeight: 600 }}>
          {cutting.tube}, {cutting.grade}
        </Typography>
        <Typography sx={{ color: one.state === 'cut' ? 'text.primary' : 'text.secondary' }}>
          {STATES[one.state]}
        </Typography>
        {one.state === 'kept' && (
          <Button size="small" variant="outlined" disabled={waits} onClick={() => onAct('confirm')}>
            It is cut
          </Button>
        )}
        {one.state === 'cut' && (
          <Button size="small" disabled={waits} onClick={() => onAct('undo')}>
            Take it back
          </Button>
        )}
        {one.state !== 'cut' && (
          <Button size="small" color="error" disabled={waits} onClick={() => onAct('remove')}>
            Forget it
          </Button>
        )}
      </Box>
      <Typography variant="body2" sx={{ color: 'text.secondary' }}>
        <Told>{cutting.told}</Told> · {cutting.revision}
      </Typography>
      <Box component="ol" sx={{ m: 0, pl: 3, fontSize: 13 }}>
        {cutting.sticks.map((stick, i) => (
          <li key={i}>
            {stick.row_id ? placeOf(cutting, stick.row_id) : 'new stick'}, {main(stick.length_mm)}:{' '}
            {stick.pieces.map((piece) => `${main(piece.length_mm)} ${piece.what}`).join(' + ')}; {main(stick.left_mm)}{' '}
            left
          </li>
        ))}
      </Box>
    </Box>
  )
}

const placeOf = (cutting: Cutting['cutting'], id: string) =>
  cutting.rows.find((row) => row.id === id)?.place || 'from the rack'
