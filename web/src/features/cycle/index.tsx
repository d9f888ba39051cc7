import { Box, Button, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { useNavigate, useParams } from 'react-router'
import { answer, api } from '../../api'
import { useSession } from '../../app/session'
import { useEnd, useStudy, useTemplates, useTravel } from '../../app/travel'
import { DrawingView, useEndDrawing } from '../../drawing'
import { useUnits } from '../../quantity'
import { Busy, Empty, Problem, Section, StateMark, saveText } from '../../ui'
import { SheetHead, StationLayout } from '../members'

/** Station 3: the suspension moved, what stops it, and its measures. */
export function CycleStation() {
  const { design, jobId } = useSession()
  const { station } = useParams()
  const go = useNavigate()
  const end = useEnd()
  if (!end)
    return (
      <StationLayout
        sheet={
          <Empty title="Nothing to move yet">
            <p>Lay out a suspension end at station 2 first.</p>
            <Button variant="contained" onClick={() => void go(`/jobs/${jobId}/layout`)}>
              To the layout
            </Button>
          </Empty>
        }
        panel={<Box sx={{ p: 2.25 }} data-station={station} data-ends={design.ends.length} />}
      />
    )
  return <Moved key={end.id} />
}

function Moved() {
  const { design } = useSession()
  const { travel, roll, steer } = useTravel()
  const { unit, main } = useUnits()
  const end = useEnd()!
  const templates = useTemplates()
  const drawn = useEndDrawing(design, end.id, { travel, roll, steer }, unit)
  const study = useStudy()
  const table = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/study/table', {
          body: { design: { ...design, links: [] }, end_id: end.id, roll_deg: roll, steer_mm: steer },
        }),
      ),
    onSuccess: (file) => saveText(file.text, `${end.name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}-cycle.csv`),
  })
  const title = templates.data?.templates.find((one) => one.name === end.end.template)?.title
  const drawing = drawn.data?.drawing
  const found = study.data
  const signed = (mm: number) => `${mm > 0 ? '+' : mm < 0 ? '−' : ''}${main(Math.abs(mm))}`
  return (
    <StationLayout
      sheet={
        <>
          <SheetHead
            title={<Typography variant="h1">{end.name}</Typography>}
            note={`${title?.toLowerCase() ?? ''} · ${travel === 0 ? 'at ride height' : `${signed(travel)} of ${main(travel > 0 ? end.box.bump_mm : end.box.droop_mm)}`}${roll ? ` · roll ${roll}°` : ''}${steer ? ` · steer ${steer} mm` : ''}`}
          />
          <Box sx={{ flex: 1, minHeight: 0, px: 2, pb: 1 }}>
            {drawn.error && <Problem error={drawn.error} retry={() => void drawn.refetch()} />}
            {drawn.isPending && <Busy what="Solving the suspension" />}
            {drawing && <DrawingView drawing={drawing} />}
            {drawn.data && !drawing && (
              <Empty title="Not at this position">
                {drawn.data.faults.map((fault, i) => (
                  <Box key={i} role="alert">
                    {fault.message}
                  </Box>
                ))}
              </Empty>
            )}
          </Box>
        </>
      }
      panel={
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
              {found.events
                .filter((event) => event.kind === 'attention')
                .map((event, i) => (
                  <Box
                    key={i}
                    sx={{
                      py: 0.75,
                      borderBottom: 1,
                      borderColor: 'divider',
                      display: 'flex',
                      gap: 1,
                      alignItems: 'baseline',
                    }}
                  >
                    <StateMark state="attention" />
                    <Typography variant="body2">
                      {event.what}, at {signed(event.travel_mm)}
                    </Typography>
                  </Box>
                ))}
              <Box sx={{ mt: 2.5 }}>
                <Section title="At ride height">
                  {found.ride.map((row) => {
                    const out = row.low !== null && row.high !== null && (row.value < row.low || row.value > row.high)
                    const digits = row.unit === '°' || row.unit === '' ? 2 : 1
                    return (
                      <Box
                        key={row.key}
                        sx={{
                          display: 'flex',
                          gap: 1,
                          py: 0.5,
                          borderBottom: 1,
                          borderColor: 'divider',
                          alignItems: 'baseline',
                        }}
                        title={row.why}
                      >
                        <Typography variant="body2" sx={{ flex: 1 }}>
                          {row.name}
                        </Typography>
                        <Typography
                          variant="body2"
                          sx={(theme) => ({
                            fontFamily: theme.tirante.mono,
                            color: out ? 'warning.main' : 'text.primary',
                          })}
                        >
                          {row.value > 0 && row.unit === '°' ? '+' : row.value < 0 ? '−' : ''}
                          {Math.abs(row.value).toFixed(digits)}
                          {row.unit}
                        </Typography>
                        <Typography variant="caption" sx={{ color: 'text.secondary', width: 78, textAlign: 'right' }}>
                          {row.low !== null && `${row.low} to ${row.high}`}
                        </Typography>
                      </Box>
                    )
                  })}
                </Section>
                <Button size="small" onClick={() => table.mutate()}>
                  All measures along the travel, CSV
                </Button>
                {table.error && <Problem error={table.error} />}
                <Typography variant="caption" component="p" sx={{ color: 'text.secondary' }}>
                  Usual ranges for a light car: common practice, no source. Not watched yet: things to miss, the bump
                  stop’s pad, slider ends.
                </Typography>
              </Box>
            </>
          )}
          {found?.faults.map((fault, i) => (
            <Typography key={i} role="alert" sx={{ color: 'error.main' }}>
              {fault.message}
            </Typography>
          ))}
        </Box>
      }
    />
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
