import { Box, Button, Typography } from '@mui/material'
import { Link as RouterLink } from 'react-router'
import type { PartOut } from '../../api'
import { useDesign, useSessionPart } from '../../app/session'
import { useUnits } from '../../quantity'
import { Busy, Empty } from '../../ui'
import { PartCard } from '../parts'

/** Beside the saw, on a phone: one card a part, in large figures; swipe to the next. */
export function BenchView() {
  const design = useDesign()
  const evaluation = useSessionPart((state) => state.evaluation)
  const { unit, toggle } = useUnits()
  return (
    <Box sx={{ height: '100dvh', display: 'flex', flexDirection: 'column', bgcolor: 'background.default' }}>
      <Box
        component="header"
        sx={{ display: 'flex', alignItems: 'center', px: 2, height: 48, borderBottom: 1, borderColor: 'divider' }}
      >
        <Typography
          variant="h2"
          component={RouterLink}
          to="/"
          noWrap
          sx={{ flex: 1, color: 'text.primary', textDecoration: 'none' }}
        >
          {design.name}
        </Typography>
        <Button variant="outlined" size="large" onClick={toggle} aria-label="Units">
          {unit}
        </Button>
      </Box>
      <Box
        component="main"
        sx={{ flex: 1, minHeight: 0, display: 'flex', overflowX: 'auto', scrollSnapType: 'x mandatory' }}
        tabIndex={0}
        aria-label="Part cards, swipe to the next"
      >
        {design.parts.length === 0 && <Empty title="No part yet">Add parts on a larger screen.</Empty>}
        {design.parts.length > 0 && !evaluation && <Busy what="Working it out" />}
        {evaluation?.parts.map((part, i) => (
          <Card key={part.id} part={part} place={`${i + 1} of ${evaluation.parts.length}`} />
        ))}
      </Box>
    </Box>
  )
}

/** How many are made of a part, and whether they are alike. */
const made = (part: PartOut) =>
  part.side === 'pair' ? `pair: make 2, ${part.own_mirror ? 'both the same' : 'left and right differ'}` : part.side

/** What the bench needs of a part, whatever its kind: the lengths it is worked to, what to mind, how it is welded. */
function Card({ part, place }: { part: PartOut; place: string }) {
  const { card } = part
  return (
    <Box
      component="article"
      data-card={part.id}
      sx={{ flex: '0 0 100%', scrollSnapAlign: 'start', overflowY: 'auto', p: 2, bgcolor: 'background.paper' }}
    >
      <Typography variant="h1" sx={{ fontSize: 24, overflowWrap: 'anywhere' }}>
        {part.name}
      </Typography>
      <Typography sx={{ color: 'text.secondary' }}>
        {part.word} · {made(part)} · {place}
      </Typography>
      {!card && <Typography sx={{ my: 3, fontSize: 18 }}>{part.headline}</Typography>}
      {card && (
        <>
          <PartCard card={card} />
          <Box component="ul" sx={{ pl: 2.5, '& li': { fontSize: 16, mb: 1 } }}>
            {part.welding.map((note) => (
              <li key={note}>{note}</li>
            ))}
          </Box>
          <Typography
            sx={{
              fontWeight: 700,
              color: part.status === 'ok' ? 'text.primary' : part.status === 'stop' ? 'error.main' : 'warning.main',
            }}
          >
            {part.headline}
          </Typography>
        </>
      )}
    </Box>
  )
}
