import { Alert, Box, Button, Link, Typography } from '@mui/material'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api, type CuttingOut } from '../../api'
import { newId, useSessionPart } from '../../app/session'
import { MmField, Told, useUnits } from '../../quantity'
import { Problem, Section, TextRow } from '../../ui'
import { keptKey } from './keep'

type Cutting = CuttingOut
const STATES = { kept: 'not cut yet', cut: 'cut', undone: 'taken back' }
const KERF = 1.2 // mm, of the simulated table
const LEAST = 150 // mm: what is shorter holds in no vice; common practice

const pathOf = (jobId: string) => ({ path: { job_id: jobId } })

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
  const [heat, setHeat] = useState('')
  const act = useMutation({
    mutationFn: ({ one, what }: { one: Cutting; what: 'confirm' | 'undo' | 'remove' }) => {
      const params = { path: { job_id: jobId, cutting_id: one.id } }
      if (what === 'undo')
        return answer(api.POST('/api/jobs/{job_id}/cuttings/{cutting_id}/undo', { params, body: {} }))
      if (what === 'remove')
        return answer(api.POST('/api/jobs/{job_id}/cuttings/{cutting_id}/remove', { params, body: {} }))
      const ids = Array.from(
        { length: Math.min(400, Math.max(one.sheets.length, one.sticks?.sticks.length ?? 0)) },
        newId,
      )
      return answer(
        api.POST('/api/jobs/{job_id}/cuttings/{cutting_id}/confirm', {
          params,
          body: { ids, least_mm: least, place, heat },
        }),
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
      note="as they were laid out, never worked out again; when one is cut, its sticks or sheets go off the rack and what is left goes on it, where you say"
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
        <Box sx={{ width: 300 }}>
          <TextRow label="Heat of what was bought" optional value={heat} maxLength={40} onChange={setHeat} />
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
  const jobId = useSessionPart((state) => state.jobId)
  const changed = useChangedSince(one)
  const file = (name: string) => `/api/jobs/${jobId}/cuttings/${one.id}/${name}`
  return (
    <Box component="li" sx={{ py: 1, borderBottom: 1, borderColor: 'divider' }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
        <Typography sx={{ flex: 1, minWidth: 240, fontWeight: 600 }}>
          <Told>{one.title}</Told>
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
        <Told>{one.told}</Told> · {one.revision}
      </Typography>
      {changed.length > 0 && (
        <Alert severity="warning" variant="outlined" sx={{ my: 1 }}>
          Changed since it was laid out: {changed.join(', ')}. Lay it out again before it is cut.
        </Alert>
      )}
      {one.sticks && (
        <Box component="ol" sx={{ m: 0, pl: 3, fontSize: 13 }}>
          {one.sticks.sticks.map((stick, i) => (
            <li key={i}>
              {stickOf(one.sticks!, stick.row_id)}, {main(stick.length_mm)}:{' '}
              {stick.pieces.map((piece) => `${main(piece.length_mm)} ${piece.what}`).join(' + ')}; {main(stick.left_mm)}{' '}
              left
            </li>
          ))}
        </Box>
      )}
      {one.sheets.map((sheet, i) => (
        <Typography key={i} variant="body2">
          {sheet.title}, {sheet.plates} plates
          {sheet.left_mm > 0 && `; ${main(sheet.left_mm)} × ${main(sheet.width_mm)} left`}:{' '}
          <Link href={file(`sheet-${i + 1}.dxf`)}>DXF at 1:1</Link>
        </Typography>
      ))}
      {one.sticks && (
        <Typography variant="body2">
          <Link href={file('cut-order.csv')}>Cut order, CSV</Link>
        </Typography>
      )}
      <OnMachine one={one} />
    </Box>
  )
}

/** Parts whose metal is another than when it was laid out, or that are not there any more. */
function useChangedSince(one: Cutting): string[] {
  const parts = useSessionPart((state) => state.evaluation?.parts)
  if (!parts) return []
  const metals = new Map(parts.map((part) => [part.id, part.metal]))
  return one.parts.filter((part) => metals.get(part.id) !== part.metal).map((part) => part.name)
}

/** The layout on the machine that stands in for the shop's: what it cut, or what it refuses. */
function OnMachine({ one }: { one: Cutting }) {
  const jobId = useSessionPart((state) => state.jobId)
  const run = useMutation({
    mutationFn: () => {
      const params = { path: { job_id: jobId, cutting_id: one.id } }
      return answer(api.POST('/api/jobs/{job_id}/cuttings/{cutting_id}/machine', { params, body: { kerf_mm: KERF } }))
    },
  })
  const refused = run.data?.runs.filter((cut) => cut.faults.length > 0) ?? []
  return (
    <>
      <Button size="small" disabled={run.isPending} onClick={() => run.mutate()}>
        {one.sticks ? 'Try it on the simulated saw' : 'Try it on the simulated table'}
      </Button>
      {run.error && <Problem error={run.error} />}
      {run.data && (
        <Box role="status" aria-label={`What the machine says of ${one.title}`} sx={{ fontSize: 13 }}>
          {refused.map((cut) => (
            <Alert key={cut.what} severity="error" variant="outlined" sx={{ mb: 1 }}>
              {cut.what}: <Told>{cut.faults.join(' ')}</Told>
            </Alert>
          ))}
          <Box component="ol" sx={{ m: 0, pl: 3 }}>
            {run.data.runs
              .filter((cut) => cut.told)
              .map((cut, i) => (
                <li key={i}>
                  {cut.what}: <Told>{cut.told}</Told>
                </li>
              ))}
          </Box>
          {refused.length === 0 && (
            <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
              {run.data.machine}, about {Math.max(1, Math.round(run.data.seconds / 60))} min: an invented machine, whose
              own time and refusals are not yours.
            </Typography>
          )}
        </Box>
      )}
    </>
  )
}

/** Which stick it is, and its heat where the shop keeps it. */
function stickOf(cutting: NonNullable<Cutting['sticks']>, id: string | null): string {
  const row = cutting.rows.find((one) => one.id === id)
  const heat = id ? row?.heat : cutting.new_heat
  return `${id ? row?.place || 'from the rack' : 'new stick'}${heat ? `, heat ${heat}` : ''}`
}
