import { Box, Typography } from '@mui/material'
import type { SurveyOut } from '../../api'
import { useUnits } from '../../quantity'
import { KeptLine, KeptRow } from '../../ui'
import { SurveyFile } from './SurveyFile'
import { isAngle, kindOf } from './kinds'

type Reading = SurveyOut['readings'][number]

interface Props {
  survey: SurveyOut
  selected: string[]
  onSelect: (ref: string) => void
  onBack: (reading: Reading, why: string) => void
  busy: boolean
}

export function useFigure() {
  const { main, finely } = useUnits()
  return (reading: Reading, value: number, fine = false) =>
    isAngle(reading.taken.kind) ? `${value.toFixed(2).replace('-', '−')}°` : fine ? finely(value) : main(value)
}

/** Every reading as it was taken, the latest first, with what became of it; none is ever changed or lost. */
export function Readings({ survey, selected, onSelect, onBack, busy }: Props) {
  const names = new Map(survey.places.map((place) => [place.key, place.name]))
  const figure = useFigure()
  const { main } = useUnits()
  return (
    <>
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0, mb: 0.5 }}>
        Kept here with the job. A design file and the pack do not carry them: save them as a file of their own, and read
        that into a copy of the job while it has none.
      </Typography>
      <SurveyFile empty={survey.readings.length === 0} />
      <Box component="ol" aria-label="Readings, the latest first" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {survey.readings.toReversed().map((reading) => {
          const { taken } = reading
          const ref = `reading:${taken.id}`
          return (
            <KeptRow
              key={taken.id}
              head={
                <>
                  <b>{figure(reading, reading.counts)}</b> {kindOf(taken.kind).label}
                </>
              }
              of={taken.of.map((key) => names.get(key) ?? 'a point that is gone').join(' → ')}
              how={[
                taken.read?.typed && `typed “${taken.read.typed}”`,
                taken.bar &&
                  `marks at ${main(taken.bar.ahead.mm)} ahead and ${main(taken.bar.behind.mm)} behind, ${main(taken.bar.apart.mm)} apart`,
                taken.swing &&
                  `${taken.swing.turned_out}° turned out, ${taken.swing.turned_in}° turned in, by ${taken.swing.turn_deg}°`,
                ...taken.added.map((one) => `${one.what} ${figure(reading, one.mm)}`),
                ...taken.touched.flatMap((one) =>
                  one.at === 'centre' || !one.diameter
                    ? []
                    : [`⌀ ${figure(reading, one.diameter.mm)} at its ${one.at}`],
                ),
                `${taken.instrument} ± ${figure(reading, reading.sd, true)}`,
                reading.leaned !== 0 && `floor’s lean ${reading.leaned.toFixed(2).replace('-', '−')}° taken out`,
                taken.who,
                new Date(reading.made_at).toLocaleString(),
              ]
                .filter(Boolean)
                .join(', ')}
              called={figure(reading, reading.counts)}
              back={reading.back}
              selected={selected.includes(ref)}
              onSelect={() => onSelect(ref)}
              onBack={(why) => onBack(reading, why)}
              busy={busy}
            >
              <Said reading={reading} />
            </KeptRow>
          )
        })}
      </Box>
    </>
  )
}

function Said({ reading }: { reading: Reading }) {
  const figure = useFigure()
  if (reading.lost) return <KeptLine amber>{reading.lost}</KeptLine>
  if (reading.expected !== null)
    return (
      <KeptLine amber>
        {`Does not fit: the others say ${figure(reading, reading.expected)} ± ${figure(reading, reading.expected_sd ?? 0, true)}.`}
      </KeptLine>
    )
  if (reading.residual === null) return null
  if (reading.normalised === null) return <KeptLine>Nothing checks it: a slip in it would not show.</KeptLine>
  return (
    <KeptLine>
      {`Fits to ${figure(reading, Math.abs(reading.residual), true)}; ${Math.round(100 * (reading.redundancy ?? 0))} % of a slip in it would show here.`}
    </KeptLine>
  )
}
