import { Box, Button, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { answer, api } from '../../api'
import { newId, useSessionPart, useTheSession } from '../../app/session'
import { Problem, Section } from '../../ui'
import { Told } from '../../quantity'

/** What moves at the job's ends, or at one of them, and is no part of it: by name, and made parts where a kind can be. */
export function NotMade({ of }: { of?: string }) {
  const session = useTheSession()
  const every = useSessionPart((state) => state.evaluation?.not_made)
  const rows = (every ?? []).filter((row) => !of || row.end_id === of)
  const make = useMutation({
    mutationFn: async (ends: string[]) => {
      for (const end_id of ends) {
        const ids = Array.from({ length: 40 }, () => newId())
        const body = { design: session.state().design, end_id, ids, kinds: [] }
        session.patch('parts of an end', await answer(api.POST('/api/parts/of-end', { body })))
      }
    },
  })
  const plate = useMutation({
    mutationFn: (at: { end_id: string; body: string; point: string }) =>
      answer(api.POST('/api/parts/on-carrier', { body: { design: session.state().design, part_id: newId(), ...at } })),
    onSuccess: (patch) => session.patch('a plate on what carries a wheel', patch),
  })
  if (rows.length === 0) return null
  const ends = [...new Map(rows.map((row) => [row.end_id, row.end]))]
  const open = ends.filter(([endId]) => rows.some((row) => row.end_id === endId && row.can)).map(([endId]) => endId)
  return (
    <Section title="No part of this job" note="what moves at its ends and is not made here">
      {open.length > 1 && (
        <Button
          variant="contained"
          fullWidth
          sx={{ mb: 1 }}
          onClick={() => make.mutate(open)}
          disabled={make.isPending}
        >
          Make the parts of every end
        </Button>
      )}
      {ends.map(([endId, end]) => {
        const here = rows.filter((row) => row.end_id === endId)
        const waiting = here.filter((row) => row.can)
        return (
          <Box key={endId} sx={{ mb: 1 }}>
            <Typography variant="body2" sx={{ fontWeight: 600 }}>
              {end}
            </Typography>
            {(of ? here.filter((row) => !row.can) : here).map((row) => (
              <Box key={row.name}>
                <Typography variant="caption" component="p" sx={{ m: 0, color: 'text.secondary' }}>
                  {row.name}: <Told>{row.why}</Told>
                </Typography>
                {row.plates_at.map((at) => (
                  <Button
                    key={at.point}
                    size="small"
                    disabled={plate.isPending}
                    onClick={() => plate.mutate({ end_id: endId, body: row.body, point: at.point })}
                  >
                    Enter its plate at {at.words}
                  </Button>
                ))}
              </Box>
            ))}
            {waiting.length > 0 && (
              <Button size="small" onClick={() => make.mutate([endId])} disabled={make.isPending}>
                Make {waiting.map((row) => row.name).join(', ')} parts
              </Button>
            )}
          </Box>
        )
      })}
      {make.error && <Problem error={make.error} />}
      {plate.error && <Problem error={plate.error} />}
    </Section>
  )
}
