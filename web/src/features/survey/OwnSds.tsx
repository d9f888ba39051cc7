import { Box, Button, Typography } from '@mui/material'
import { useState } from 'react'
import type { SurveyEntry, SurveyOut, TakenReading } from '../../api'
import { useMe } from '../../app/me'
import { newId } from '../../app/session'
import { NumberField } from '../../quantity'
import { Pick, TextRow } from '../../ui'
import { INSTRUMENTS } from './kinds'

/** How sure somebody's readings with an instrument are, in place of what is usual for it: for all of theirs that say nothing else. */
export function OwnSds(props: {
  survey: SurveyOut
  onAdd: (entry: SurveyEntry, done: () => void) => void
  busy: boolean
}) {
  const { survey, onAdd, busy } = props
  const signed = useMe()?.me?.name
  const [typed, setTyped] = useState('')
  const [instrument, setInstrument] = useState<TakenReading['instrument']>('tape')
  const [mm, setMm] = useState<number | null>(null)
  const [deg, setDeg] = useState<number | null>(null)
  const who = signed ?? typed.trim()
  const usual = survey.usual[instrument] as number[] | undefined
  return (
    <>
      <Box component="ul" aria-label="How sure whose readings are" sx={{ listStyle: 'none', m: 0, p: 0, fontSize: 14 }}>
        {survey.own.map((one) => (
          <li key={one.id}>
            <b>{one.who}</b>, {one.instrument}: ± {one.mm} mm, ± {one.deg}°
          </li>
        ))}
      </Box>
      {survey.elsewhere.length > 0 && (
        <Box component="ul" aria-label="Said in other jobs" sx={{ listStyle: 'none', m: 0, p: 0, fontSize: 14 }}>
          {survey.elsewhere.map((one) => (
            <li key={one.id}>
              In another job: <b>{one.who}</b>, {one.instrument}: ± {one.mm} mm, ± {one.deg}°{' '}
              <Button size="small" disabled={busy} onClick={() => onAdd({ ...one, id: newId() }, () => undefined)}>
                Take it over
              </Button>
            </li>
          ))}
        </Box>
      )}
      {signed ? (
        <Typography variant="body2">Yours, {signed}:</Typography>
      ) : (
        <TextRow label="Whose" value={typed} optional onChange={setTyped} maxLength={200} />
      )}
      <Pick
        label="With"
        value={instrument}
        options={INSTRUMENTS.map((one) => ({ value: one, label: one }))}
        onChange={(value) => setInstrument(value as TakenReading['instrument'])}
        note={usual ? `Usual: ± ${usual[0]} mm, ± ${usual[1]}°.` : undefined}
      />
      <NumberField label="Lengths ±" value={mm} unit="mm" min={0.001} max={1000} optional onChange={setMm} />
      <NumberField label="Angles ±" value={deg} unit="°" min={0.001} max={1000} optional onChange={setDeg} />
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
        One standard deviation: two of three readings lie within it. Left empty it is as usual.
      </Typography>
      <Button
        size="small"
        disabled={busy || !who || (mm === null && deg === null)}
        onClick={() =>
          onAdd(
            { sort: 'own', id: newId(), who, instrument, mm: mm ?? usual?.[0] ?? 1, deg: deg ?? usual?.[1] ?? 1 },
            () => {
              setMm(null)
              setDeg(null)
            },
          )
        }
      >
        Keep it
      </Button>
    </>
  )
}
