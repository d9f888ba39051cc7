import { Box, Button, Typography } from '@mui/material'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api, type LengthValue, type PartReadOut, type TravelRow, type WantedOut } from '../../api'
import { newId, useSessionPart } from '../../app/session'
import { LengthField, NumberField, Told, useUnits } from '../../quantity'
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
    mutationFn: ({ what, figure, made, by }: { what: string; figure: number; made: Made; by: string }) =>
      answer(
        api.POST('/api/jobs/{job_id}/measured/{part_id}', {
          params: { path },
          body: {
            ...{
              id: newId(),
              hand: row.hand as 'left',
              metal: row.metal,
              what,
              figure,
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
          onKeep={(figure, made, by, done) => keep.mutate({ what: one.key, figure, made, by }, { onSuccess: done })}
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
  onKeep: (figure: number, made: Made, by: string, done: () => void) => void
}

type Made = PartReadOut['made']

function Row({ one, busy, onKeep }: RowProps) {
  const { main } = useUnits()
  const [length, setLength] = useState<LengthValue | null>(null)
  const [torque, setTorque] = useState<number | null>(null)
  const [by, setBy] = useState('') // the gauge, of what was read by it and not typed since
  const take = (read: LengthValue | null, from = '') => {
    setLength(read)
    setBy(from)
  }
  const turned = one.unit === 'N·m'
  const figure = turned ? torque : (length?.mm ?? null)
  const told = (value: number) => (turned ? `${value.toFixed(1)} N·m` : main(value))
  const when = Object.entries(one.when) as [Made, string][]
  const give = (made: Made) => {
    if (figure === null) return
    onKeep(figure, made, by, () => {
      take(null)
      setTorque(null)
    })
  }
  return (
    <Box sx={{ borderTop: 1, borderColor: 'divider', py: 0.75 }}>
      <Typography variant="body2">
        {one.what}: <b>{told(one.figure)}</b> ± {told(one.tolerance)}
      </Typography>
      {one.read.map((read) => (
        <KeptLine key={read.id} amber={!read.inside}>
          {told(read.figure)}, {one.when[read.made] ?? read.made}
          {read.instrument && `, ${read.instrument}`}
          {read.who && `, ${read.who}`}, {new Date(read.at).toLocaleString()}: <Told>{read.says}</Told>
          {read.note && `; ${read.note}`}
        </KeptLine>
      ))}
      {turned ? (
        <NumberField
          label={`Read: ${one.what}`}
          hideLabel
          placeholder="read"
          unit="N·m"
          value={torque}
          optional
          onChange={setTorque}
        />
      ) : (
        <LengthField
          label={`Read: ${one.what}`}
          hideLabel
          placeholder="read"
          value={length}
          signed={one.sort === 'signed'}
          optional
          onChange={(read) => take(read)}
        />
      )}
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        {!turned && (
          <FromGauge
            gauge="calliper"
            unit="mm"
            onRead={(mm) => take({ mm, typed: null }, 'calliper, from the gauge')}
          />
        )}
        {when.map(([made, word]) => (
          <Button key={made} size="small" disabled={busy || figure === null} onClick={() => give(made)}>
            Keep, {word}
          </Button>
        ))}
      </Box>
    </Box>
  )
}
