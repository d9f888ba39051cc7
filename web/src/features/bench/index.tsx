import { Box, Button, Typography } from '@mui/material'
import { Link as RouterLink } from 'react-router'
import type { PartOut } from '../../api'
import { useDesign, useSessionPart } from '../../app/session'
import { useUnits } from '../../quantity'
import { Busy, Empty } from '../../ui'

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
  const { main, other } = useUnits()
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
          {card.figures.map((figure, i) => (
            <Box key={figure.label} sx={{ mt: 2 }}>
              <Typography sx={{ fontSize: 20, fontWeight: 700 }}>{figure.label}</Typography>
              <Typography
                sx={(theme) => ({
                  fontFamily: theme.tirante.mono,
                  fontSize: i === 0 ? 52 : 32,
                  fontWeight: 700,
                  lineHeight: 1,
                  color: i === 0 ? 'primary.main' : 'text.primary',
                })}
              >
                {main(figure.mm)}
              </Typography>
              <Typography sx={{ fontSize: 20, color: 'text.secondary' }}>{other(figure.mm)}</Typography>
              {figure.note && <Typography sx={{ fontSize: 18 }}>{figure.note}</Typography>}
            </Box>
          ))}
          <Lines lines={card.lines} />
          {card.ends.map((end, i) => (
            <Box
              key={i}
              sx={{
                display: 'flex',
                gap: 2,
                alignItems: 'center',
                py: 1.25,
                mt: i ? 0 : 2,
                borderTop: 1,
                borderColor: 'divider',
              }}
            >
              <Typography
                sx={(theme) => ({
                  fontFamily: theme.tirante.mono,
                  fontSize: 26,
                  fontWeight: 700,
                  width: 62,
                  height: 62,
                  flexShrink: 0,
                  display: 'grid',
                  placeItems: 'center',
                  borderRadius: '50%',
                  border: end.mark === 'LH' ? 4 : 0,
                })}
              >
                {end.mark}
              </Typography>
              <Box>
                <Lines lines={end.lines} />
              </Box>
            </Box>
          ))}
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

function Lines({ lines }: { lines: NonNullable<PartOut['card']>['lines'] }) {
  const { main } = useUnits()
  return lines.map((line) => (
    <Typography key={line.text} sx={{ fontSize: 17, fontWeight: line.strong ? 700 : 400 }}>
      {line.text}
      {line.mm !== null && ` ${main(line.mm)}`}
    </Typography>
  ))
}
