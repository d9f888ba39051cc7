import { Box, Button, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { Link as RouterLink, useNavigate } from 'react-router'
import { answer, api, type AnyPart } from '../../api'
import { newId, useDesign, useSessionPart, useTheSession } from '../../app/session'
import { Problem, Section } from '../../ui'
import { placesOf, samePlace, sayPlace } from './places'

/** A bracket made for every free end of a part. */
export function useNewBracket(part: AnyPart) {
  const session = useTheSession()
  const design = useDesign()
  const jobId = useSessionPart((state) => state.jobId)
  const go = useNavigate()
  const free = placesOf(part).filter((place) => !design.joints.some((one) => one.by && samePlace(one.held, place)))
  const make = useMutation({
    mutationFn: () => {
      const now = session.state().design
      const joints = Object.fromEntries(
        free.map((place) => {
          const at = place.kind === 'link_end' ? place.end : place.kind === 'arm_pivot' ? place.pivot : ''
          return [at, now.joints.find((one) => samePlace(one.held, place))?.id ?? newId()]
        }),
      )
      const body = { design: now, part_id: part.id, bracket_id: newId(), joints }
      return answer(api.POST('/api/brackets/new', { body }))
    },
    onSuccess: (patch) => {
      session.patch('add a tab pair', patch)
      const made = patch.parts.find((one) => one.id !== part.id)
      if (made) void go(`/jobs/${jobId}/brackets/${made.id}`)
    },
  })
  return { free, make }
}

/** What holds each end of a part, and a bracket for those that nothing holds. */
export function HeldBy({ part }: { part: AnyPart }) {
  const design = useDesign()
  const jobId = useSessionPart((state) => state.jobId)
  const { free, make } = useNewBracket(part)
  const places = placesOf(part)
  if (places.length === 0) return null
  return (
    <Section title="Held by">
      {places.map((place) => {
        const by = design.joints.find((one) => one.by && samePlace(one.held, place))?.by
        const bracket = design.parts.find((one) => one.id === by)
        return (
          <Typography key={sayPlace(design, place)} variant="body2">
            {sayPlace(design, place).split(', ').at(-1)}:{' '}
            {bracket ? (
              <Box component={RouterLink} to={`/jobs/${jobId}/brackets/${bracket.id}`} sx={{ color: 'primary.main' }}>
                {bracket.name}
              </Box>
            ) : (
              'nothing in this job'
            )}
          </Typography>
        )
      })}
      {free.length > 0 && (
        <Button size="small" onClick={() => make.mutate()} disabled={make.isPending}>
          Add a tab pair
        </Button>
      )}
      {make.error && <Problem error={make.error} />}
    </Section>
  )
}
