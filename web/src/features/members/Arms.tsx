import { Box, Button, ButtonBase, Typography } from '@mui/material'
import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query'
import { answer, api, type ArmOut, type Design } from '../../api'
import { newId, useDesign, useSessionPart, useTheSession } from '../../app/session'
import { Busy, Empty, MarginBar, Problem, Section } from '../../ui'
import { FieldRows } from '../layout/FieldRows'
import { withValue, type Field } from '../layout/fields'

type Arm = Design['arms'][number]

export function useArms(enabled: boolean) {
  const design = useDesign()
  return useQuery({
    queryKey: ['arms', design.arms, design.ends, design.car, design.loads, design.settings, design.catalogue],
    queryFn: ({ signal }) => answer(api.POST('/api/arms', { body: { design }, signal })),
    enabled,
    placeholderData: keepPreviousData,
  })
}

const force = (newtons: number) => `${newtons < 0 ? '−' : '+'}${(Math.abs(newtons) / 1000).toFixed(2)} kN`
const moment = (nmm: number) => `${(nmm / 1000).toFixed(0)} N·m`
const stateOf = (state: string) => (state === 'stop' || state === 'attention' ? state : 'ok')

/** The arms of the job, each tube of theirs in its worst case. */
export function Arms({
  query,
  chosen,
  onChoose,
}: {
  query: ReturnType<typeof useArms>
  chosen: string | null
  onChoose: (id: string) => void
}) {
  const session = useTheSession()
  const ends = useSessionPart((state) => state.design.ends)
  const make = useMutation({
    mutationFn: async (endId: string) => {
      const now = session.state().design
      const ids = Array.from({ length: 6 }, () => newId())
      const found = await answer(api.POST('/api/arms/new', { body: { design: now, end_id: endId, ids } }))
      return found.design.arms.slice(now.arms.length)
    },
    onSuccess: (made) => session.edit('arms of an end', (now) => ({ ...now, arms: [...now.arms, ...made] })),
  })
  const { data, error, isPending, refetch } = query
  if (error) return <Problem error={error} retry={() => void refetch()} />
  if (isPending || !data) return <Busy what="Carrying every case through the arms" />
  const waiting = Object.entries(data.missing)
  return (
    <Box sx={{ overflow: 'auto', height: '100%', px: 1 }}>
      {data.arms.length === 0 && waiting.length === 0 && (
        <Empty title="No arm here">
          Arms are the hinged bodies of a suspension end, such as a wishbone. Lay out an end that has them at station 2.
        </Empty>
      )}
      {data.arms.map((arm) => (
        <OneArm key={arm.id} arm={arm} on={arm.id === chosen} onChoose={() => onChoose(arm.id)} />
      ))}
      {waiting.map(([endId, bodies]) => (
        <Button key={endId} onClick={() => make.mutate(endId)} disabled={make.isPending} sx={{ mt: 1 }}>
          Make {bodies.map((one) => one.replaceAll('_', ' ')).join(' and ')} of{' '}
          {ends.find((end) => end.id === endId)?.name ?? 'the end'} a part
        </Button>
      ))}
      {make.error && <Problem error={make.error} />}
    </Box>
  )
}

function OneArm({ arm, on, onChoose }: { arm: ArmOut; on: boolean; onChoose: () => void }) {
  return (
    <Box sx={{ mb: 2, pl: 1.5, borderLeft: 3, borderColor: on ? 'primary.main' : 'transparent' }}>
      <ButtonBase
        onClick={onChoose}
        sx={{ display: 'block', width: '100%', textAlign: 'left' }}
        aria-current={on || undefined}
      >
        <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1.5 }}>
          <Typography variant="h2" sx={{ flex: 1 }}>
            {arm.name}
          </Typography>
          <Typography sx={(theme) => ({ fontFamily: theme.tirante.mono, fontWeight: 700 })}>{arm.shown}</Typography>
        </Box>
        <Typography
          variant="body2"
          sx={{
            color: arm.state === 'stop' ? 'error.main' : arm.state === 'attention' ? 'warning.main' : 'text.secondary',
          }}
        >
          {arm.headline}
        </Typography>
      </ButtonBase>
      {arm.tubes.length > 0 && (
        <Box
          component="table"
          sx={{
            borderCollapse: 'collapse', width: '100%', mt: 0.5, fontSize: 13,
            '& th, & td': { textAlign: 'right', py: 0.35, pr: 1.5, borderBottom: 1, borderColor: 'divider', whiteSpace: 'nowrap' },
            '& th:first-of-type, & td:first-of-type': { textAlign: 'left' }, '& td:last-of-type': { width: 120, pr: 0 },
          }} // prettier-ignore
        >
          <thead>
            <tr>
              {['tube', 'along', 'bent by', 'twisted by', 'stress', 'of 1.00', ''].map((head, i) => (
                <th key={i}>{head}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {arm.tubes.map((tube) => (
              <Box
                component="tr"
                key={tube.name}
                title={tube.case}
                sx={(theme) => ({ fontFamily: theme.tirante.mono })}
              >
                <Box component="td" sx={{ fontFamily: (theme) => theme.typography.fontFamily }}>
                  {tube.name}
                  <Typography variant="caption" component="div" sx={{ color: 'text.secondary' }}>
                    in “{tube.case}”
                  </Typography>
                </Box>
                <td>{force(tube.axial_n)}</td>
                <td>{moment(tube.moment_nmm)}</td>
                <td>{moment(tube.torsion_nmm)}</td>
                <td>{tube.stress_mpa.toFixed(0)} MPa</td>
                <td>{tube.shown}</td>
                <td>
                  <MarginBar utilisation={Math.max(tube.weld_use, tube.column_use)} state={stateOf(tube.state)} />
                </td>
              </Box>
            ))}
          </tbody>
        </Box>
      )}
    </Box>
  )
}

const choice = (values: string[]) => values.map((value) => ({ value, label: value }))
const FIELDS: Field[] = [
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
  {
    kind: 'choice',
    path: 'pivots',
    label: 'At its pivots',
    options: choice(['bush sleeves', 'rod ends', 'spherical bearings']),
  },
  {
    kind: 'choice',
    path: 'outer',
    label: 'Outer joint',
    options: choice(['ball joint in a socket', 'spherical bearing in a cup', 'rod end']),
  },
]
const STUD: Field[] = [
  { kind: 'mm', path: 'stud/diameter_mm', label: 'Stud, at its seat' },
  { kind: 'mm', path: 'stud/lever_mm', label: 'Ball to seat' },
  { kind: 'number', path: 'stud/yield_mpa', label: 'Stud’s yield', unit: 'MPa', min: 50, max: 3000 },
]

/** The chosen arm: how it is made, its outer joint, what it gives per g; sized from the catalogue. */
export function ArmPanel({ query, chosen }: { query: ReturnType<typeof useArms>; chosen: string | null }) {
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
        Each arm is a frame of welded tubes, carried through every load case. Pick one on the left.
      </Typography>
    )
  const change = (next: (now: Arm) => Arm, label: string) =>
    session.edit(`${arm.id}:${label}`, (now) => ({
      ...now,
      arms: now.arms.map((one) => (one.id === arm.id ? next(one) : one)),
    }))
  const rows = (fields: Field[]) => (
    <FieldRows
      whole={arm}
      fields={fields}
      problems={new Map()}
      onChange={(path, value) => change((now) => withValue(now, path, value), path)}
    />
  )
  return (
    <>
      <Section title={arm.name}>
        {found?.tube_label && (
          <Typography variant="body2">
            {found.tube_label}, {found.grade_label}
            {found.mass_kg !== null && `; ${found.mass_kg.toFixed(2)} kg of tube`}
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
        {rows(FIELDS)}
      </Section>
      {found && found.outer_n !== null && (
        <Section title={`At the ${found.outer}`}>
          <Typography variant="body2">
            {force(found.outer_n)} at most, in “{found.outer_case}”
            {found.outer_pull_n !== null &&
              `; along its stud ${(found.outer_pull_n / 1000).toFixed(2)} kN: in or out of its socket`}
          </Typography>
          {arm.stud ? (
            <>
              {rows(STUD)}
              {found.stud_use !== null && (
                <Typography variant="body2">
                  stud bent, <b>{found.stud_shown}</b> of 1.00
                </Typography>
              )}
              <Button size="small" onClick={() => change((now) => ({ ...now, stud: null }), 'stud')}>
                Leave the stud out
              </Button>
            </>
          ) : (
            <Button
              size="small"
              onClick={() =>
                change((now) => ({ ...now, stud: { diameter_mm: 16, lever_mm: 18, yield_mpa: 650 } }), 'stud')
              }
            >
              Check its stud
            </Button>
          )}
          {found.camber_deg_per_g !== null && found.deflection_mm && (
            <Typography variant="caption" component="p" sx={{ color: 'text.secondary' }}>
              Under 1 g of cornering, outer wheel, the joint goes {Math.abs(found.deflection_mm[1] ?? 0).toFixed(2)} mm
              across the car: {Math.abs(found.camber_deg_per_g).toFixed(3)}° of camber by this arm’s tubes alone.
            </Typography>
          )}
        </Section>
      )}
      {found?.notes.map((note) => (
        <Typography key={note} variant="caption" component="p" sx={{ color: 'text.secondary', mt: 0, mb: 0.5 }}>
          {note}
        </Typography>
      ))}
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
