import { Box, Button, Typography } from '@mui/material'
import { useState } from 'react'
import type { AngleTaken, BuiltEntry, CanRead, LengthValue } from '../../api'
import { newId } from '../../app/session'
import { LengthField, NumberField } from '../../quantity'
import { Fold, Pick, Problem, Segmented, TextRow } from '../../ui'
import { FromGauge } from './FromGauge'
import { INSTRUMENTS, MEASURES, measureOf, ofAxle } from './measures'

interface Props {
  ends: CanRead[]
  onTake: (entry: BuiltEntry, done: () => void) => void
  busy: boolean
  error: unknown
}

/** One angle as it is read, with where the wheel stood. All but the figure stays for the next one. */
export function TakeAngle({ ends, onTake, busy, error }: Props) {
  const [endId, setEnd] = useState('')
  const [wheel, setWheel] = useState<'left' | 'right'>('left')
  const [wanted, setMeasure] = useState<AngleTaken['measure']>('camber_deg')
  const [deg, setDeg] = useState<number | null>(null)
  const [risen, setRisen] = useState<LengthValue | null>(null)
  const [roll, setRoll] = useState<number | null>(null)
  const [steer, setSteer] = useState<number | null>(null)
  const [rack, setRack] = useState<LengthValue | null>(null)
  const [instrument, setInstrument] = useState<AngleTaken['instrument']>('inclinometer')
  const [sd, setSd] = useState<number | null>(null)
  const [who, setWho] = useState('')
  const [onFloor, setOnFloor] = useState(false)
  const end = ends.find((one) => one.end === endId) ?? ends[0]
  if (!end) return null
  const options = MEASURES.filter((one) => end.measures.includes(one.value))
  const measure = options.some((one) => one.value === wanted) ? wanted : 'camber_deg'
  const take = () =>
    deg !== null &&
    onTake(
      {
        sort: 'angle', id: newId(), end: end.end, wheel, measure, deg, risen: { mm: risen?.mm ?? 0, typed: risen?.typed ?? null },
        roll_deg: end.beam ? (roll ?? 0) : 0, steer: end.steered === 'mm' ? (rack?.mm ?? 0) : end.steered ? (steer ?? 0) : 0, sd, on_floor: onFloor, instrument, who, note: '',
      }, // prettier-ignore
      () => setDeg(null),
    )
  return (
    <Box component="section" aria-label="Read an angle">
      {ends.length > 1 && (
        <Pick
          label="End"
          value={end.end}
          options={ends.map((one) => ({ value: one.end, label: one.name }))}
          onChange={setEnd}
        />
      )}
      <Pick
        label="What is read"
        value={measure}
        options={options}
        onChange={(value) => {
          const next = value as AngleTaken['measure']
          setMeasure(next)
          setInstrument(measureOf(next).with)
        }}
        note={measureOf(measure).note}
      />
      {!ofAxle(measure) && (
        <Box sx={{ mb: 1 }}>
          <Segmented
            label="Wheel"
            value={wheel}
            onChange={setWheel}
            options={[
              { value: 'left', label: 'left wheel' },
              { value: 'right', label: 'right wheel' },
            ]}
          />
        </Box>
      )}
      <LengthField
        label={end.beam ? 'Axle’s middle over ride height' : 'Wheel over ride height'}
        value={risen}
        signed
        optional
        placeholder="ride"
        onChange={setRisen}
      />
      {end.beam && (
        <NumberField
          label="Rolled"
          value={roll}
          unit="°"
          min={-90}
          max={90}
          optional
          placeholder="level"
          onChange={setRoll}
        />
      )}
      {end.steered === 'mm' && (
        <LengthField
          label="Rack moved to the left"
          value={rack}
          signed
          optional
          placeholder="none"
          onChange={setRack}
        />
      )}
      {end.steered === 'deg' && (
        <NumberField
          label="Arm turned to the left"
          value={steer}
          unit="°"
          min={-90}
          max={90}
          optional
          placeholder="none"
          onChange={setSteer}
        />
      )}
      <NumberField label="Read" value={deg} unit="°" min={-90} max={90} optional onChange={setDeg} />
      {instrument === 'inclinometer' && <FromGauge gauge="inclinometer" unit="deg" onRead={setDeg} />}
      <Fold title="More of it" note={[instrument, who].filter(Boolean).join(', ')}>
        <Pick
          label="With"
          value={instrument}
          options={INSTRUMENTS.map((one) => ({ value: one, label: one }))}
          onChange={(value) => setInstrument(value as AngleTaken['instrument'])}
        />
        <NumberField
          label="Sure to ±"
          value={sd}
          unit="°"
          min={0.001}
          max={90}
          optional
          placeholder="0.1"
          onChange={setSd}
        />
        <Segmented
          label="It stands"
          value={onFloor ? 'floor' : 'level'}
          onChange={(value) => setOnFloor(value === 'floor')}
          options={[
            { value: 'level', label: 'level' },
            { value: 'floor', label: 'on the survey’s floor' },
          ]}
        />
        <TextRow label="Who" value={who} optional onChange={setWho} maxLength={200} />
      </Fold>
      {Boolean(error) && <Problem error={error} />}
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', mt: 1 }}>
        <Button variant="contained" disabled={busy || deg === null} onClick={take}>
          Put it down
        </Button>
        <Typography variant="caption" sx={{ color: 'text.secondary' }}>
          {deg === null ? 'Still to say: the figure.' : ''}
        </Typography>
      </Box>
    </Box>
  )
}
