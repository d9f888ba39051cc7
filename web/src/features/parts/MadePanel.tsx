import { Box, Link, Typography } from '@mui/material'
import { Link as RouterLink } from 'react-router'
import type { PartOut } from '../../api'
import { useSessionPart } from '../../app/session'
import { Told, useUnits } from '../../quantity'
import { Empty, Section } from '../../ui'
import { PartCard } from '../cards'

/** How a part is made: what it is worked to, in which order, how it is welded, what to mind. */
export function MadePanel({ part }: { part: PartOut }) {
  const jobId = useSessionPart((state) => state.jobId)
  const { main } = useUnits()
  const { card, jig } = part
  if (!part.complete || !card)
    return (
      <Empty title="Not ready to be made">
        <Told>{part.faults.length > 0 ? part.faults.map((fault) => fault.message).join(' ') : part.headline}</Told>
      </Empty>
    )
  return (
    <Box data-testid="made">
      <Section title="Worked to" note={part.side === 'pair' ? 'make 2' : undefined}>
        <PartCard card={card} small />
      </Section>
      <Section title="Order of the work">
        {jig ? (
          <>
            <List lines={jig.steps} ordered />
            <Typography variant="body2">
              Check {main(jig.check_length_mm)} ± {main(jig.tolerance_mm)} pin to pin, cold.{' '}
              <Link component={RouterLink} to={`/jobs/${jobId}/jigs/${part.id}`}>
                Its jig
              </Link>
            </Typography>
          </>
        ) : (
          <Typography variant="body2" sx={{ color: 'text.secondary' }}>
            {part.tool
              ? 'Saw and drill the posts by the second sheet, screw them down by the plate’s pilot holes, check every ordinate.'
              : `No order of work is written for this kind of part (${part.word}) yet; a jig of plate and posts brings its own.`}
          </Typography>
        )}
      </Section>
      <Section title={part.tool ? 'Welding the part in it, in this order' : 'Welding'}>
        {part.welding.length > 0 ? (
          <List lines={part.welding} ordered={part.tool} />
        ) : (
          <Typography variant="body2" sx={{ color: 'text.secondary' }}>
            Nothing is said of its welds here. Go by your welder’s procedure{part.procedure && `: ${part.procedure}`}.
          </Typography>
        )}
      </Section>
      {part.notes.length > 0 && (
        <Section title="Take care">
          <List lines={part.notes} />
        </Section>
      )}
    </Box>
  )
}

function List({ lines, ordered = false }: { lines: string[]; ordered?: boolean }) {
  return (
    <Box component={ordered ? 'ol' : 'ul'} sx={{ pl: 2.5, m: 0, '& li': { mb: 0.75 } }}>
      {lines.map((line) => (
        <Typography component="li" variant="body2" key={line}>
          <Told>{line}</Told>
        </Typography>
      ))}
    </Box>
  )
}
