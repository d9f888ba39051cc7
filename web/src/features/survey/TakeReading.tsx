import { Box, Button, Typography } from '@mui/material'
import { useState } from 'react'
import type { LengthValue, SurveyEntry, SurveyOut, TakenReading } from '../../api'
import { newId } from '../../app/session'
import { LengthField, NumberField, useUnits } from '../../quantity'
import { Choice, Fold, Pick, Problem, TextRow } from '../../ui'
import { INSTRUMENTS, KINDS, SIDES, isAngle, kindOf, touches } from './kinds'

interface Props {
  places: SurveyOut['places']
  onTake: (entry: SurveyEntry, done: () => void) => void
  busy: boolean
  error: unknown
}

const BAR = ['Mark ahead', 'Mark behind', 'Marks apart']
const SWING = ['Camber turned out', 'Camber turned in', 'Turned by']
const plain = ({ mm, typed }: LengthValue) => ({ mm, typed: typed ?? null })

/** One reading as it is taken. What it is of stays for the next one; the figure does not. */
export function TakeReading({ places, onTake, busy, error }: Props) {
  const { unit } = useUnits()
  const [kind, setKind] = useState<TakenReading['kind']>('distance')
  const [of, setOf] = useState<(string | null)[]>([null, null, null])
  const [read, setRead] = useState<LengthValue | null>(null)
  const [deg, setDeg] = useState<number | null>(null)
  const [bar, setBar] = useState<(LengthValue | null)[]>([null, null, null]) // ahead, behind, apart
  const [swing, setSwing] = useState<(number | null)[]>([null, null, 20]) // turned out, turned in, by how much
  const [added, setAdded] = useState<LengthValue | null>(null)
  const [why, setWhy] = useState('')
  const [sides, setSides] = useState<(typeof SIDES)[number]['value'][]>(['centre', 'centre'])
  const [rounds, setRounds] = useState<(LengthValue | null)[]>([null, null])
  const [shims, setShims] = useState<LengthValue | null>(null)
  const [instrument, setInstrument] = useState<TakenReading['instrument']>('tape')
  const [sd, setSd] = useState<number | null>(null)
  const [setUp, setSetUp] = useState('')
  const [who, setWho] = useState('')
  const chosen = kindOf(kind)
  const bars = kind === 'bar'
  const swings = kind === 'swing'
  const angle = isAngle(kind)
  const options = places.map((place) => ({ key: place.key, label: place.name }))
  const named = of.slice(0, chosen.of.length)
  const [ahead, behind, apart] = bar
  const [out, inwards, turn] = swing
  const figure = bars
    ? Boolean(ahead && behind && apart)
    : swings
      ? out != null && inwards != null && turn != null
      : angle
        ? deg !== null
        : read !== null
  const touched = touches(kind)
  const unknown = touched.findIndex((_, i) => sides[i] !== 'centre' && !rounds[i])
  const lacks = named.includes(null)
    ? 'what it is of'
    : figure
      ? added && !why
        ? 'what is added'
        : unknown >= 0
          ? 'the diameter that was touched'
          : kind === 'face' && !shims
            ? 'shims in the jig, 0 where there are none'
            : null
      : 'the figure'
  const take = () =>
    onTake(
      {
        sort: 'reading', id: newId(), kind, of: named.filter((one) => one !== null), read: angle ? null : read, unit, deg: angle && !bars && !swings ? deg : null,
        bar: bars && ahead && behind && apart ? { ahead: plain(ahead), behind: plain(behind), apart: plain(apart) } : null,
        swing: swings && out != null && inwards != null ? { turned_out: out, turned_in: inwards, turn_deg: turn ?? 20 } : null,
        added: [
          ...(added && !angle ? [{ what: why, mm: added.mm }] : []),
          ...(kind === 'face' && shims?.mm ? [{ what: 'shims in the jig', mm: -shims.mm }] : []),
        ],
        touched: touched.some((_, i) => sides[i] !== 'centre')
          ? touched.map((_, i) => ({ at: sides[i] ?? 'centre', diameter: sides[i] === 'centre' ? null : (rounds[i] ?? null) }))
          : [],
        instrument, sd, set_up: setUp, who, note: '',
      }, // prettier-ignore
      () => {
        setRead(null)
        setDeg(null)
        setBar([null, null, apart ?? null])
        setSwing([null, null, turn ?? null])
      },
    )
  return (
    <Box component="section" aria-label="Take a reading">
      <Pick
        label="What is read"
        value={kind}
        options={KINDS}
        onChange={(value) => {
          const next = value as TakenReading['kind']
          setKind(next)
          setInstrument(kindOf(next).with)
        }}
        note={chosen.note}
      />
      {chosen.of.map((label, i) => (
        <Choice
          key={label}
          label={label}
          value={of[i] ?? null}
          options={options}
          empty="No such place. Points come from station 2; other places are marks, below."
          onChange={(key) => setOf(of.map((one, j) => (i === j ? key : one)))}
        />
      ))}
      {touched.map((label, i) => (
        <Box key={label}>
          <Pick
            label={`${label}, touched`}
            value={sides[i] ?? 'centre'}
            options={SIDES}
            onChange={(side) =>
              setSides(sides.map((one, j) => (i === j ? (side as (typeof SIDES)[number]['value']) : one)))
            }
          />
          {sides[i] !== 'centre' && (
            <LengthField
              label="⌀ of the hole, head or tube"
              value={rounds[i] ?? null}
              optional
              onChange={(value) => setRounds(rounds.map((one, j) => (i === j ? value : one)))}
            />
          )}
        </Box>
      ))}
      {kind === 'face' && (
        <LengthField label="Shims in the jig" value={shims} optional placeholder="0 = none" onChange={setShims} />
      )}
      {bars ? (
        BAR.map((label, i) => (
          <LengthField
            key={label}
            label={label}
            value={bar[i] ?? null}
            signed={i < 2}
            optional
            onChange={(value) => setBar(bar.map((one, j) => (i === j ? value : one)))}
          />
        ))
      ) : swings ? (
        SWING.map((label, i) => (
          <NumberField
            key={label}
            label={label}
            value={swing[i] ?? null}
            unit="°"
            min={i < 2 ? -45 : 2}
            max={45}
            optional
            onChange={(value) => setSwing(swing.map((one, j) => (i === j ? value : one)))}
          />
        ))
      ) : angle ? (
        <NumberField label="Read" value={deg} unit="°" min={-360} max={360} optional onChange={setDeg} />
      ) : (
        <LengthField label="Read" value={read} signed optional onChange={setRead} />
      )}
      <Pick
        label="With"
        value={instrument}
        options={INSTRUMENTS.map((one) => ({ value: one, label: one }))}
        onChange={(value) => setInstrument(value as TakenReading['instrument'])}
      />
      <Fold
        title="More of it"
        note={[added && why, who, setUp].filter(Boolean).join(', ') || 'something added, who, set-up'}
      >
        {!angle && (
          <>
            <LengthField label="Added" value={added} signed optional onChange={setAdded} />
            {added && (
              <TextRow
                label="is"
                value={why}
                onChange={setWhy}
                problem={
                  why
                    ? undefined
                    : 'Say what it is: half of both holes, the tube’s radius, a shim (taken off: negative).'
                }
                maxLength={200}
              />
            )}
          </>
        )}
        <NumberField
          label="Sure to ±"
          value={sd}
          unit={angle && !bars ? '°' : 'mm'}
          min={0.001}
          max={1000}
          optional
          placeholder="usual"
          onChange={setSd}
        />
        <TextRow label="Set-up" value={setUp} optional onChange={setSetUp} maxLength={200} />
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
          Readings of one thing in one set-up share its error: ten of them are no surer than one.
        </Typography>
        <TextRow label="Who" value={who} optional onChange={setWho} maxLength={200} />
      </Fold>
      {Boolean(error) && <Problem error={error} />}
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', mt: 1 }}>
        <Button variant="contained" disabled={busy || lacks !== null} onClick={take}>
          Put it down
        </Button>
        <Typography variant="caption" sx={{ color: 'text.secondary' }}>
          {lacks ? `Still to say: ${lacks}.` : ''}
        </Typography>
      </Box>
    </Box>
  )
}
