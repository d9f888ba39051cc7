import { Box, Typography } from '@mui/material'
import type { BenchPartOut, PartOut } from '../../api'
import { Told, useUnits } from '../../quantity'

type Card = NonNullable<PartOut['card']>

/** What the bench works to, whatever the part: lengths in large figures, lines, what is at either end. `small` beside a drawing; of a `draft` with the word across its figures. */
export function PartCard({ card, small = false, draft = false }: { card: Card; small?: boolean; draft?: boolean }) {
  const { main, other } = useUnits()
  const size = (large: number) => (small ? Math.max(14, Math.round(large * 0.5)) : large)
  return (
    <>
      {card.figures.map((figure, i) => (
        <Box key={figure.label} sx={{ mt: small ? 1 : 2 }}>
          <Typography sx={{ fontSize: size(20), fontWeight: 700 }}>{figure.label}</Typography>
          <Box sx={{ position: 'relative', width: 'fit-content' }}>
            <Typography
              sx={(theme) => ({
                fontFamily: theme.tirante.mono,
                fontSize: size(i === 0 ? 52 : 32),
                fontWeight: 700,
                lineHeight: 1,
                color: i === 0 ? 'primary.main' : 'text.primary',
              })}
            >
              {main(figure.mm)}
            </Typography>
            {draft && <Draft />}
          </Box>
          <Typography sx={{ fontSize: size(20), color: 'text.secondary' }}>{other(figure.mm)}</Typography>
          {figure.note && (
            <Typography sx={{ fontSize: size(18) }}>
              <Told>{figure.note}</Told>
            </Typography>
          )}
        </Box>
      ))}
      <Lines lines={card.lines} size={size(17)} />
      {card.ends.map((end, i) => (
        <Box
          key={i}
          sx={{
            display: 'flex',
            gap: 2,
            alignItems: 'center',
            py: small ? 0.75 : 1.25,
            mt: i ? 0 : small ? 1 : 2,
            borderTop: 1,
            borderColor: 'divider',
          }}
        >
          <Typography
            sx={(theme) => ({
              fontFamily: theme.tirante.mono,
              fontSize: size(26),
              fontWeight: 700,
              width: size(62),
              height: size(62),
              flexShrink: 0,
              display: 'grid',
              placeItems: 'center',
              borderRadius: '50%',
              border: end.mark === 'LH' ? (small ? 2 : 4) : 0,
            })}
          >
            {end.mark}
          </Typography>
          <Box>
            <Lines lines={end.lines} size={size(17)} />
          </Box>
        </Box>
      ))}
    </>
  )
}

function Lines({ lines, size }: { lines: Card['lines']; size: number }) {
  const { main } = useUnits()
  return lines.map((line) => (
    <Typography key={line.text} sx={{ fontSize: size, fontWeight: line.strong ? 700 : 400 }}>
      <Told>{line.text}</Told>
      {line.mm !== null && ` ${main(line.mm)}`}
    </Typography>
  ))
}

/** Whether a part holds, in its own words. */
export function Headline({ part }: { part: Pick<BenchPartOut, 'status' | 'headline'> }) {
  const { status, headline } = part
  return (
    <Typography
      sx={{
        fontWeight: 700,
        my: 1,
        color: status === 'ok' ? 'text.primary' : status === 'stop' ? 'error.main' : 'warning.main',
      }}
    >
      <Told>{headline}</Told>
    </Typography>
  )
}

/** The word DRAFT across what it lies over. */
export function Draft() {
  return (
    <Box
      aria-hidden
      sx={{
        ...{ position: 'absolute', inset: 0, display: 'grid', placeItems: 'center', pointerEvents: 'none' },
        ...{ color: 'error.main', fontWeight: 700, fontSize: 'clamp(28px, 9vw, 64px)', letterSpacing: 4 },
        ...{ transform: 'rotate(-14deg)', opacity: 0.75 },
      }}
    >
      DRAFT
    </Box>
  )
}
