import { Box, Typography } from '@mui/material'
import type { MeansOut } from '../../api'
import { useMeans } from '../../app/surveyMeans'
import { useUnits } from '../../quantity'

type Length = MeansOut['lengths'][number]

/** What the readings' uncertainty makes of the car: measures, and lengths that parts are made to. */
export function Means() {
  const found = useMeans()
  const { main, finely } = useUnits()
  const means = found.data
  if (!means || (means.ends.length === 0 && means.lost.length === 0)) return null
  const rows: { name: string; by: Length[] }[] = []
  for (const one of means.lengths.filter((length) => length.sd !== null)) {
    const name = `${one.part}, ${one.of.join(' to ')}`
    const row = rows.find((known) => known.name === name)
    if (row) row.by.push(one)
    else rows.push({ name, by: [one] })
  }
  const taken = (one?: Length) => (one?.takes_up == null ? 'nothing' : `its adjuster, ${main(one.takes_up)} either way`)
  const sign = (value: number) => (value < 0 ? '−' : value > 0 ? '+' : '')
  return (
    <Box component="section" aria-label="What that makes of the car" sx={{ px: 3, pb: 3 }}>
      <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
        What that makes of the car
      </Typography>
      {means.ends.map((end) => (
        <Typography key={`${end.end}${end.side}`} variant="body2" component="p" sx={{ m: 0, mb: 0.5 }}>
          {end.name}
          {end.side && `, ${end.side}`}, made to the layout:{' '}
          {end.measures
            .map((one) =>
              one.unit === 'mm'
                ? `${one.name} ${main(one.value)} ± ${finely(one.sd)}`
                : `${one.name} ${sign(one.value)}${Math.abs(one.value).toFixed(1)}° ± ${one.sd.toFixed(1)}°`,
            )
            .join(', ')}
          . {end.counted === 1 ? 'One place counts' : `${end.counted} places count`} with{' '}
          {end.counted === 1 ? 'its' : 'their'} own uncertainty
          {end.taken_as_true.length > 0 && `; not surveyed, and taken as true: ${end.taken_as_true.join(', ')}`}.
        </Typography>
      ))}
      {means.lost.map((told) => (
        <Typography key={told} variant="body2" sx={{ color: 'warning.main' }}>
          Nothing can be told of {told}
        </Typography>
      ))}
      {rows.length > 0 && (
        <Box
          component="table"
          aria-label="Lengths by the survey"
          sx={{
            borderCollapse: 'collapse', fontSize: 13.5, mt: 1, width: '100%',
            '& th': { textAlign: 'left', fontWeight: 600, fontSize: 12.5, color: 'text.secondary', pb: 0.5 },
            '& td': { py: 0.4, pr: 2, borderTop: 1, borderColor: 'divider' },
          }} // prettier-ignore
        >
          <thead>
            <tr>
              {['made after the layout', 'left', 'right', 'what takes it up'].map((head) => (
                <th key={head}>{head}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.name}>
                <td>{row.name}</td>
                {(['left', 'right'] as const).map((side) => {
                  const one = row.by.find((of) => of.side === side || (of.side === '' && side === 'left'))
                  return (
                    <Box component="td" key={side} sx={{ color: one?.beyond ? 'warning.main' : undefined }}>
                      {one?.sd != null && `± ${finely(one.sd)}`}
                      {one?.beyond && ' · measure more'}
                    </Box>
                  )
                })}
                <td>{taken(row.by[0])}</td>
              </tr>
            ))}
          </tbody>
        </Box>
      )}
      <Typography variant="caption" component="p" sx={{ m: 0, mt: 0.5, color: 'text.secondary' }}>
        One standard deviation. More is to be measured before a part is cut of which two of them are more than what
        takes it up.
      </Typography>
    </Box>
  )
}
