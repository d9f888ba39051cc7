import { Box, Typography } from '@mui/material'
import type { SurveyOut } from '../../api'
import { useUnits } from '../../quantity'
import { Section } from '../../ui'
import { kindOf } from './kinds'
import { useFigure } from './Readings'

/** What is in doubt, gravest first, and what would help. */
export function Doubts({ survey, onSelect }: { survey: SurveyOut; onSelect: (ref: string) => void }) {
  const { main, finely, signed } = useUnits()
  const figure = useFigure()
  const names = new Map(survey.places.map((place) => [place.key, place.name]))
  const name = (key: string) => names.get(key) ?? 'a point that is gone'
  const suspects = survey.readings.filter((one) => one.expected !== null)
  const unchecked = survey.readings.filter((one) => one.residual !== null && one.normalised === null).length
  const free = survey.points.filter((point) => (point.sd as (number | null)[]).includes(null))
  const bent = survey.pairs.filter((one) => one.beyond)
  const counted = survey.readings.filter((one) => one.back === null && !one.lost).length
  return (
    <Box sx={{ mt: 1.75 }}>
      <Section title="What it comes to">
        {survey.lost && <Line amber>{survey.lost}</Line>}
        {suspects.map((one) => (
          <Box
            key={one.taken.id}
            component="button"
            onClick={() => onSelect(`reading:${one.taken.id}`)}
            sx={{ all: 'unset', cursor: 'pointer', display: 'block', mb: 1, '&:focus-visible': { outline: 2 } }}
          >
            <Line amber>
              Does not fit: {kindOf(one.taken.kind).label}, {one.taken.of.map(name).join(' → ')}, read{' '}
              {figure(one, one.counts)}; the others say {figure(one, one.expected ?? 0)} ±{' '}
              {figure(one, one.expected_sd ?? 0, true)}.
            </Line>
            {one.twins.length > 0 && (
              <Line>
                It may as well be {one.twins.length === 1 ? 'another' : `one of ${one.twins.length} others`}: nothing
                tells them apart. Measure one of them again.
              </Line>
            )}
            {one.slips.length > 0 && (
              <Line>
                Perhaps {one.slips.map((slip) => `${slip.what} (${figure(one, slip.would_be)})`).join('; or ')}. Read it
                again before anything is changed.
              </Line>
            )}
          </Box>
        ))}
        {survey.more && (
          <Line amber>Still more do not fit, too many to be told one from the other: look at datum and points.</Line>
        )}
        {free.map((point) => (
          <Line key={point.key} amber>
            {name(point.key)} is not held: nothing says where it is{' '}
            {['ahead', 'to the left', 'up'].filter((_, i) => point.sd[i] === null).join(', ')}.
          </Line>
        ))}
        {survey.mirrored.map((one, i) => (
          <Line key={i} amber>
            {one.points.map(name).join(', ')} could stand on the other side as well
            {one.points.length === 1 &&
              `, at ${(one.elsewhere[one.points[0] ?? ''] as number[] | undefined)?.map((value) => main(value)).join(', ') ?? ''}`}
            : distances alone do not tell. Take a height or an offset.
          </Line>
        ))}
        {bent.map((one) => (
          <Line key={one.own} amber>
            {name(one.own)} and its twin differ by{' '}
            {(one.off as number[]).map((value) => signed(value, false, 1)).join(', ')} (ahead, left, up), more than the
            readings explain: the car is not alike on both sides, or both sides were not measured from one datum.
          </Line>
        ))}
        {counted > 0 && !survey.lost && (
          <Line>
            {counted} readings, {survey.dof} more than are needed
            {survey.fits === true && '; what counts fits'}
            {survey.fits === false && '; together they are off by more than they should be'}
            {survey.fits === null && '; nothing checks anything yet'}.
            {unchecked > 0 &&
              ` ${unchecked === 1 ? 'One of them is' : `${unchecked} of them are`} checked by nothing: a slip there would not show.`}
          </Line>
        )}
        {survey.next.length > 0 && (
          <>
            <Typography variant="h3" component="h4" sx={{ mt: 1.5, mb: 0.25 }}>
              Measure next
            </Typography>
            {survey.next.map((one, i) => (
              <Line key={i}>
                {kindOf(one.kind).label}: {one.of.map(name).join(' → ')}. {name(one.point)} is then known to{' '}
                {one.sd_after === null ? 'more, and still not held' : `± ${finely(one.sd_after)}`}
                {one.sd_before !== null && ` instead of ± ${finely(one.sd_before)}`}.
              </Line>
            ))}
          </>
        )}
      </Section>
    </Box>
  )
}

function Line({ children, amber }: { children: React.ReactNode; amber?: boolean }) {
  return (
    <Typography variant="body2" component="p" sx={{ m: 0, mb: 0.75, color: amber ? 'warning.main' : 'text.primary' }}>
      {children}
    </Typography>
  )
}
