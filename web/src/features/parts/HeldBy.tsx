import { Box, Button, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { Link as RouterLink, useNavigate } from 'react-router'
import { answer, api, type BracketFamily } from '../../api'
import { newId, useDesign, useSessionPart, useTheSession } from '../../app/session'
import { Problem, Section } from '../../ui'
import { heldAt, samePlace, usePlaces, type Place } from './places'

/** A bracket made for places that nothing holds. */
export function useNewBracket() {
  const session = useTheSession()
  const jobId = useSessionPart((state) => state.jobId)
  const go = useNavigate()
  return useMutation({
    mutationFn: ({ free, family = 'tab_pair' }: { free: Place[]; family?: BracketFamily }) => {
      const now = session.state().design
      const joints = free.map(({ held }) => ({
        id: now.joints.find((one) => samePlace(one.held, held))?.id ?? newId(),
        held,
      }))
      return answer(api.POST('/api/brackets/new', { body: { design: now, bracket_id: newId(), joints, family } }))
    },
    onSuccess: (patch) => {
      session.patch('add a bracket', patch)
      const made = patch.parts.at(0)
      if (made) void go(`/jobs/${jobId}/brackets/${made.id}`)
    },
  })
}

/** What holds each place of a part, or of an end's damper, and a bracket for those that nothing holds; `stands`: said with what it is, and where. */
export function HeldBy({ title, places, stands }: { title: string; places: Place[]; stands?: boolean }) {
  const design = useDesign()
  const jobId = useSessionPart((state) => state.jobId)
  const make = useNewBracket()
  if (places.length === 0) return null
  const free = places.filter((place) => place.by === null && !place.elsewhere)
  // one pattern for both ends, unless one of them is a clevis and the other an eye
  const alike = free.every((place) => place.together && place.forked === free[0]?.forked)
  const groups = alike ? [free] : free.map((place) => [place])
  const missing = free.find((place) => place.missing)?.missing
  return (
    <Section title={title}>
      {places.map((place) => {
        const bracket = design.parts.find((one) => one.id === place.by)
        return (
          <Typography key={heldAt(place.held)} variant="body2">
            {stands ? `${place.of}, ${place.name}, ${place.where}` : place.name}:{' '}
            {bracket ? (
              <Box component={RouterLink} to={`/jobs/${jobId}/brackets/${bracket.id}`} sx={{ color: 'primary.main' }}>
                {bracket.name}
              </Box>
            ) : place.elsewhere ? (
              `held by ${place.elsewhere}`
            ) : place.family !== 'tab_pair' ? (
              'nothing here yet'
            ) : (
              'nothing here yet holds this end'
            )}
          </Typography>
        )
      })}
      {missing && (
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
          {missing}
        </Typography>
      )}
      {groups
        .filter((group) => group.length > 0 && group.every((place) => !place.missing))
        .map((group) => (
          <Button
            key={group[0] && heldAt(group[0].held)}
            size="small"
            onClick={() => make.mutate({ free: group })}
            disabled={make.isPending}
            sx={{ mr: 1 }}
          >
            {group[0] && group[0].family !== 'tab_pair'
              ? `Add a ${group[0].makes} for the ${group[0].of}`
              : group.every((place) => place.together)
                ? `Add a ${group[0]?.makes}`
                : `Add a ${group[0]?.makes} for the ${stands ? `${group[0]?.of}, ` : ''}${group[0]?.name ?? ''}`}
          </Button>
        ))}
      {make.error && <Problem error={make.error} />}
    </Section>
  )
}

/** What stands on a part beside its joints, each with its bracket. */
export function StandsOnPart({ partId }: { partId: string }) {
  return <HeldBy stands title="What stands on it" places={usePlaces().filter((place) => place.on === partId)} />
}

/** What holds a part. */
export function PartHeldBy({ partId }: { partId: string }) {
  return <HeldBy title="Held by" places={usePlaces().filter((place) => place.id === partId)} />
}
