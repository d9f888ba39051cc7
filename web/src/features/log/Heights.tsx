import { Box, Button, Typography } from '@mui/material'
import { useState } from 'react'
import type { BuiltEntry, BuiltOut, LengthValue } from '../../api'
import { newId } from '../../app/session'
import { LengthField, useUnits } from '../../quantity'
import { KeptLine, KeptRow, Pick, Problem, Segmented, TextRow } from '../../ui'

interface Props {
  built: BuiltOut
  onTake: (entry: BuiltEntry, done: () => void) => void
  onBack: (id: string, why: string) => void
  busy: boolean
  error: unknown
}

/** Ride height as it is measured, the car on its wheels: a place of the chassis over the floor, beside what the layout has. */
export function Heights({ built, onTake, onBack, busy, error }: Props) {
  const { main } = useUnits()
  const ends = built.ends.filter((one) => Object.keys(one.heights).length > 0)
  const [endId, setEnd] = useState('')
  const [side, setSide] = useState<'left' | 'right'>('left')
  const [wanted, setPlace] = useState('')
  const [read, setRead] = useState<LengthValue | null>(null)
  const [tolerance, setTolerance] = useState<LengthValue | null>(null)
  const [who, setWho] = useState('')
  const end = ends.find((one) => one.end === endId) ?? ends[0]
  if (!end) return null
  const place = wanted in end.heights ? wanted : (Object.keys(end.heights)[0] ?? '')
  const called = (of: { end: string; place: string; side: string }) => {
    const its = built.ends.find((one) => one.end === of.end)
    return `${its?.name ?? 'an end that is gone'}, ${its?.heights[of.place] ?? of.place.replaceAll('_', ' ')}, ${of.side}`
  }
  return (
    <Box component="section" aria-label="Read a ride height">
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
        On its wheels, on the floor, driver’s weight in, rolled back and forth first: from the floor under the wheel up
        to the middle of a pick-up.
      </Typography>
      {ends.length > 1 && (
        <Pick
          label="End"
          value={end.end}
          options={ends.map((one) => ({ value: one.end, label: one.name }))}
          onChange={setEnd}
        />
      )}
      <Pick
        label="Pick-up"
        value={place}
        options={Object.entries(end.heights).map(([value, label]) => ({ value, label }))}
        onChange={setPlace}
      />
      <Segmented
        label="Side"
        value={side}
        options={[
          { value: 'left', label: 'left' },
          { value: 'right', label: 'right' },
        ]}
        onChange={setSide}
      />
      <LengthField label="Over the floor" value={read} optional onChange={setRead} />
      <LengthField label="Let through ±" value={tolerance} optional placeholder="3 mm" onChange={setTolerance} />
      <TextRow label="Who" value={who} optional onChange={setWho} maxLength={200} />
      {Boolean(error) && <Problem error={error} />}
      <Button
        size="small"
        variant="contained"
        disabled={busy || !read}
        onClick={() =>
          read &&
          onTake(
            {
              sort: 'height', id: newId(), end: end.end, side, place, read: { mm: read.mm, typed: read.typed ?? null }, tolerance_mm: tolerance?.mm ?? 3, instrument: '', who, note: '',
            }, // prettier-ignore
            () => setRead(null),
          )
        }
      >
        Keep it
      </Button>
      <Box component="ol" aria-label="Ride heights, the latest first" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {built.heights.toReversed().map((one) => (
          <KeptRow
            key={one.taken.id}
            head={<b>{main(one.taken.read.mm)}</b>}
            of={called(one.taken)}
            how={[one.taken.who, new Date(one.made_at).toLocaleString()].filter(Boolean).join(', ')}
            called={`${main(one.taken.read.mm)}, ${called(one.taken)}`}
            back={one.back}
            selected={false}
            onSelect={() => undefined}
            onBack={(why) => onBack(one.taken.id, why)}
            busy={busy}
          >
            <KeptLine amber={!one.inside}>
              {one.wanted !== null && `Wanted ${main(one.wanted)}: `}
              {one.says}.
            </KeptLine>
          </KeptRow>
        ))}
      </Box>
    </Box>
  )
}
