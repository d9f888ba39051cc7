import { Box, Button, MenuItem, TextField, Typography } from '@mui/material'
import { useMutation, useQuery } from '@tanstack/react-query'
import { answer, api, type Design, type SuspensionEnd } from '../../api'
import { useDesign, useSessionPart } from '../../app/session'
import { studied, useKind, useMade, useStudy, useTravel, type Plots } from '../../app/travel'
import { Told, useUnits } from '../../quantity'
import { Busy, Pick, Problem, Section, Segmented, StateMark, fileName, saveText } from '../../ui'
import { RideTable } from './RideTable'

/** What stops the end either way, what happens on the way, and its measures at ride height. */
export function MotionPanel(props: {
  end: SuspensionEnd
  compare: Compare
  plots: Plots
  onPlots: (plots: Plots) => void
}) {
  const { end, compare, plots, onPlots } = props
  const design = useDesign()
  const { travel, roll, steer, move } = useTravel()
  const { main } = useUnits()
  const study = useStudy()
  const made = useMade(end.id)
  const whole = useSessionPart(({ evaluation }) => evaluation?.ends.find((one) => one.id === end.id))
  const table = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/study/table', {
          body: {
            design: studied(design),
            end_id: end.id,
            travel_mm: travel,
            roll_deg: roll,
            steer,
            along: plots.along,
            ...made,
          },
        }),
      ),
    onSuccess: (file) => saveText(file.text, `${fileName(end.name)}-along-${plots.along}.csv`),
  })
  const found = study.data
  const signed = (mm: number) => `${mm > 0 ? '+' : mm < 0 ? '−' : ''}${main(Math.abs(mm))}`
  return (
    <Box sx={{ p: 2.25, overflowY: 'auto' }}>
      {study.error && <Problem error={study.error} retry={() => void study.refetch()} />}
      {!found && !study.error && <Busy what="Moving it through its travel" />}
      {found && found.faults.length === 0 && (
        <>
          <Typography variant="h2">What stops it?</Typography>
          <Typography variant="body2" sx={{ color: 'text.secondary', mb: 1 }}>
            {found.travel_mm.length} positions along the travel
            {roll || steer ? ', leaning or steered as the strip stands' : ''}
          </Typography>
          <Stop name={`Droop ${signed(found.lowest_mm)}`} what={found.droop} />
          <Stop name={`Bump ${signed(found.highest_mm)}`} what={found.bump} />
          {whole && (
            <Box
              data-testid="whole-box"
              sx={{ display: 'flex', gap: 1, py: 0.75, borderBottom: 1, borderColor: 'divider' }}
            >
              <StateMark state={whole.state === 'incomplete' ? 'in hand' : whole.state} />
              <Typography variant="body2">
                <Told>{whole.says}</Told>
              </Typography>
            </Box>
          )}
          <Typography variant="h3" sx={{ mt: 1.5 }}>
            On the way
          </Typography>
          {found.events.length === 0 && <Typography variant="body2">Nothing within the travel.</Typography>}
          {found.events.map((event, i) => (
            <Button
              key={i}
              onClick={() => move({ travel: Math.round(event.travel_mm * 10) / 10, playing: false })}
              sx={{
                width: '100%', justifyContent: 'flex-start', textAlign: 'left', gap: 1, px: 0, py: 0.5, fontWeight: 400,
                borderBottom: 1, borderColor: 'divider', borderRadius: 0, color: 'text.primary', fontSize: 13.5, lineHeight: 1.3,
              }} // prettier-ignore
            >
              <StateMark state={event.kind} />
              <Box component="span" sx={{ flex: 1 }}>
                {event.what}
              </Box>
              <Box component="span" sx={(theme) => ({ fontFamily: theme.tirante.mono, whiteSpace: 'nowrap' })}>
                {signed(event.travel_mm)}
              </Box>
            </Button>
          ))}
          <Box sx={{ mt: 2.5 }}>
            <Section
              title="At ride height"
              note={`usual for a light car, ${design.car.use}: common practice, no source`}
            >
              <RideTable rows={found.ride} />
            </Section>
            <PlotChoice end={end} measures={found.measures} plots={plots} onPlots={onPlots} />
            <CompareWith compare={compare} />
            <Button size="small" onClick={() => table.mutate()}>
              All measures along the travel, CSV
            </Button>
            {table.error && <Problem error={table.error} />}
            <Typography variant="caption" component="p" sx={{ color: 'text.secondary' }}>
              Car on stands, springs unloaded and air springs empty before anything is cycled. Watched are the limits of
              the rod ends and spacers that are chosen, and those entered at Layout; what is neither is not watched.
              Without a diameter a link or arm is taken as 25 mm, an axle as 70, a spring as 60, a shaft as 28.
            </Typography>
          </Box>
        </>
      )}
      {found?.faults.map((fault, i) => (
        <Typography key={i} role="alert" sx={{ color: 'error.main' }}>
          <Told>{fault.message}</Told>
        </Typography>
      ))}
    </Box>
  )
}

function Stop({ name, what }: { name: string; what: string }) {
  return (
    <Box sx={{ py: 0.75, borderBottom: 1, borderColor: 'divider' }}>
      <Typography sx={{ fontWeight: 600 }}>{name}</Typography>
      <Typography variant="body2">{what}</Typography>
    </Box>
  )
}

/** Which measures are plotted, and against what. */
function PlotChoice(props: {
  end: SuspensionEnd
  measures: Record<string, string>
  plots: Plots
  onPlots: (plots: Plots) => void
}) {
  const { measures, plots, onPlots } = props
  const kind = useKind(props.end)
  return (
    <Section title="Plots">
      <Segmented
        label="Plotted against"
        fullWidth
        value={plots.along}
        onChange={(along) => onPlots({ ...plots, along })}
        options={[
          { value: 'travel' as const, label: 'travel' },
          { value: 'roll' as const, label: 'roll' },
          ...(kind?.steered ? [{ value: 'steer' as const, label: 'steer' }] : []),
        ]}
      />
      <TextField
        select
        fullWidth
        size="small"
        variant="standard"
        label="Measures, four at most"
        value={plots.measures}
        onChange={(event) => onPlots({ ...plots, measures: (event.target.value as unknown as string[]).slice(-4) })}
        slotProps={{
          select: {
            multiple: true,
            displayEmpty: true,
            renderValue: (chosen) =>
              (chosen as string[]).map((key) => measures[key] ?? key).join(', ') || 'the usual four',
          },
          inputLabel: { shrink: true },
        }}
        sx={{ mt: 1.5 }}
      >
        {Object.entries(measures).map(([key, name]) => (
          <MenuItem key={key} value={key} dense>
            {name}
          </MenuItem>
        ))}
      </TextField>
    </Section>
  )
}

export interface Compare {
  number: number | null
  choose: (number: number | null) => void
}

/** Another revision of this job, for its measures faint beside these. */
export function useOther(number: number | null): Design | null {
  const jobId = useSessionPart((state) => state.jobId)
  const found = useQuery({
    queryKey: ['revision', jobId, number],
    queryFn: () =>
      answer(
        api.GET('/api/jobs/{job_id}/revisions/{number}', {
          params: { path: { job_id: jobId, number: number! } },
        }),
      ),
    enabled: number !== null,
    staleTime: Infinity,
  })
  return number === null ? null : ((found.data?.design as Design | undefined) ?? null)
}

function CompareWith({ compare }: { compare: Compare }) {
  const jobId = useSessionPart((state) => state.jobId)
  const version = useSessionPart((state) => state.version)
  const list = useQuery({
    queryKey: ['revisions', jobId, version],
    queryFn: () => answer(api.GET('/api/jobs/{job_id}/revisions', { params: { path: { job_id: jobId } } })),
  })
  return (
    <Pick
      label="Compare with a revision"
      value={compare.number === null ? '' : String(compare.number)}
      none="none"
      options={(list.data?.revisions ?? []).map((one) => ({
        value: String(one.number),
        label: `rev ${one.number} ${one.name}`,
      }))}
      note={compare.number === null ? 'its plots stand faint beside these' : 'faint in the plots'}
      onChange={(value) => compare.choose(value ? Number(value) : null)}
    />
  )
}
