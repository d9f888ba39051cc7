import { Box, Button, Typography } from '@mui/material'
import { useQueries, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link as RouterLink } from 'react-router'
import { ApiProblem } from '../../api'
import { useDesign, useKinds, usePartsOf, useSessionPart } from '../../app/session'
import { useRested } from '../../app/travel'
import { Told } from '../../quantity'
import { Section, StateMark } from '../../ui'
import { roomOf } from '../parts'

/** The room round every bracket, by one press: the worst of each, with the way to its page. */
export function RoomOfAll() {
  const design = useRested(useDesign())
  const jobId = useSessionPart((state) => state.jobId)
  const kinds = useKinds()
  const brackets = usePartsOf('brackets').filter((one) => kinds?.find((kind) => kind.key === one.kind)?.has_room)
  const [asked, ask] = useState(false)
  const client = useQueryClient()
  const asks = brackets.map((one) => roomOf(design, one.id))
  const next = asks.findIndex((ask) => (client.getQueryState(ask.queryKey)?.status ?? 'pending') === 'pending')
  // one after the other: asked all at once, they would keep the server from every other answer
  const found = useQueries({ queries: asks.map((ask, i) => ({ ...ask, enabled: asked && (next < 0 || i <= next) })) })
  if (brackets.length === 0) return null
  return (
    <Section title="Room round them">
      <Typography variant="body2" sx={{ color: 'text.secondary' }}>
        What comes near each while its end moves, and whether bolt, spanner and torch get there.
      </Typography>
      {!asked && <Button onClick={() => ask(true)}>Look round all of them</Button>}
      {asked &&
        brackets.map((one, i) => {
          const { data, error } = found[i]!
          const worst = data?.joints.flatMap((joint) => joint.lines).find((line) => line.state === data.state)
          return (
            <Box
              key={one.id}
              sx={{ display: 'flex', gap: 1, py: 0.5, borderTop: 1, borderColor: 'divider' }}
              data-room-of={one.name}
            >
              <StateMark state={data ? data.state : 'untouched'} />
              <Box sx={{ flex: 1 }}>
                <Box
                  component={RouterLink}
                  to={`/jobs/${jobId}/brackets/${one.id}?panel=room`}
                  sx={{ color: 'primary.main', fontSize: 14 }}
                >
                  {one.name}
                </Box>
                <Typography variant="caption" component="p" sx={{ m: 0 }}>
                  {data ? (
                    data.state === 'good' ? (
                      'nothing comes too near'
                    ) : (
                      <Told>{`${worst?.told ?? ''} ${worst?.where ?? ''}`}</Told>
                    )
                  ) : error instanceof ApiProblem ? (
                    <Told>{error.message}</Told>
                  ) : error ? (
                    'It was not answered. Open it to try again.'
                  ) : (
                    'looking'
                  )}
                </Typography>
              </Box>
            </Box>
          )
        })}
    </Section>
  )
}
