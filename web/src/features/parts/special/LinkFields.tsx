import { Box, Button, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { answer, api, type LengthValue } from '../../../api'
import { usePart } from '../../../app/session'
import { Told, LengthField, useUnits } from '../../../quantity'
import { Problem, Segmented } from '../../../ui'
import { useSchool } from '../useSchool'
import type { OwnField } from '.'

/** How much thread shows as built: each school with its trade-off, as the kind says it. */
export function School({ part, field }: OwnField) {
  const { edit, problems } = usePart(part.id)
  const { school, choose, waits } = useSchool(part)
  if (part.kind !== 'link') return null
  const told = field.choices.find((one) => one.value === school)
  return (
    <>
      <Segmented
        label="Thread showing"
        disabled={waits}
        fullWidth
        value={school}
        onChange={choose}
        options={field.choices.map((one) => ({ value: one.value, label: one.label, title: one.why }))}
      />
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
        {told?.why}
      </Typography>
      {school !== 'centred' && (
        <Box sx={{ mt: 1 }}>
          <LengthField
            label={school === 'buried' ? 'Showing (two pitches if empty)' : 'Showing at each end'}
            optional={school === 'buried'}
            value={part.showing}
            onChange={(showing: LengthValue | null) =>
              edit('showing', (now) => (now.kind === 'link' ? { ...now, school: school as 'buried', showing } : now))
            }
            problem={problems.get('showing')}
          />
        </Box>
      )}
    </>
  )
}

/** The four rules of least engagement, beside each other. */
export function Engagement({ part }: OwnField) {
  const { result } = usePart(part.id)
  const { main } = useUnits()
  const stack = result?.own?.kind === 'link' ? result.own.stack : null
  const end = stack?.ends.find((one) => one.one_diameter_mm !== null)
  if (!end || end.engagement_mm === null) return null
  const rows: [string, number | null][] = [
    ['1 × diameter (trade)', end.one_diameter_mm],
    ['what the load needs against strip', end.for_load_mm],
    ['shank breaks first (FED-STD-H28)', end.shank_breaks_first_mm],
    ['two thirds of the thread (kits)', end.two_thirds_of_thread_mm],
  ]
  return (
    <Box
      component="table"
      sx={{ width: '100%', fontSize: 12.5, mt: 1, borderCollapse: 'collapse', '& td': { py: 0.25 } }}
    >
      <tbody>
        {rows.map(([name, least]) => (
          <tr key={name}>
            <td>{name}</td>
            <Box component="td" sx={(theme) => ({ fontFamily: theme.tirante.mono, textAlign: 'right' })}>
              {least === null ? '–' : main(least)}
            </Box>
            <Box component="td" sx={{ textAlign: 'right', color: 'text.secondary', width: 56 }}>
              {least === null ? 'not known' : end.engagement_mm! >= least - 1e-9 ? 'met' : 'not met'}
            </Box>
          </tr>
        ))}
        <tr>
          <td>
            <b>in the insert, as built</b>
          </td>
          <Box component="td" sx={(theme) => ({ fontFamily: theme.tirante.mono, textAlign: 'right', fontWeight: 700 })}>
            {main(end.engagement_mm)}
          </Box>
          <td />
        </tr>
      </tbody>
    </Box>
  )
}

/** The offset that the clearance found in Cycle asks for. */
export function BendToClear({ part }: OwnField) {
  const { session, edit } = usePart(part.id)
  const found = useMutation({
    mutationFn: () =>
      answer(api.POST('/api/study/bend', { body: { design: session.state().design, part_id: part.id } })),
    onSuccess: ({ offset_mm }) =>
      offset_mm !== null &&
      edit('bent offset', (now) =>
        now.kind === 'link' && now.bent
          ? { ...now, bent: { ...now.bent, offset: { mm: offset_mm, typed: null } } }
          : now,
      ),
  })
  return (
    <>
      <Button size="small" onClick={() => found.mutate()} disabled={found.isPending}>
        Take the offset from the clearance in Cycle
      </Button>
      {found.error && <Problem error={found.error} />}
      {found.data && (
        <Typography variant="caption" component="p" role="status" sx={{ mt: 0 }}>
          <Told>{found.data.says}</Told>
        </Typography>
      )}
    </>
  )
}

/** How a bought link is cut down. */
export function BoughtTold({ part }: OwnField) {
  const { result } = usePart(part.id)
  const { main, other } = useUnits()
  const bought = result?.own?.kind === 'link' ? result.own.bought : null
  if (!bought) return null
  return (
    <Box sx={{ mt: 1, fontSize: 13.5 }} role="status">
      <b>
        Saw at {main(bought.cut_at_mm)} from end {bought.keep_end}’s tube end
      </b>{' '}
      ({other(bought.cut_at_mm)}); {main(bought.cut_off_mm)} comes off at end {bought.cut_end}. {bought.told.join(' ')}
    </Box>
  )
}
