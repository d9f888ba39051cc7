import { Box, ButtonBase, Typography } from '@mui/material'
import type { LoadsOut } from '../../api'
import { useUnits } from '../../quantity'
import { force } from './useLoads'

/** Every case, each way round: where it applies, what it loads most; the one that is drawn is marked. */
export function CaseList({ found, onChoose }: { found: LoadsOut; onChoose: (name: string) => void }) {
  const { main } = useUnits()
  const place = ({ kind, travel_mm: mm, roll_deg: roll }: LoadsOut['cases'][number]) =>
    (Math.abs(mm) < 0.05 ? 'at ride height' : `at ${mm > 0 ? '+' : '−'}${main(Math.abs(mm))}`) +
    (Math.abs(roll) < 0.05
      ? ''
      : kind === 'car'
        ? `, leans ${Math.abs(roll).toFixed(1)}° to the ${roll > 0 ? 'right' : 'left'}`
        : ` between the wheels, the ${roll > 0 ? 'right' : 'left'} one higher`)
  return (
    <Box component="ul" aria-label="Load cases" sx={{ listStyle: 'none', p: 0, m: 0, mb: 2 }}>
      {found.cases.map((one) => {
        const shown = one.name === found.shown
        return (
          <li key={one.name}>
            <ButtonBase
              onClick={() => onChoose(one.name)}
              aria-current={shown || undefined}
              sx={{
                width: '100%', display: 'block', textAlign: 'left', py: 0.6, px: 1, borderLeft: 3, borderRadius: 0.5,
                borderColor: shown ? 'primary.main' : one.refused ? 'error.main' : one.fault ? 'warning.main' : 'transparent',
                bgcolor: shown ? 'action.selected' : 'transparent',
              }} // prettier-ignore
            >
              <Typography variant="body2" sx={{ fontWeight: shown ? 700 : 400 }}>
                {one.name}
              </Typography>
              {shown && one.reason && (
                <Typography variant="caption" component="div" sx={{ color: 'text.secondary' }}>
                  {one.reason}
                </Typography>
              )}
              {one.fault ? (
                <Typography
                  variant="caption"
                  component="div"
                  sx={{ color: one.refused ? 'error.main' : 'warning.main' }}
                >
                  {one.refused ? '■' : '▲'} {one.fault}
                </Typography>
              ) : (
                <Typography
                  variant="caption"
                  component="div"
                  sx={{
                    color: 'text.secondary',
                    display: 'flex',
                    flexWrap: 'wrap',
                    justifyContent: 'space-between',
                    columnGap: 1,
                  }}
                >
                  <span>{place(one)}</span>
                  <Box component="span" sx={(theme) => ({ fontFamily: theme.tirante.mono, whiteSpace: 'nowrap' })}>
                    {one.hardest_n !== null && `${one.hardest} ${force(one.hardest_n)}`}
                  </Box>
                </Typography>
              )}
              {one.notes.map((note) => (
                <Typography key={note} variant="caption" component="div" sx={{ color: 'text.secondary' }}>
                  {note}
                </Typography>
              ))}
            </ButtonBase>
          </li>
        )
      })}
    </Box>
  )
}
