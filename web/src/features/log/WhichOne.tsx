import { Box, Typography } from '@mui/material'
import type { ReadOut } from '../../api'
import { useUnits } from '../../quantity'
import { Fold, Section, sentence } from '../../ui'
import { degrees } from './measures'

/** Which dimension it is: what explains the readings, what each would mean at the bench, and what would tell them apart. */
export function WhichOne({ read }: { read: ReadOut }) {
  const { signed, main } = useUnits()
  const named = read.errors.filter((one) => one.named)
  const others = read.errors.filter((one) => !one.named)
  const doubt = read.verdict === 'cannot_tell' || read.verdict === 'not_one_error'
  return (
    <Section title="Which dimension is it">
      {read.lost && <Line amber>{read.lost}</Line>}
      {named.length < 2 ? (
        named.length === 0 && read.says && <Line amber={doubt}>{read.says}</Line>
      ) : (
        <Line amber>These readings cannot tell which of {named.length} it is:</Line>
      )}
      <Box
        component="ol"
        aria-label="What explains the readings, likeliest first"
        sx={{ listStyle: 'none', m: 0, p: 0 }}
      >
        {named.map((one) => (
          <Box component="li" key={one.key} sx={{ mb: 1, pl: 1, borderLeft: 3, borderColor: 'primary.main' }}>
            <Line>
              <b>{one.says}</b>, ±{' '}
              {Math.abs(one.sd_mm) < 0.05 ? 'nothing' : signed(one.sd_mm, false, 1).replace('+', '')}
            </Line>
            <Line>{one.bench}</Line>
          </Box>
        ))}
      </Box>
      {read.verdict === 'one_error' && <Line>No other length or place by itself explains the readings as well.</Line>}
      {read.next[0] && (
        <>
          <Typography variant="h3" component="h4" sx={{ mt: 1.5, mb: 0.25 }}>
            Read next
          </Typography>
          {read.next.slice(0, 1).map((one, i) => (
            <Box key={i}>
              <Line>
                {sentence(one.measure)} {where(one, (mm) => signed(mm, false))}. It would tell {one.tells.join(', ')}{' '}
                from the likeliest:
              </Line>
              {(one.expected as [string, number][]).map(([name, value]) => (
                <Line key={name}>
                  {degrees(value)} if it is {name}
                </Line>
              ))}
            </Box>
          ))}
        </>
      )}
      {read.tape.length > 0 && (
        <>
          <Typography variant="h3" component="h4" sx={{ mt: 1.5, mb: 0.25 }}>
            Measure itself
          </Typography>
          <Line>No angle tells these apart. Take a tape to: {read.tape.join('; ')}.</Line>
        </>
      )}
      {read.verdict && (
        <Fold title="What was looked for" note={others.length ? `${others.length} less likely` : undefined}>
          {others.map((one) => (
            <Line key={one.key}>Less likely: {one.says}.</Line>
          ))}
          {read.unseen.length > 0 && <Line>Would not show in these readings: {read.unseen.join('; ')}.</Line>}
          {read.left_out.length > 0 && <Line>Not looked for: {read.left_out.join('; ')}.</Line>}
          <Line>
            One error at a time, of {main(read.most_mm)} at most. Not looked for either: a bent part, the hub’s face
            against its upright, play in joints, a steering off centre, a floor that leans unknown to the survey.
            Heights count as sure to {main(read.height_sd_mm)}, made lengths to {main(read.length_sd_mm)};{' '}
            {read.surveyed ? `${read.surveyed} points as the survey has them, the others` : 'all points'} to{' '}
            {main(read.place_sd_mm)}.
          </Line>
        </Fold>
      )}
    </Section>
  )
}

function where(one: ReadOut['next'][number], signed: (mm: number) => string) {
  const told = [one.risen_mm ? `with the wheel ${signed(one.risen_mm)} from ride height` : 'at ride height']
  if (one.roll_deg) told.push(`rolled ${degrees(one.roll_deg)}`)
  if (one.steer) told.push(`steered ${one.steer > 0 ? 'left' : 'right'} by ${Math.abs(one.steer)}`)
  return told.join(', ')
}

function Line({ children, amber }: { children: React.ReactNode; amber?: boolean }) {
  return (
    <Typography variant="body2" component="p" sx={{ m: 0, mb: 0.5, color: amber ? 'warning.main' : 'text.primary' }}>
      {children}
    </Typography>
  )
}
