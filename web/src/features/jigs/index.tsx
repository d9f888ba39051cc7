import { Box, Button, Typography } from '@mui/material'
import { useState } from 'react'
import { useParams } from 'react-router'
import { useMutation } from '@tanstack/react-query'
import { Navigate, Link as RouterLink, useNavigate } from 'react-router'
import { answer, api } from '../../api'
import { newId, useDesign, usePart, usePartsOf, useSessionPart, useTheSession } from '../../app/session'
import { DrawingView, useDrawing } from '../../drawing'
import { Told, useUnits } from '../../quantity'
import { Busy, Empty, Problem, Section, SheetHead, StationLayout } from '../../ui'
import { PartList, PartView } from '../parts'
import { BracketBars, OfEnds, OfLinks } from './Tools'

/** Station 7: how a member is held while it is welded: its own rail, or a jig of plate and posts, which is a part like any other. */
export function JigsStation() {
  const { partId } = useParams()
  const members = usePartsOf('members')
  const jigs = usePartsOf('jigs')
  const jobId = useSessionPart((state) => state.jobId)
  const known = useSessionPart((state) => state.evaluation?.parts)
  if (partId && jigs.some((part) => part.id === partId)) return <PartView key={partId} partId={partId} />
  // come from a member without a rail: to the jig that holds it
  const own = jigs.find((jig) => holdsOf(jig) === partId)
  if (partId && own && known && !known.some((one) => one.id === partId && one.jig))
    return <Navigate to={`/jobs/${jobId}/jigs/${own.id}`} replace />
  if (partId && members.some((part) => part.id === partId)) return <JigView key={partId} partId={partId} />
  return (
    <StationLayout
      sheet={
        <>
          <SheetHead
            title={<Typography variant="h1">Jigs</Typography>}
            note="how each member is held while it is welded"
          />
          <Box sx={{ flex: 1, minHeight: 0, px: 2, pb: 1, overflowY: 'auto' }}>
            {members.length ? (
              <MembersHeld />
            ) : (
              <Empty title="Nothing to hold yet">
                There is no member yet. Add one at station 5: its jig follows from its joints and tubes.
              </Empty>
            )}
            <OfLinks />
            <OfEnds />
            <BracketBars />
          </Box>
        </>
      }
      panel={
        <Box sx={{ p: 2.25, overflowY: 'auto' }}>
          <LayOutAll />
          <PartList of="jigs" />
        </Box>
      }
    />
  )
}

const holdsOf = (part: object) => ('holds' in part && typeof part.holds === 'string' ? part.holds : null)

/** Every member, and what holds it: its own rail, a jig, or nothing yet. */
function MembersHeld() {
  const jobId = useSessionPart((state) => state.jobId)
  const evaluation = useSessionPart((state) => state.evaluation)
  const members = usePartsOf('members')
  const jigs = usePartsOf('jigs')
  return (
    <Box component="ul" aria-label="Members and what holds them" sx={{ listStyle: 'none', m: 0, mb: 2.5, p: 0 }}>
      {members.map((member) => {
        const own = jigs.filter((jig) => holdsOf(jig) === member.id)
        const result = evaluation?.parts.find((one) => one.id === member.id)
        return (
          <Box
            component="li"
            key={member.id}
            sx={{ display: 'flex', gap: 2, alignItems: 'center', py: 0.75, borderBottom: 1, borderColor: 'divider' }}
          >
            <Typography
              component={RouterLink}
              to={`/jobs/${jobId}/jigs/${member.id}`}
              sx={{ width: 260, fontWeight: 600, color: 'text.primary', '&:hover': { color: 'primary.main' } }}
            >
              {member.name}
            </Typography>
            <Box sx={{ flex: 1, minWidth: 0 }}>
              {result?.jig && (
                <Typography
                  component={RouterLink}
                  to={`/jobs/${jobId}/jigs/${member.id}`}
                  sx={{ color: 'primary.main', mr: 2 }}
                >
                  its rail
                </Typography>
              )}
              {own.map((jig) => (
                <Typography
                  key={jig.id}
                  component={RouterLink}
                  to={`/jobs/${jobId}/jigs/${jig.id}`}
                  sx={{ color: 'primary.main', mr: 2 }}
                >
                  {jig.name}
                </Typography>
              ))}
              {result && !result.jig && own.length === 0 && (
                <Typography component="span" sx={{ color: 'text.secondary' }}>
                  no jig yet
                </Typography>
              )}
            </Box>
            {own.length === 0 && <LayOut partId={member.id} />}
          </Box>
        )
      })}
    </Box>
  )
}

/** A jig of plate and posts for one part; why none, where none can be. */
function LayOut({ partId }: { partId: string }) {
  const session = useTheSession()
  const jobId = useSessionPart((state) => state.jobId)
  const go = useNavigate()
  const make = useMutation({
    mutationFn: async () => {
      const jigId = newId()
      const body = { design: session.state().design, part_id: partId, jig_id: jigId }
      return { jigId, patch: await answer(api.POST('/api/jigs/new', { body })) }
    },
    onSuccess: ({ jigId, patch }) => {
      session.patch('lay out a jig', patch)
      void go(`/jobs/${jobId}/jigs/${jigId}`)
    },
  })
  return (
    <Box sx={{ textAlign: 'right' }}>
      <Button size="small" disabled={make.isPending} onClick={() => make.mutate()}>
        Lay out a jig
      </Button>
      {make.error && <Problem error={make.error} />}
    </Box>
  )
}

/** Jigs for all that have none, by one press; what none was laid out for, and why. */
function LayOutAll() {
  const session = useTheSession()
  const evaluation = useSessionPart((state) => state.evaluation)
  const members = usePartsOf('members')
  const jigs = usePartsOf('jigs')
  const held = new Set(jigs.map(holdsOf))
  const railed = new Set(evaluation?.parts.filter((one) => one.jig).map((one) => one.id))
  const free = members.filter((one) => !held.has(one.id) && !railed.has(one.id)).length
  const make = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/jigs/all', {
          body: { design: session.state().design, ids: Array.from({ length: members.length }, newId) },
        }),
      ),
    onSuccess: (found) => found.parts.length > 0 && session.patch('lay out jigs', found),
  })
  const { left = [], parts = [] } = make.data ?? {}
  return (
    <Box sx={{ mb: 1.5 }}>
      <Button variant="contained" disabled={free === 0 || !evaluation || make.isPending} onClick={() => make.mutate()}>
        {make.isPending ? 'Laying them out' : 'Lay out all jigs'}
      </Button>
      <Typography variant="body2" sx={{ color: 'text.secondary', mt: 0.5 }}>
        {members.length === 0
          ? 'There is no member yet.'
          : free === 0
            ? 'Every member has a jig, or a rail of its own.'
            : 'A plate with posts, dummies and spacers for each member that has neither a jig nor a rail of its own.'}
      </Typography>
      {make.error && <Problem error={make.error} />}
      {make.data && (
        <Box role="status" aria-label="What was laid out" sx={{ mt: 1, p: 1, border: 1, borderColor: 'divider' }}>
          <Typography variant="body2" sx={{ fontWeight: 600 }}>
            {parts.length === 1 ? '1 jig is laid out' : `${parts.length} jigs are laid out`}, {left.length} not
            {left.length > 0 ? ':' : '.'}
          </Typography>
          {left.map((one) => (
            <Typography key={one.part_id} variant="caption" component="p" sx={{ m: 0 }}>
              <b>{one.name}</b>: <Told>{one.why}</Told>
            </Typography>
          ))}
        </Box>
      )}
    </Box>
  )
}

function JigView({ partId }: { partId: string }) {
  const design = useDesign()
  const { part, result } = usePart(partId)
  const { unit, main, other, told } = useUnits()
  const [picked, setPicked] = useState<string | null>(null)
  const jig = result?.jig
  const drawn = useDrawing({ design, partId, view: jig?.view, unit })
  if (!part) return null
  const drawing = drawn.data?.drawing
  return (
    <StationLayout
      sheet={
        <>
          <SheetHead
            title={
              <Typography variant="h1" noWrap sx={{ maxWidth: 360 }}>
                {part.name}
              </Typography>
            }
            note="jig: rail, two dummy bolts, stops"
          />
          <Box sx={{ flex: 1, minHeight: 0, px: 2 }}>
            {drawn.error && <Problem error={drawn.error} retry={() => void drawn.refetch()} />}
            {(!result || (jig && drawn.isPending)) && <Busy what="Drawing the jig" />}
            {drawing && jig && <DrawingView drawing={drawing} selected={picked ? [picked] : []} onSelect={setPicked} />}
            {result && !jig && (
              <Empty title="No jig here">
                {result.complete
                  ? 'It has no rail of its own. A jig of plate and posts holds it by its joints.'
                  : told(result.headline)}
                {result.complete && <LayOut partId={partId} />}
              </Empty>
            )}
          </Box>
        </>
      }
      panel={
        <Box sx={{ p: 2.25, overflowY: 'auto' }}>
          {jig ? (
            <>
              <Section title="Check before and after welding">
                <Typography
                  sx={(theme) => ({
                    fontFamily: theme.tirante.mono,
                    fontSize: 24,
                    fontWeight: 700,
                    color: 'primary.main',
                  })}
                >
                  {main(jig.check_length_mm)}
                </Typography>
                <Typography variant="body2" sx={{ color: 'text.secondary' }}>
                  ± {main(jig.tolerance_mm)} pin to pin, cold · {other(jig.check_length_mm)}
                </Typography>
                {jig.set_length_mm !== jig.check_length_mm && (
                  <Typography variant="body2">
                    Set the dummy bolts at {main(jig.set_length_mm)}: the welds draw it in.
                  </Typography>
                )}
              </Section>
              <Section title="Order of the work">
                <Box component="ol" sx={{ pl: 2.5, m: 0, '& li': { mb: 1 } }}>
                  {jig.steps.map((step) => (
                    <Typography component="li" variant="body2" key={step}>
                      <Told>{step}</Told>
                    </Typography>
                  ))}
                </Box>
              </Section>
              <Section title="Welding">
                <Box component="ul" sx={{ pl: 2.5, m: 0, '& li': { mb: 0.75 } }}>
                  {result?.welding.map((note) => (
                    <Typography component="li" variant="body2" key={note}>
                      <Told>{note}</Told>
                    </Typography>
                  ))}
                </Box>
              </Section>
            </>
          ) : (
            <PartList of="jigs" />
          )}
        </Box>
      }
    />
  )
}
