import { Box, Typography } from '@mui/material'
import type { ReadOut } from '../../api'
import { useUnits } from '../../quantity'
import { KeptLine, KeptRow } from '../../ui'
import { degrees, measureOf, ofAxle } from './measures'

interface Props {
  read: ReadOut
  selected: string[]
  onSelect: (ref: string) => void
  onBack: (id: string, why: string) => void
  busy: boolean
}

/** Every angle as it was read, the latest first; none is ever changed or lost. */
export function Angles({ read, selected, onSelect, onBack, busy }: Props) {
  const { signed: told } = useUnits()
  const signed = (mm: number) => told(mm, false)
  return (
    <>
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0, mb: 0.5 }}>
        Kept here with the job. A design file, a copy of the job and the pack do not carry them yet.
      </Typography>
      <Box component="ol" aria-label="Angles, the latest first" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {read.readings.toReversed().map((one) => {
          const { taken } = one
          const ref = `reading:${taken.id}`
          const at = [
            taken.risen.mm ? `${signed(taken.risen.mm)} from ride height` : 'at ride height',
            taken.roll_deg && `rolled ${degrees(taken.roll_deg)}`,
            taken.steer && `steered ${taken.steer > 0 ? 'left' : 'right'} by ${Math.abs(taken.steer)}`,
          ].filter(Boolean)
          return (
            <KeptRow
              key={taken.id}
              head={
                <>
                  <b>{degrees(taken.deg)}</b> {measureOf(taken.measure).label}
                  {!ofAxle(taken.measure) && `, ${taken.wheel} wheel`}
                </>
              }
              of={at.join(', ')}
              how={[`${taken.instrument} ± ${one.sd}°`, taken.who, new Date(one.made_at).toLocaleString()]
                .filter(Boolean)
                .join(', ')}
              called={`${degrees(taken.deg)} ${measureOf(taken.measure).label}`}
              back={one.back}
              selected={selected.includes(ref)}
              onSelect={() => onSelect(ref)}
              onBack={(why) => onBack(taken.id, why)}
              busy={busy}
            >
              {one.leaned === null && (
                <KeptLine amber>
                  It stood on a floor whose heights the survey does not have, and counts as if that were level.
                </KeptLine>
              )}
              {Boolean(one.leaned) && (
                <KeptLine>{degrees(one.leaned ?? 0)} of the floor’s lean are taken out.</KeptLine>
              )}
              {one.model !== null && (
                <KeptLine>
                  The model says {degrees(one.model)}
                  {one.explained !== null && `; with the likeliest error ${degrees(one.explained)}`}.
                </KeptLine>
              )}
            </KeptRow>
          )
        })}
      </Box>
    </>
  )
}
