import { Box, Button, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { answer, api, type Design, type Patch } from '../../api'
import { newId, usePartsOf, useSessionPart, useTheSession } from '../../app/session'
import { Problem, Section } from '../../ui'

/** Buttons beside one another, as many to a row as there is room for. */
const ROW = { display: 'flex', flexWrap: 'wrap', gap: 1 }

/** A tool that the server makes under an id of ours; its page opens when it is there. */
function useNewTool<T = null>(label: string, ask: (design: Design, jigId: string, of: T) => Promise<Patch>) {
  const session = useTheSession()
  const jobId = useSessionPart((state) => state.jobId)
  const go = useNavigate()
  return useMutation({
    mutationFn: async (of: T) => {
      const jigId = newId()
      return { jigId, patch: await ask(session.state().design, jigId, of) }
    },
    onSuccess: ({ jigId, patch }) => {
      session.patch(label, patch)
      void go(`/jobs/${jobId}/jigs/${jigId}`)
    },
  })
}

/** One jig for all links. */
export function OfLinks() {
  const links = usePartsOf('members').filter((part) => 'between' in part).length
  const made = usePartsOf('jigs').some((jig) => jig.kind === 'set_jig')
  const make = useNewTool('set jig', (design, jig_id) =>
    answer(api.POST('/api/jigs/for-links', { body: { design, jig_id } })),
  )
  if (links < 2 || made) return null
  return (
    <Section
      title="For all links"
      note="a bar with a carriage, set by its scale for each link whose two bolts are parallel"
    >
      <Button size="small" disabled={make.isPending} onClick={() => make.mutate(null)}>
        One set jig for all links
      </Button>
      {make.error && <Problem error={make.error} />}
    </Section>
  )
}

/** What an end is held by while brackets are tacked: a hub stand, its upright’s jig, a dummy in each damper's place. */
export function OfEnds() {
  const session = useTheSession()
  const ends = useSessionPart((state) => state.design.ends)
  const make = useMutation({
    mutationFn: (endId: string) =>
      answer(
        api.POST('/api/jigs/of-end', {
          body: { design: session.state().design, end_id: endId, ids: Array.from({ length: 20 }, newId) },
        }),
      ),
    onSuccess: (found) => found.parts.length > 0 && session.patch('tools of an end', found),
  })
  const jigs = usePartsOf('jigs')
  const hang = useNewTool('hanger', (design, jig_id, end_id: string) =>
    answer(api.POST('/api/jigs/hanger', { body: { design, end_id, jig_id } })),
  )
  if (ends.length === 0) return null
  const hung = (endId: string) => jigs.some((jig) => jig.kind === 'hanger' && jig.end_id === endId)
  const made = make.data?.parts.map((part) => part.name)
  return (
    <Section
      title="At an end"
      note="what it has none of yet: a hub stand, a jig of its upright, a dummy for each damper; or, without a floor, a beam that both hubs hang from"
    >
      <Box sx={ROW}>
        {ends.map((end) => (
          <Button key={end.id} size="small" disabled={make.isPending} onClick={() => make.mutate(end.id)}>
            {end.name}: hub stand, upright, dummy dampers
          </Button>
        ))}
        {ends
          .filter((end) => !hung(end.id))
          .map((end) => (
            <Button key={end.id} size="small" disabled={hang.isPending} onClick={() => hang.mutate(end.id)}>
              {end.name}: hanger over the rails
            </Button>
          ))}
      </Box>
      {hang.error && <Problem error={hang.error} />}
      {made && (
        <Typography variant="body2" role="status" aria-label="What was made for the end">
          {made.length > 0 ? `Made: ${made.join('; ')}.` : 'It has all of them.'}
        </Typography>
      )}
      {make.error && <Problem error={make.error} />}
    </Section>
  )
}

/** A bar for the brackets that stand on one tube or box of the car. */
export function BracketBars() {
  const mounts = useSessionPart((state) => state.design.mounts)
  const joints = useSessionPart((state) => state.design.joints)
  const jigs = usePartsOf('jigs')
  const make = useNewTool('bracket bar', (design, jig_id, mount_id: string) =>
    answer(api.POST('/api/jigs/for-member', { body: { design, mount_id, jig_id } })),
  )
  const carrying = mounts.filter(
    (mount) =>
      mount.shape.kind !== 'flat' &&
      joints.some((joint) => joint.mount === mount.id && joint.by) &&
      !jigs.some((jig) => jig.kind === 'bracket_bar' && jig.mount === mount.id),
  )
  if (carrying.length === 0) return null
  return (
    <Section title="For brackets on a tube or an axle" note="a dummy bar through those whose bolts run along it">
      <Box sx={ROW}>
        {carrying.map((mount) => (
          <Button key={mount.id} size="small" disabled={make.isPending} onClick={() => make.mutate(mount.id)}>
            {mount.name}: bracket bar
          </Button>
        ))}
      </Box>
      {make.error && <Problem error={make.error} />}
    </Section>
  )
}
