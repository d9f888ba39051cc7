import { Box, Button, Checkbox, FormControlLabel, Typography } from '@mui/material'
import { useState } from 'react'
import type { LengthValue, SurveyEntry, SurveyOut } from '../../api'
import { newId } from '../../app/session'
import { LengthField, useUnits } from '../../quantity'
import { TextRow } from '../../ui'

interface Props {
  survey: SurveyOut
  onAdd: (entry: SurveyEntry, done: () => void) => void
  onAll: (entries: SurveyEntry[], done: () => void) => void
  busy: boolean
}

/** Marks on car and floor, and the datum in words. */
export function Marks({ survey, onAdd, onAll, busy }: Props) {
  const { main } = useUnits()
  const marks = survey.places.filter((place) => place.key.startsWith('mark:'))
  const [name, setName] = useState('')
  const [at, setAt] = useState<(LengthValue | null)[]>([null, null, null])
  const [fixed, setFixed] = useState(true)
  const [datum, setDatum] = useState<Record<'floor' | 'centre' | 'zero' | 'stands', string> | null>(null)
  const said = datum ?? {
    floor: survey.datum?.floor ?? '', centre: survey.datum?.centre ?? '', zero: survey.datum?.zero ?? '', stands: survey.datum?.stands ?? '',
  } // prettier-ignore
  const near = at.map((one) => one?.mm ?? 0)
  return (
    <>
      <Box component="ul" aria-label="Marks" sx={{ listStyle: 'none', m: 0, mb: 1, p: 0, fontSize: 14 }}>
        {marks.map((mark) => (
          <li key={mark.key}>
            <b>{mark.name}</b>: {mark.fixed ? 'taken as true' : 'looked for, near'}{' '}
            {(mark.near as number[]).map((value) => main(value)).join(', ')}
          </li>
        ))}
        {marks.length === 0 && (
          <Box component="li" sx={{ color: 'text.secondary' }}>
            None yet: a punch mark, a nail in the floor, a hole of the frame.
          </Box>
        )}
      </Box>
      <TextRow label="Mark" value={name} optional onChange={setName} />
      {['ahead', 'left', 'up'].map((label, i) => (
        <LengthField
          key={label}
          label={label}
          value={at[i] ?? null}
          signed
          optional
          onChange={(value) => setAt(at.map((one, j) => (i === j ? value : one)))}
        />
      ))}
      <FormControlLabel
        control={<Checkbox size="small" checked={fixed} onChange={(event) => setFixed(event.target.checked)} />}
        label={<Typography variant="body2">taken as true: part of the datum</Typography>}
      />
      <Button
        size="small"
        disabled={busy || !name.trim() || at.includes(null)}
        onClick={() =>
          onAdd({ sort: 'mark', id: newId(), mark: newId(), name: name.trim(), near, fixed, note: '' }, () => {
            setName('')
            setAt([null, null, null])
          })
        }
      >
        Add the mark
      </Button>
      <TubeAxis onAll={onAll} busy={busy} />
      <FloorHeights survey={survey} onAdd={onAdd} busy={busy} />
      <Typography variant="h3" component="h4" sx={{ mt: 1.5, mb: 0.5 }}>
        The datum in words
      </Typography>
      {(['floor', 'centre', 'zero', 'stands'] as const).map((part) => (
        <TextRow
          key={part}
          label={{ floor: 'Floor', centre: 'Middle', zero: 'Zero', stands: 'Car' }[part]}
          value={said[part]}
          optional
          maxLength={200}
          onChange={(text) => setDatum({ ...said, [part]: text })}
        />
      ))}
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
        What is level zero, what is the middle, what is zero ahead; on its wheels or on stands, at what ride height.
      </Typography>
      <Button
        size="small"
        disabled={busy || datum === null}
        onClick={() => onAdd({ sort: 'datum', id: newId(), ...said }, () => setDatum(null))}
      >
        Keep these words
      </Button>
    </>
  )
}

/** A tube's axis by two places: two marks at once, that distances to the tube are read of. */
function TubeAxis({ onAll, busy }: Pick<Props, 'onAll' | 'busy'>) {
  const [name, setName] = useState('')
  const [at, setAt] = useState<(LengthValue | null)[]>([null, null, null, null, null, null])
  const place = (from: number) => at.slice(from, from + 3).map((one) => one?.mm ?? 0)
  const alike = place(0).every((value, i) => value === place(3)[i])
  return (
    <>
      <Typography variant="h3" component="h4" sx={{ mt: 1.5, mb: 0.5 }}>
        A tube’s axis, by two places
      </Typography>
      <TextRow label="Tube" value={name} optional onChange={setName} maxLength={60} />
      {at.map((one, i) => (
        <LengthField
          key={i}
          label={`${i < 3 ? 'one' : 'other'}, ${['ahead', 'left', 'up'][i % 3]}`}
          value={one}
          signed
          optional
          onChange={(value) => setAt(at.map((before, j) => (i === j ? value : before)))}
        />
      ))}
      <Button
        size="small"
        disabled={busy || !name.trim() || at.includes(null) || alike}
        onClick={() =>
          onAll(
            [0, 3].map((from) => ({
              sort: 'mark' as const, id: newId(), mark: newId(), name: `${name.trim()}, ${from ? 'other' : 'one'} place`, near: place(from), fixed: false, note: '',
            })), // prettier-ignore
            () => {
              setName('')
              setAt([null, null, null, null, null, null])
            },
          )
        }
      >
        Add both places
      </Button>
      {alike && !at.includes(null) && (
        <Typography variant="caption" component="p" sx={{ color: 'warning.main', m: 0 }}>
          Both places are one: an axis needs two.
        </Typography>
      )}
    </>
  )
}

const WHEELS = [
  ['front_left', 'front, left'],
  ['front_right', 'front, right'],
  ['rear_left', 'rear, left'],
  ['rear_right', 'rear, right'],
] as const

/** The floor under the four wheels, by a level: its tilt is taken out of what inclinometers read, its warp is told. */
function FloorHeights({ survey, onAdd, busy }: Omit<Props, 'onAll'>) {
  const [heights, setHeights] = useState<(LengthValue | null)[]>([null, null, null, null])
  const keep = () => {
    const [frontLeft, frontRight, rearLeft, rearRight] = heights.map((one) => ({
      mm: one?.mm ?? 0,
      typed: one?.typed ?? null,
    }))
    if (!frontLeft || !frontRight || !rearLeft || !rearRight) return
    onAdd(
      {
        sort: 'floor', id: newId(), front_left: frontLeft, front_right: frontRight, rear_left: rearLeft, rear_right: rearRight,
      }, // prettier-ignore
      () => setHeights([null, null, null, null]),
    )
  }
  return (
    <>
      <Typography variant="h3" component="h4" sx={{ mt: 1.5, mb: 0.5 }}>
        Floor under the wheels
      </Typography>
      {survey.floor && (
        <Typography variant="body2" component="p" sx={{ m: 0, mb: 0.5 }}>
          <FloorSaid floor={survey.floor} />
        </Typography>
      )}
      {WHEELS.map(([key, label], i) => (
        <LengthField
          key={key}
          label={label}
          value={heights[i] ?? null}
          signed
          optional
          onChange={(value) => setHeights(heights.map((one, j) => (i === j ? value : one)))}
        />
      ))}
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
        Heights of the floor by a level, from any zero, higher positive.
      </Typography>
      <Button size="small" disabled={busy || heights.includes(null)} onClick={keep}>
        Keep these heights
      </Button>
    </>
  )
}

/** How the floor leans, and what is made of it. */
function FloorSaid({ floor }: { floor: NonNullable<SurveyOut['floor']> }) {
  const { finely } = useUnits()
  const lean = (deg: number, one: string, other: string) =>
    Math.abs(deg) < 0.005 ? null : `${Math.abs(deg).toFixed(2)}° ${deg > 0 ? one : other}`
  const leans = [
    lean(floor.ahead_deg, 'up ahead', 'down ahead'),
    lean(floor.left_deg, 'up to the left', 'down to the left'),
  ].filter(Boolean)
  return (
    <>
      {leans.length ? `It leans ${leans.join(' and ')}; ` : 'It is level; '}
      {floor.levelled === 1 ? 'one inclinometer reading counts' : `${floor.levelled} inclinometer readings count`}{' '}
      without that. Off its plane under a wheel: {finely(floor.warp_mm)}, which nothing takes out of heights.
    </>
  )
}
