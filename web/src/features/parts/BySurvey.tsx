import { Typography } from '@mui/material'
import { useMeans } from '../../app/surveyMeans'
import { useUnits } from '../../quantity'
import { Section } from '../../ui'

/** How surely a part's lengths are known by the survey, before it is cut; nothing where none of its points was measured. */
export function BySurvey({ partId }: { partId: string }) {
  const { data } = useMeans()
  const { main, finely } = useUnits()
  const own = data?.lengths.filter((one) => one.part_id === partId && one.sd !== null) ?? []
  if (own.length === 0) return null
  const lengths = [...new Set(own.map((one) => one.of.join(' to ')))]
  return (
    <Section title="By the survey" note="how surely its lengths are known, one standard deviation">
      {lengths.map((of) => {
        const both = own.filter((one) => one.of.join(' to ') === of)
        const room = Math.min(...both.map((one) => one.takes_up ?? 0))
        const beyond = both.some((one) => one.beyond)
        return (
          <Typography
            key={of}
            variant="body2"
            component="p"
            sx={{ m: 0, mb: 0.5, color: beyond ? 'warning.main' : 'text.primary' }}
          >
            {of}: {both.map((one) => `± ${finely(one.sd ?? 0)} ${one.side}`.trim()).join(', ')};{' '}
            {room ? `its adjuster takes up ${main(room)}` : 'nothing takes that up'}
            {beyond && ', measure more before it is cut'}.
          </Typography>
        )
      })}
    </Section>
  )
}
