import { Box, Button, Checkbox, FormControlLabel, Slider, Typography } from '@mui/material'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { answer, api, type SuspensionEnd } from '../../api'
import { useDesign } from '../../app/session'
import { studied, studyKey } from '../../app/travel'
import { useUnits } from '../../quantity'
import { Busy, PauseIcon, PlayIcon, Problem, Section, Segmented } from '../../ui'

const STEP = 0.1 // of the way each way, a frame

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
  const [playing, setPlaying] = useState(false)
  const found = query.data
  const free = (found?.motions.length ?? 0) > 0
  useEffect(() => {
    if (!playing || !free) return
    let { phase } = mocked
    let step = STEP
    const timer = window.setInterval(() => {
      if (phase + step > 1 || phase + step < -1) step = -step
      phase += step
      onChange({ ...mocked, phase: Math.round(phase * 100) / 100 })
    }, 70)
    return () => window.clearInterval(timer)
    // the phase is the timer's own
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [playing, free, mocked.inPlace, mocked.motion])
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
          {fault.message}
        </Typography>
      ))}
      {found && (
        <>
          <Typography variant="h2">What still moves?</Typography>
          <Typography sx={{ mt: 0.5, mb: 1.5 }} role="status">
            {found.says}
          </Typography>
          {free && (
            <Box sx={{ mb: 2 }}>
              {found.motions.length > 1 && (
                <Segmented
                  label="Which motion"
                  value={String(mocked.motion)}
                  onChange={(value) => onChange({ ...mocked, motion: Number(value), phase: 0 })}
                  options={found.motions
                    .slice(0, 6)
                    .map((what, i) => ({ value: String(i), label: `${i + 1}`, title: what }))}
                />
              )}
              <Typography variant="body2" sx={{ mt: 0.5, fontWeight: 600 }}>
                {found.motions[mocked.motion] ?? found.motions[0]}
              </Typography>
              <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center' }}>
                <Button
                  size="small"
                  variant="outlined"
                  startIcon={playing ? <PauseIcon /> : <PlayIcon />}
                  onClick={() => setPlaying(!playing)}
                  sx={{ flexShrink: 0 }}
                >
                  {playing ? 'Stop' : 'Move it'}
                </Button>
                <Slider
                  size="small"
                  aria-label="Along the motion"
                  min={-1}
                  max={1}
                  step={0.05}
                  track={false}
                  marks={[{ value: 0 }]}
                  value={mocked.phase}
                  onChange={(_, value) => {
                    setPlaying(false)
                    onChange({ ...mocked, phase: value as number })
                  }}
                />
              </Box>
            </Box>
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
