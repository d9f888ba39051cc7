import { Box, Button, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { Link as RouterLink } from 'react-router'
import { answer, api } from '../../api'
import { newId, useSessionPart, useTheSession } from '../../app/session'
import { Told } from '../../quantity'
import { Problem } from '../../ui'

/** Brackets for every joint that nothing holds, by one press; what was proposed for each, or why nothing was. */
export function ProposeAll({ free, any, onMounts }: { free: number; any: boolean; onMounts: () => void }) {
  const session = useTheSession()
  const jobId = useSessionPart((state) => state.jobId)
  const mounts = useSessionPart((state) => state.design.mounts.length)
  const propose = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/brackets/propose', {
          body: { design: session.state().design, ids: Array.from({ length: 2 * free }, newId), only: [] },
        }),
      ),
    onSuccess: (found) => found.parts.length > 0 && session.patch('propose brackets', found),
  })
  const every = propose.data?.every ?? []
  const made = every.filter((one) => one.part_id)
  const lacking = every.filter((one) => !one.part_id && !one.settled)
  return (
    <Box sx={{ mb: 1.5 }}>
      <Button variant="contained" disabled={free === 0 || propose.isPending} onClick={() => propose.mutate()}>
        {propose.isPending ? 'Working them out' : 'Propose all'}
      </Button>
      <Typography variant="body2" sx={{ color: 'text.secondary', mt: 0.5 }}>
        {!any
          ? 'There is no joint yet that a bracket could hold.'
          : free === 0
            ? 'Every joint is held.'
            : 'For each joint that nothing holds a tab pair, a pad, or a plate that lies on a face, on the nearest mount that suits, as light as holds; a strap or a sleeve where none of these does; a single tab where it ends in a clevis. What is folded, bolted on or clamped is asked for at its joint.'}
      </Typography>
      {mounts === 0 && free > 0 && (
        <Typography variant="body2">
          No mount is entered yet.{' '}
          <Button size="small" onClick={onMounts} sx={{ p: 0, verticalAlign: 'baseline' }}>
            Enter what brackets stand on
          </Button>
        </Typography>
      )}
      {propose.error && <Problem error={propose.error} />}
      {propose.data && (
        <Box role="status" aria-label="What is proposed" sx={{ mt: 1, p: 1, border: 1, borderColor: 'divider' }}>
          <Typography variant="body2" sx={{ fontWeight: 600 }}>
            {made.length === 1 ? '1 bracket is made' : `${made.length} brackets are made`}, {lacking.length} not:
          </Typography>
          {[...made, ...lacking, ...every.filter((one) => one.settled)].map((one) => (
            <Typography key={one.place} variant="caption" component="p" sx={{ m: 0 }}>
              {one.part_id ? (
                <Box
                  component={RouterLink}
                  to={`/jobs/${jobId}/brackets/${one.part_id}`}
                  sx={{ color: 'primary.main' }}
                >
                  {one.place}
                </Box>
              ) : one.settled ? (
                one.place
              ) : (
                <Box component="span" sx={{ color: 'warning.main' }}>
                  {one.place}: none
                </Box>
              )}
              {': '}
              <Told>{one.told}</Told>
            </Typography>
          ))}
        </Box>
      )}
    </Box>
  )
}
