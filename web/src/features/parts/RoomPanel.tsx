import { Box, Typography } from '@mui/material'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { answer, api, type Design, type RoomLineOut } from '../../api'
import { useDesign } from '../../app/session'
import { useRested } from '../../app/travel'
import { Told, useUnits } from '../../quantity'
import { Busy, Problem, StateMark } from '../../ui'

/** What a bracket's room is asked for with. */
export function roomOf(design: Design, partId: string) {
  return {
    queryKey: ['room', design, partId],
    queryFn: ({ signal }: { signal: AbortSignal }) =>
      answer(api.POST('/api/brackets/room', { body: { design, part_id: partId }, signal })),
    retry: false as const,
    gcTime: 60_000,
  }
}

/** What comes near a bracket while its end moves through its whole box, and whether bolt, spanner and torch get there. */
export function RoomPanel({ partId }: { partId: string }) {
  const design = useRested(useDesign())
  const found = useQuery({ ...roomOf(design, partId), placeholderData: keepPreviousData })
  if (found.isPending) return <Busy what="Looking round it" />
  if (found.error || !found.data) return <Problem error={found.error} />
  const { joints, not_looked_at, state } = found.data
  return (
    <>
      <Typography
        role="status"
        data-testid="room"
        variant="body2"
        sx={{
          mb: 1,
          fontWeight: state === 'good' ? 400 : 600,
          color: state === 'stop' ? 'error.main' : state === 'attention' ? 'warning.main' : 'text.primary',
        }}
      >
        {state === 'good'
          ? 'Over the whole box of its end nothing that was looked at comes too near.'
          : state === 'stop'
            ? 'Something meets, or cannot be reached.'
            : 'Nothing meets. See to what is marked.'}
      </Typography>
      {joints.map((one) => (
        <Box key={one.joint} sx={{ mb: 1.5 }}>
          <Typography component="h3" variant="body2" sx={{ fontWeight: 600 }}>
            {one.joint}
          </Typography>
          {one.lines.map((line) => (
            <Line key={line.sort + line.what + line.to} line={line} />
          ))}
        </Box>
      ))}
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary' }}>
        <b>Not looked at:</b> <Told>{not_looked_at.join('; ')}</Told>. Try it on the car, bolted up by hand, before it
        is welded.
      </Typography>
    </>
  )
}

function Line({ line }: { line: RoomLineOut }) {
  const { main } = useUnits()
  return (
    <Box sx={{ display: 'flex', gap: 1, py: 0.6, borderTop: 1, borderColor: 'divider' }} data-room={line.sort}>
      <StateMark state={line.state} />
      <Box sx={{ flex: 1 }}>
        <Typography variant="body2">
          <Told>{line.told}</Told>
          {line.where && (
            <Box component="span" sx={{ color: 'text.secondary' }}>
              {' '}
              <Told>{line.where}</Told>
            </Box>
          )}
        </Typography>
        {line.cure && (
          <Typography variant="caption" component="p" sx={{ m: 0 }}>
            <Told>{line.cure}</Told>
          </Typography>
        )}
      </Box>
      {line.gap_mm !== null && line.gap_mm > 0 && (
        <Typography
          component="span"
          variant="body2"
          sx={(theme) => ({ fontFamily: theme.tirante.mono, fontWeight: 700 })}
        >
          {main(line.gap_mm)}
        </Typography>
      )}
    </Box>
  )
}
