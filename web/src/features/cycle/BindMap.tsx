import { Box, ButtonBase, Typography } from '@mui/material'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { answer, api, type BindOut, type SuspensionEnd } from '../../api'
import { useDesign } from '../../app/session'
import { NotWatched, studied, steering, studyKey, useMade, useTravel } from '../../app/travel'
import { Told, useUnits } from '../../quantity'
import { Busy, Empty, MarginBar, Problem, StateMark } from '../../ui'

/** The bind map of an end; one of its joints is drawn. */
export function useBindMap(end: SuspensionEnd, joint: string | null, wanted: boolean) {
  const design = useDesign()
  const { unit } = useUnits()
  const made = useMade(end.id)
  return useQuery({
    queryKey: ['bind', ...studyKey(design, end, made), joint, unit],
    queryFn: ({ signal }) =>
      answer(
        api.POST('/api/study/bind-map', {
          body: { design: studied(design), end_id: end.id, joint, unit, ...made },
          signal,
        }),
      ),
    enabled: wanted,
    placeholderData: keepPreviousData,
  })
}

/** Every joint over the whole box, the worst first; choosing one draws it and takes the strip to its worst corner. */
export function BindPanel(props: {
  end: SuspensionEnd
  query: ReturnType<typeof useBindMap>
  onChoose: (joint: string) => void
}) {
  const { end, query } = props
  const { move } = useTravel()
  const found = query.data
  const shown = found?.joints.find((joint) => joint.name === found.shown)
  const where = useWhere(end)
  return (
    <Box sx={{ p: 2.25, overflowY: 'auto' }}>
      {query.error && <Problem error={query.error} retry={() => void query.refetch()} />}
      {query.isPending && <Busy what="Moving it through the whole box" />}
      {found && (
        <>
          <Typography variant="h2">Which joint binds?</Typography>
          <Typography variant="body2" sx={{ color: 'text.secondary', mb: 1 }}>
            the whole travel, roll and steer, as far as nothing ends the travel; worst first
            {found.unreached > 0 && `; ${found.unreached} positions could not be put together`}
          </Typography>
          {shown && (
            <Box sx={{ mb: 1.5 }}>
              <Typography variant="h3">{shown.name}</Typography>
              <Typography variant="body2">
                {shown.worst_deg.toFixed(1)}° at worst, {where(shown)}
                {shown.limit_deg === null ? '; no limit is given' : `; it allows ${shown.limit_deg}°`}
              </Typography>
              {shown.advice.map((line) => (
                <Typography key={line} variant="body2" sx={{ color: 'text.secondary' }}>
                  – {line}
                </Typography>
              ))}
            </Box>
          )}
          {found.joints.length === 0 && (
            <Empty title="No joint is known yet">
              Give the bolts of the links’ ends, and what each joint allows, at Layout under “Joints of the links”.
            </Empty>
          )}
          {found.joints.map((joint) => (
            <ButtonBase
              key={joint.name}
              aria-pressed={joint.name === found.shown}
              onClick={() => {
                props.onChoose(joint.name)
                move({ travel: joint.travel_mm, roll: joint.roll_deg, steer: joint.steer, playing: false })
              }}
              sx={{
                display: 'block', width: '100%', textAlign: 'left', py: 0.6, borderBottom: 1, borderColor: 'divider',
                bgcolor: joint.name === found.shown ? (theme) => theme.tirante.select : undefined,
              }} // prettier-ignore
            >
              <Box sx={{ display: 'flex', gap: 1, alignItems: 'baseline' }}>
                <StateMark
                  state={joint.state === 'ok' ? 'good' : joint.state === 'not asked' ? 'untouched' : joint.state}
                />
                <Typography variant="body2" sx={{ flex: 1 }}>
                  {joint.name}
                  {joint.hinged && ' (hinge)'}
                </Typography>
                <Typography variant="body2" sx={(theme) => ({ fontFamily: theme.tirante.mono, fontWeight: 700 })}>
                  {joint.worst_deg.toFixed(1)}°
                </Typography>
                <Typography variant="caption" sx={{ color: 'text.secondary', width: 44, textAlign: 'right' }}>
                  {joint.limit_deg === null ? '–' : `of ${joint.limit_deg}°`}
                </Typography>
              </Box>
              <MarginBar utilisation={joint.share} state={joint.state} />
            </ButtonBase>
          ))}
          <NotWatched endId={end.id} />
          {found.unwatched.length > 0 && (
            <Typography variant="caption" component="p" sx={{ color: 'text.secondary' }}>
              Not watched, no bolt is given: {found.unwatched.join(', ')}.
            </Typography>
          )}
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

function useWhere(end: SuspensionEnd) {
  const { main } = useUnits()
  const { unit } = steering(end)
  const signed = (value: number, text: string) => `${value > 0 ? '+' : value < 0 ? '−' : ''}${text}`
  return (joint: BindOut['joints'][number]) => {
    const parts = [
      joint.travel_mm === 0 ? 'at ride height' : `at ${signed(joint.travel_mm, main(Math.abs(joint.travel_mm)))}`,
    ]
    if (joint.roll_deg) parts.push(`roll ${signed(joint.roll_deg, `${Math.abs(joint.roll_deg)}°`)}`)
    if (joint.steer)
      parts.push(
        `steer ${signed(joint.steer, unit === 'mm' ? main(Math.abs(joint.steer)) : `${Math.abs(joint.steer)}°`)}`,
      )
    return parts.join(', ')
  }
}
