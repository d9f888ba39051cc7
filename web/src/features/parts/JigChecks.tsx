import { Box, Link, Typography } from '@mui/material'
import { Link as RouterLink } from 'react-router'
import type { PartOut } from '../../api'
import { usePart, useSessionPart } from '../../app/session'
import { Told, useUnits } from '../../quantity'
import { Busy, Section } from '../../ui'
import { PartCard } from '../cards'

type Jig = Extract<NonNullable<PartOut['own']>, { kind: 'plate_jig' }>

/** What a part is checked by in and out of its jig: every length from joint to joint, the figure that tells its hand, what to look at. */
export function JigChecks({ partId }: { partId: string }) {
  const { result } = usePart(partId)
  if (!result) return <Busy what="Laying it out" />
  const own = result.own?.kind === 'plate_jig' ? result.own : null
  const order = own ? [] : result.welding
  return (
    <>
      <Typography
        variant="body2"
        data-testid="headline"
        sx={{
          mb: 1,
          fontWeight: result.status === 'ok' ? 400 : 600,
          color: result.complete ? 'text.primary' : 'warning.main',
        }}
      >
        <Told>{result.headline}</Told>
      </Typography>
      {own && <Lengths jig={own} />}
      {own?.hands.map((hand) => (
        <Section key={hand.hand || 'one'} title={hand.hand ? `Hand: ${hand.hand}` : 'Hand'}>
          <HandTold jig={own} hand={hand} />
          {hand.in_the_way.map((told) => (
            <Typography key={told} variant="body2" sx={{ my: 1, borderLeft: 3, borderColor: 'warning.main', pl: 1 }}>
              <Told>{told}</Told>
            </Typography>
          ))}
          <Typography variant="body2">
            <Told>{hand.comes_out}</Told>
          </Typography>
        </Section>
      ))}
      {result.card && !own && (
        <Section title="Lengths">
          <PartCard card={result.card} small />
        </Section>
      )}
      {order.length > 0 && (
        <Section title="How it is used">
          <Box component="ol" sx={{ pl: 2.5, m: 0, '& li': { mb: 0.75 } }}>
            {order.map((line) => (
              <Typography component="li" variant="body2" key={line}>
                <Told>{line}</Told>
              </Typography>
            ))}
          </Box>
        </Section>
      )}
      {result.notes.length > 0 && own && (
        <Section title="Mind">
          {result.notes
            .filter((note) => !own.hands.some((hand) => hand.in_the_way.includes(note)))
            .map((note) => (
              <Typography key={note} variant="body2" sx={{ my: 1, borderLeft: 3, borderColor: 'warning.main', pl: 1 }}>
                <Told>{note}</Told>
              </Typography>
            ))}
        </Section>
      )}
      {result.complete && (
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary' }}>
          Not checked: <Told>{result.not_checked.join('; ')}</Told>.
        </Typography>
      )}
    </>
  )
}

function Lengths({ jig }: { jig: Jig }) {
  const jobId = useSessionPart((state) => state.jobId)
  const { main, other } = useUnits()
  return (
    <Section title="Joint to joint, cold" note={`± ${main(jig.tolerance_mm)}`}>
      {jig.lengths.map((one) => (
        <Box key={`${one.a} ${one.b}`} sx={{ display: 'flex', gap: 1, alignItems: 'baseline' }}>
          <Typography variant="body2" sx={{ flex: 1 }}>
            {one.a} to {one.b}
          </Typography>
          <Typography sx={(theme) => ({ fontFamily: theme.tirante.mono, fontWeight: 700, color: 'primary.main' })}>
            {main(one.mm)}
          </Typography>
          <Typography variant="caption" sx={{ color: 'text.secondary' }}>
            {other(one.mm)}
          </Typography>
        </Box>
      ))}
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary', mt: 0.5 }}>
        {jig.shrink_mm > 0
          ? `The posts are set ${main(jig.shrink_mm)} further for every bead that draws; these are the lengths when it is cold.`
          : 'No allowance for shrink is in it: the shop sets one at Settings.'}{' '}
        {jig.holds_id ? (
          <Link component={RouterLink} to={`/jobs/${jobId}/members/${jig.holds_id}`}>
            {jig.holds}
          </Link>
        ) : (
          <>The {jig.holds}</>
        )}{' '}
        lies {jig.lies}.
      </Typography>
    </Section>
  )
}

function HandTold({ jig, hand }: { jig: Jig; hand: Jig['hands'][number] }) {
  const { main } = useUnits()
  if (jig.own_mirror)
    return (
      <Typography variant="body2">
        The part is its own mirror image: left and right are alike, and this jig makes both.
      </Typography>
    )
  if (hand.signed_mm === null)
    return (
      <Typography variant="body2" sx={{ fontWeight: 600 }}>
        Left and right differ, and no figure here tells them apart surely. Mark each as it comes out of its jig.
      </Typography>
    )
  return (
    <>
      <Typography
        sx={(theme) => ({ fontFamily: theme.tirante.mono, fontSize: 22, fontWeight: 700, color: 'primary.main' })}
      >
        {main(Math.abs(hand.signed_mm))} {hand.signed_mm > 0 ? 'above' : 'below'}
      </Typography>
      <Typography variant="body2">
        <Told>{hand.signed_at}</Told>, over the plane of {hand.signed_plane.slice(0, 2).join(', ')} and{' '}
        {hand.signed_plane[2]}, looked at so that these go round counter-clockwise; ±{' '}
        {main(hand.signed_tolerance_mm ?? 0)}. On the wrong hand it lies as far on the other side.
      </Typography>
    </>
  )
}
