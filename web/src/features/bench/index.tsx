import { Box, Button, Typography } from '@mui/material'
import { Link as RouterLink } from 'react-router'
import type { Link, LinkOut } from '../../api'
import { useDesign, useSessionPart } from '../../app/session'
import { useUnits } from '../../quantity'
import { Empty } from '../../ui'

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
        {design.links.length === 0 && <Empty title="No part yet">Add links on a larger screen.</Empty>}
        {design.links.map((link, i) => (
          <Card
            key={link.id}
            link={link}
            result={evaluation?.links.find((one) => one.id === link.id)}
            place={`${i + 1} of ${design.links.length}`}
          />
        ))}
      </Box>
    </Box>
  )
}

function Card({ link, result, place }: { link: Link; result?: LinkOut; place: string }) {
  const { main, other } = useUnits()
  const stack = result?.stack
  return (
    <Box
      component="article"
      data-card={link.id}
      sx={{ flex: '0 0 100%', scrollSnapAlign: 'start', overflowY: 'auto', p: 2, bgcolor: 'background.paper' }}
    >
      <Typography variant="h1" sx={{ fontSize: 24, overflowWrap: 'anywhere' }}>
        {link.name}
      </Typography>
      <Typography sx={{ color: 'text.secondary' }}>
        {link.side === 'pair' ? 'pair: make 2, both the same' : link.side} · {place}
      </Typography>
      {!stack && <Typography sx={{ my: 3, fontSize: 18 }}>{result?.headline}</Typography>}
      {stack && result && (
        <>
          <Typography sx={{ mt: 2, fontSize: 20, fontWeight: 700 }}>
            {link.bought ? 'Tube, finished' : 'Saw'}
          </Typography>
          <Typography
            sx={(theme) => ({
              fontFamily: theme.tirante.mono,
              fontSize: 52,
              fontWeight: 700,
              lineHeight: 1,
              color: 'primary.main',
            })}
          >
            {main(stack.tube_cut_mm)}
          </Typography>
          <Typography sx={{ fontSize: 20, color: 'text.secondary' }}>{other(stack.tube_cut_mm)}</Typography>
          <Typography sx={{ fontSize: 18, mt: 1 }}>
            {result.tube_label}, {result.grade_label}
          </Typography>
          {result.bought && (
            <Typography sx={{ fontSize: 18, mt: 1, fontWeight: 700 }}>{result.bought.instruction}</Typography>
          )}
          {stack.ends.map((end, i) => (
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
                  display: 'grid',
                  placeItems: 'center',
                  borderRadius: '50%',
                  border: end.hand === 'LH' ? 4 : 0,
                })}
              >
                {end.hand ?? 'AB'[i]}
              </Typography>
              <Box>
                <Typography sx={{ fontSize: 17 }}>
                  End {'AB'[i]}: {end.label}
                </Typography>
                {end.showing_mm !== null && end.max_showing_mm !== null && (
                  <>
                    <Typography sx={{ fontSize: 17 }}>thread showing {main(end.showing_mm)}</Typography>
                    <Typography sx={{ fontSize: 17, fontWeight: 700 }}>
                      never more than {main(end.max_showing_mm)}
                    </Typography>
                  </>
                )}
              </Box>
            </Box>
          ))}
          <Box sx={{ borderTop: 1, borderColor: 'divider', pt: 1.25 }}>
            <Typography sx={{ fontSize: 17 }}>Pin to pin, cold</Typography>
            <Typography sx={(theme) => ({ fontFamily: theme.tirante.mono, fontSize: 30, fontWeight: 700 })}>
              {main(stack.centre_to_centre_mm)}
            </Typography>
            <Typography sx={{ color: 'text.secondary' }}>
              {other(stack.centre_to_centre_mm)}
              {result.jig && ` · ± ${main(result.jig.tolerance_mm)}`}
            </Typography>
          </Box>
          <Box component="ul" sx={{ pl: 2.5, '& li': { fontSize: 16, mb: 1 } }}>
            {result.welding_notes.map((note) => (
              <li key={note}>{note}</li>
            ))}
          </Box>
          <Typography
            sx={{
              fontWeight: 700,
              color: result.status === 'ok' ? 'text.primary' : result.status === 'stop' ? 'error.main' : 'warning.main',
            }}
          >
            {result.headline}
          </Typography>
        </>
      )}
    </Box>
  )
}
