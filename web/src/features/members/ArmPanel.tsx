import { Box, Button, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { answer, api, type ArmOut } from '../../api'
import { useDesign, useTheSession } from '../../app/session'
import { Busy, Fold, Problem, Section } from '../../ui'
import { FieldRows } from '../layout/FieldRows'
import { withValue, type Field } from '../layout/fields'
import { ArmEnds } from './ArmEnds'
import { CheckRows } from './ChecksPanel'
import type { Arm, useArms } from './useArms'

const choice = (values: string[]) => values.map((value) => ({ value, label: value }))
const MADE: Field[] = [
  { kind: 'text', path: 'name', label: 'Name' },
  {
    kind: 'number',
    path: 'brace_at',
    label: 'Cross brace, share of the way out',
    unit: '',
    optional: true,
    min: 0.06,
    max: 0.94,
  },
  { kind: 'choice', path: 'pivots', label: 'At its pivots', options: choice(['bush sleeves', 'rod ends', 'spherical bearings']) },
  {
    kind: 'choice',
    path: 'outer',
    label: 'Outer joint',
    options: choice(['ball joint in a socket', 'spherical bearing in a cup', 'rod end']),
  },
  { kind: 'mm', path: 'outer_face_mm', label: 'Outer joint’s centre to the tube' },
  { kind: 'number', path: 'outer_rating_n', label: 'Outer joint’s rating (maker’s)', unit: 'N', min: 1, max: 1e7, optional: true },
] // prettier-ignore
const SLEEVE: Field[] = [
  { kind: 'mm', path: 'pivot_face_mm', label: 'Pivot’s centre to the tube' },
  { kind: 'number', path: 'pivot_rating_n', label: 'Pivots’ rating (maker’s)', unit: 'N', min: 1, max: 1e7, optional: true },
] // prettier-ignore
const GUSSET: Field[] = [
  { kind: 'mm', path: 'gusset/reach_mm', label: 'Along either tube' },
  { kind: 'mm', path: 'gusset/thickness_mm', label: 'Plate' },
]
const STUD: Field[] = [
  { kind: 'mm', path: 'stud/diameter_mm', label: 'Stud, at its seat' },
  { kind: 'mm', path: 'stud/lever_mm', label: 'Ball to seat' },
  { kind: 'number', path: 'stud/yield_mpa', label: 'Stud’s yield', unit: 'MPa', min: 50, max: 3000 },
  { kind: 'choice', path: 'stud/taper', label: 'Taper, in diameter', options: choice(['1:10', '1:8', 'none']) },
  { kind: 'number', path: 'stud/holds_in_n', label: 'Its socket holds (maker’s)', unit: 'N', min: 1, max: 1e7, optional: true },
] // prettier-ignore

interface Props {
  query: ReturnType<typeof useArms>
  chosen: string | null
  selection: string | null
  onSelect: (ref: string | null) => void
}

/** The chosen arm: its checks, how it is made, its joints, what it gives per g; sized from the catalogue. */
export function ArmPanel({ query, chosen, selection, onSelect }: Props) {
  const session = useTheSession()
  const design = useDesign()
  const arm = design.arms.find((one) => one.id === chosen)
  const found = query.data?.arms.find((one) => one.id === chosen)
  const size = useMutation({
    mutationFn: (id: string) =>
      answer(api.POST('/api/arms/size', { body: { design: session.state().design, arm_id: id } })),
    onSuccess: (sized) =>
      sized.design &&
      session.edit('size arm', (now) => ({ ...now, arms: sized.design!.arms, catalogue: sized.design!.catalogue })),
  })
  if (!arm)
    return (
      <Typography variant="body2" sx={{ color: 'text.secondary' }}>
        Each arm is a frame of welded tubes, carried through every load case. Pick one on the left, or make the hinged
        bodies of an end parts.
      </Typography>
    )
  const change = (next: (now: Arm) => Arm, label: string) =>
    session.edit(`${arm.id}:${label}`, (now) => ({
      ...now,
      arms: now.arms.map((one) => (one.id === arm.id ? next(one) : one)),
    }))
  const problems = new Map(found?.faults.map((fault) => [fault.field.replaceAll('.', '/'), fault.message]))
  const rows = (fields: Field[]) => (
    <FieldRows
      whole={arm}
      fields={fields}
      problems={problems}
      onChange={(path, value) => change((now) => withValue(now, path, value), path)}
    />
  )
  const saw = Object.entries(found?.saw_mm ?? {})
  return (
    <>
      <Section title={arm.name}>
        {found?.tube_label && (
          <Typography variant="body2">
            {found.tube_label}, {found.grade_label}
            {found.mass_kg !== null && `; ${found.mass_kg.toFixed(2)} kg of tube and plate`}
          </Typography>
        )}
        <Button
          variant="contained"
          fullWidth
          sx={{ my: 1 }}
          disabled={size.isPending}
          onClick={() => size.mutate(arm.id)}
        >
          Size it
        </Button>
        {size.isPending && <Busy what="Searching the catalogue" />}
        {size.error && <Problem error={size.error} />}
        {size.data && (
          <Typography variant="body2" data-testid="arm-advice">
            {size.data.advice}
          </Typography>
        )}
      </Section>
      {found && <Checks arm={found} selection={selection} onSelect={onSelect} />}
      <Fold title="How it is made" open note={saw.length ? 'saw lengths are before notching' : ''}>
        {rows(MADE)}
        {arm.pivots === 'rod ends' ? <ArmEnds arm={arm} problems={problems} /> : rows(SLEEVE)}
        {saw.map(([name, mm]) => (
          <Typography key={name} variant="body2" sx={{ display: 'flex', justifyContent: 'space-between' }}>
            <span>{name === 'brace' ? 'brace, between centre lines' : `${name}, saw`}</span>
            <Box component="span" sx={(theme) => ({ fontFamily: theme.tirante.mono })}>
              {mm.toFixed(1)} mm
            </Box>
          </Typography>
        ))}
      </Fold>
      <Fold title="Gusset" note={arm.gusset ? '' : 'none'}>
        {arm.gusset && rows(GUSSET)}
        <Button
          size="small"
          onClick={() =>
            change((now) => ({ ...now, gusset: now.gusset ? null : { reach_mm: 90, thickness_mm: 4 } }), 'gusset')
          }
        >
          {arm.gusset ? 'Leave the gusset out' : 'Let a plate in between the tubes'}
        </Button>
      </Fold>
      {found?.outer && <Outer arm={arm} found={found} rows={rows} change={change} />}
      {found?.notes.map((note) => (
        <Typography key={note} variant="caption" component="p" sx={{ color: 'text.secondary', mt: 0, mb: 0.5 }}>
          {note}
        </Typography>
      ))}
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary' }}>
        <b>Not checked:</b> sleeves and cups, the ball joint’s housing, fatigue, weld quality, the frame it bolts to,
        the upright. A margin is not an approval.
      </Typography>
      <Button
        size="small"
        color="inherit"
        onClick={() =>
          session.edit('take out arm', (now) => ({ ...now, arms: now.arms.filter((one) => one.id !== arm.id) }))
        }
      >
        Take this arm out
      </Button>
    </>
  )
}

function Checks({ arm, selection, onSelect }: { arm: ArmOut } & Pick<Props, 'selection' | 'onSelect'>) {
  const asked = arm.checks.filter((check) => check.utilisation !== null)
  if (!asked.length) return null
  return (
    <Section title="Will it hold?" note="the weakest first; each opens to its working">
      <CheckRows checks={asked} selection={selection} onSelect={onSelect} />
    </Section>
  )
}

const kilo = (newtons: number) => `${(newtons / 1000).toFixed(2)} kN`

interface OuterProps {
  arm: Arm
  found: ArmOut
  rows: (fields: Field[]) => React.ReactNode
  change: (next: (now: Arm) => Arm, label: string) => void
}

/** What the outer joint sees, along its stud and across it; what the arm gives per g. */
function Outer({ arm, found, rows, change }: OuterProps) {
  const outer = found.outer!
  return (
    <Fold title={`At the ${outer.name}`} open note={kilo(outer.force_n)}>
      <Typography variant="body2">
        {kilo(outer.force_n)} at most, in “{outer.case}”.
      </Typography>
      {outer.stud_points === null ? (
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary' }}>
          Give its stud’s axis at Layout, bushes and ball joints, to know what pulls it out of its socket.
        </Typography>
      ) : (
        <Typography variant="body2" data-testid="stud">
          Its stud points {outer.stud_points} from the ball. Pulled out of its socket by {kilo(outer.out_n)}
          {outer.out_case && ` in “${outer.out_case}”`}, pressed in by {kilo(outer.into_n)}.
        </Typography>
      )}
      {arm.stud ? (
        <>
          {rows(STUD)}
          <Typography variant="caption" component="p" sx={{ color: 'text.secondary' }}>
            {arm.stud.taper === 'none'
              ? 'A parallel stud stands on its shoulder: its nut’s tightening holds it, and is not checked.'
              : `The boss is reamed ${arm.stud.taper} too: another taper touches at one end only, and the stud breaks there.`}
          </Typography>
          <Button size="small" onClick={() => change((now) => ({ ...now, stud: null }), 'stud')}>
            Leave the stud out
          </Button>
        </>
      ) : (
        <Button
          size="small"
          onClick={() =>
            change(
              (now) => ({
                ...now,
                stud: { diameter_mm: 16, lever_mm: 18, yield_mpa: 650, taper: '1:10', holds_in_n: null },
              }),
              'stud',
            )
          }
        >
          Check its stud
        </Button>
      )}
      {found.gives && (
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary' }} data-testid="per-g">
          Under 1 g of cornering the outer wheel goes {signed(found.gives.camber_deg)}° of camber and{' '}
          {signed(found.gives.toe_deg)}° of toe-in by this arm’s tubes alone: its joint moves{' '}
          {Math.max(...found.gives.moved_mm.map(Math.abs)).toFixed(2)} mm.
        </Typography>
      )}
    </Fold>
  )
}

const signed = (value: number) => `${value < 0 ? '−' : '+'}${Math.abs(value).toFixed(3)}`
