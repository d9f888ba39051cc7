import { Box, Button, Checkbox, FormControlLabel, Typography } from '@mui/material'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { answer, api, type SuspensionEnd } from '../../api'
import { useDesign } from '../../app/session'
import { studied, studyKey } from '../../app/travel'
import { Told, useUnits } from '../../quantity'
import { Busy, Followed, Problem, Section } from '../../ui'

export interface Mocked {
  inPlace: string[]
  motion: number
  phase: number
}
export const NOTHING: Mocked = { inPlace: [], motion: 0, phase: 0 }

/** What the parts in place leave free, one of its motions drawn. */
export function useStillMoves(end: SuspensionEnd, mocked: Mocked, wanted: boolean) {
  const design = useDesign()
  const { unit } = useUnits()
  return useQuery({
    queryKey: ['still', ...studyKey(design, end), mocked, unit],
    queryFn: ({ signal }) =>
      answer(
        api.POST('/api/study/still-moves', {
          body: {
            design: studied(design),
            end_id: end.id,
            in_place: mocked.inPlace,
            motion: mocked.motion,
            phase: mocked.phase,
            unit,
          },
          signal,
        }),
      ),
    enabled: wanted,
    placeholderData: keepPreviousData,
    gcTime: 20_000,
  })
}

/** Tick what is on the car; see what still moves, and which part takes it away next. */
export function StillPanel(props: {
  query: ReturnType<typeof useStillMoves>
  mocked: Mocked
  onChange: (mocked: Mocked) => void
}) {
  const { query, mocked, onChange } = props
  const found = query.data
  const free = (found?.motions.length ?? 0) > 0
  const tick = (name: string, on: boolean) =>
    onChange({
      inPlace: on ? [...mocked.inPlace, name] : mocked.inPlace.filter((one) => one !== name),
      motion: 0,
      phase: 0,
    })
  const parts = found?.parts.filter((part) => part.kind === 'part') ?? []
  const stops = found?.parts.filter((part) => part.kind === 'stop') ?? []
  const ticks = (list: typeof parts) =>
    list.map((part) => (
      <Box key={part.name} sx={{ display: 'flex', alignItems: 'baseline' }}>
        <FormControlLabel
          sx={{ flex: 1, mr: 0 }}
          control={
            <Checkbox
              size="small"
              sx={{ py: 0.25 }}
              checked={part.in_place}
              onChange={(event) => tick(part.name, event.target.checked)}
            />
          }
          label={<Typography variant="body2">{part.name}</Typography>}
        />
        {part.leaves !== null && (
          <Typography variant="caption" sx={{ color: 'primary.main' }}>
            leaves {part.leaves === 0 ? 'nothing' : part.leaves === 1 ? 'one way' : `${part.leaves} ways`}
          </Typography>
        )}
      </Box>
    ))
  return (
    <Box sx={{ p: 2.25, overflowY: 'auto' }}>
      {query.error && <Problem error={query.error} retry={() => void query.refetch()} />}
      {query.isPending && <Busy what="Counting what holds it" />}
      {found?.faults.map((fault, i) => (
        <Typography key={i} role="alert" sx={{ color: 'error.main' }}>
          <Told>{fault.message}</Told>
        </Typography>
      ))}
      {found && (
        <>
          <Typography variant="h2">What still moves?</Typography>
          <Typography sx={{ mt: 0.5, mb: 1.5 }} role="status">
            <Told>{found.says}</Told>
          </Typography>
          {free && (
            <Followed
              motions={found.motions}
              motion={mocked.motion}
              phase={mocked.phase}
              onMotion={(motion) => onChange({ ...mocked, motion, phase: 0 })}
              onPhase={(phase) => onChange({ ...mocked, phase })}
            />
          )}
          <Section title="In place on the car">
            {ticks(parts)}
            <Button size="small" onClick={() => onChange({ ...NOTHING, inPlace: parts.map((part) => part.name) })}>
              All parts
            </Button>
            <Button size="small" onClick={() => onChange(NOTHING)}>
              None
            </Button>
          </Section>
          <Section title="Holding it for the while" note="a stand, a dummy damper, the steering held">
            {ticks(stops)}
          </Section>
        </>
      )}
    </Box>
  )
}
