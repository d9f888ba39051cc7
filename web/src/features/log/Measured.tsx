import { Box, Button, Typography } from '@mui/material'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api, type LengthValue, type TravelRow, type WantedOut } from '../../api'
import { newId, useSessionPart } from '../../app/session'
import { LengthField, Told, useUnits } from '../../quantity'
import { FromGauge } from './FromGauge'
import { Busy, Fold, KeptLine, Problem, TextRow } from '../../ui'

/** What one hand of a part is measured by, what was read of it, and what that comes to; every reading is kept. */
export function Measured({ row }: { row: TravelRow }) {
  const jobId = useSessionPart((state) => state.jobId)
  const queries = useQueryClient()
  const [instrument, setInstrument] = useState('')
  const path = { job_id: jobId, part_id: row.part_id }
  const key = ['measured', jobId, row.part_id, row.hand, row.metal]
  const found = useQuery({
    queryKey: key,
    queryFn: () =>
      answer(
        api.GET('/api/jobs/{job_id}/measured/{part_id}', { params: { path, query: { hand: row.hand } as object } }),
      ),
    staleTime: 0,
  })
  const keep = useMutation({
    mutationFn: ({ what, mm, made, by }: { what: string; mm: number; made: 'tacked' | 'cold'; by: string }) =>
      answer(
        api.POST('/api/jobs/{job_id}/measured/{part_id}', {
          params: { path },
          body: {
            ...{
              id: newId(),
              hand: row.hand as 'left',
              metal: row.metal,
              what,
              mm,
              made,
              instrument: by || instrument,
            },
            ...{ who: '', note: '' },
          },
        }),
      ),
    onSuccess: (after) => {
      queries.setQueryData(key, after)
      void queries.invalidateQueries({ queryKey: ['made', jobId] })
    },
  })
  if (found.error) return <Problem error={found.error} retry={() => void found.refetch()} />
  if (!found.data) return <Busy what="Reading what it is measured by" />
  const { wanted, why, other_metal: other, not_here: notHere } = found.data
  const out = wanted.filter((one) => one.read.at(-1)?.inside === false).length
  const read = wanted.filter((one) => one.read.length > 0).length
  return (
    <Fold
      title="Measured against wanted"
      note={
        out > 0
          ? `${out} out`
          : `${read} of ${wanted.length} read${read === wanted.length && read > 0 ? ', all within' : ''}`
      }
    >
      {wanted.map((one) => (
        <Row
          key={one.key}
          one={one}
          busy={keep.isPending}
          onKeep={(mm, made, by, done) => keep.mutate({ what: one.key, mm, made, by }, { onSuccess: done })}
        />
      ))}
      {keep.error && <Problem error={keep.error} />}
      {wanted.length > 0 && (
        <TextRow label="With" value={instrument} optional maxLength={200} onChange={setInstrument} />
      )}
      {why && <Typography variant="body2">As its card has it, or by its drawing. {why}</Typography>}
      {other > 0 && (
        <KeptLine amber>
          {other} {other === 1 ? 'reading was' : 'readings were'} of it with other metal, and count for nothing here.
        </KeptLine>
      )}
      <Typography variant="caption" sx={{ color: 'text.secondary', display: 'block' }}>
        Not here: {notHere.join('; ')}.
      </Typography>
    </Fold>
  )
}

interface RowProps {
  one: WantedOut
  busy: boolean
  onKeep: (mm: number, made: 'tacked' | 'cold', by: string, done: () => void) => void
}

function Row({ one, busy, onKeep }: RowProps) {
  const { main } = useUnits()
  const [value, setValue] = useState<LengthValue | null>(null)
  const [by, setBy] = useState('') // the gauge, of what was read by it and not typed since
  const take = (read: LengthValue | null, from = '') => {
    setValue(read)
    setBy(from)
  }
  const give = (made: 'tacked' | 'cold') => {
    if (value) onKeep(value.mm, made, by, () => take(null))
  }
  return (
    <Box sx={{ borderTop: 1, borderColor: 'divider', py: 0.75 }}>
      <Typography variant="body2">
        {one.what}: <b>{main(one.mm)}</b> ± {main(one.tolerance_mm)}
      </Typography>
      {one.read.map((read) => (
        <KeptLine key={read.id} amber={!read.inside}>
          {main(read.mm)}, {read.made}
          {read.instrument && `, ${read.instrument}`}
          {read.who && `, ${read.who}`}, {new Date(read.at).toLocaleString()}: <Told>{read.says}</Told>
          {read.note && `; ${read.note}`}
        </KeptLine>
      ))}
      <LengthField
        label={`Read: ${one.what}`}
        hideLabel
        placeholder="read"
        value={value}
        signed={one.sort === 'signed'}
        optional
        onChange={(read) => take(read)}
      />
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <FromGauge gauge="calliper" unit="mm" onRead={(mm) => take({ mm, typed: null }, 'calliper, from the gauge')} />
        <Button size="small" disabled={busy || !value} onClick={() => give('tacked')}>
          Keep, tacked
        </Button>
        <Button size="small" disabled={busy || !value} onClick={() => give('cold')}>
          Keep, cold
        </Button>
      </Box>
    </Box>
  )
}
