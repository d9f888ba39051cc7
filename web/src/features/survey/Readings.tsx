import { Box, Button, Typography } from '@mui/material'
import { useState } from 'react'
import type { SurveyOut } from '../../api'
import { useUnits } from '../../quantity'
import { TextRow } from '../../ui'
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
  const [asked, ask] = useState<string | null>(null)
  const [why, setWhy] = useState('')
  return (
    <>
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0, mb: 0.5 }}>
        Kept here with the job. A design file, a copy of the job and the pack do not carry them yet.
      </Typography>
      <Box component="ol" aria-label="Readings, the latest first" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {survey.readings.toReversed().map((reading) => {
          const { taken } = reading
          const ref = `reading:${taken.id}`
          return (
            <Box
              component="li"
              key={taken.id}
              sx={{
              py: 0.75, px: 0.75, borderBottom: 1, borderColor: 'divider', fontSize: 13.5,
              bgcolor: selected.includes(ref) ? 'action.selected' : undefined,
            }} // prettier-ignore
            >
              <Box
                component="button"
                onClick={() => onSelect(ref)}
                sx={{
                  all: 'unset',
                  cursor: 'pointer',
                  display: 'block',
                  width: '100%',
                  '&:focus-visible': { outline: 2 },
                }}
              >
                <Box component="span" sx={{ textDecoration: reading.back !== null ? 'line-through' : undefined }}>
                  <b>{figure(reading, reading.counts)}</b> {kindOf(taken.kind).label}
                </Box>
                <Box component="span" sx={{ display: 'block', color: 'text.secondary' }}>
                  {taken.of.map((key) => names.get(key) ?? 'a point that is gone').join(' → ')}
                </Box>
              </Box>
              <Typography variant="caption" component="div" sx={{ color: 'text.secondary' }}>
                {taken.read?.typed && `typed “${taken.read.typed}”, `}
                {taken.added.map((one) => `${one.what} ${figure(reading, one.mm)}, `)}
                {taken.instrument} ± {figure(reading, reading.sd, true)}
                {taken.who && `, ${taken.who}`}, {new Date(reading.made_at).toLocaleString()}
              </Typography>
              <Said reading={reading} />
              {reading.back === null && asked !== taken.id && (
                <Button
                  size="small"
                  onClick={() => ask(taken.id)}
                  aria-label={`Take back ${figure(reading, reading.counts)}`}
                >
                  Take back
                </Button>
              )}
              {asked === taken.id && (
                <Box>
                  <TextRow label="Why" value={why} optional onChange={setWhy} maxLength={200} />
                  <Button
                    size="small"
                    disabled={busy}
                    onClick={() => {
                      onBack(reading, why)
                      ask(null)
                      setWhy('')
                    }}
                  >
                    It does not count
                  </Button>
                  <Button size="small" onClick={() => ask(null)}>
                    It counts
                  </Button>
                </Box>
              )}
            </Box>
          )
        })}
      </Box>
    </>
  )
}

function Said({ reading }: { reading: Reading }) {
  const figure = useFigure()
  const line = (text: string, amber = false) => (
    <Typography variant="caption" component="div" sx={{ color: amber ? 'warning.main' : 'text.secondary' }}>
      {text}
    </Typography>
  )
  if (reading.back !== null)
    return line(`Taken back${reading.back && `: ${reading.back}`}. It is kept and does not count.`)
  if (reading.lost) return line(reading.lost, true)
  if (reading.expected !== null)
    return line(
      `Does not fit: the others say ${figure(reading, reading.expected)} ± ${figure(reading, reading.expected_sd ?? 0, true)}.`,
      true,
    )
  if (reading.residual === null) return null
  if (reading.normalised === null) return line('Nothing checks it: a slip in it would not show.')
  return line(
    `Fits to ${figure(reading, Math.abs(reading.residual), true)}; ${Math.round(100 * (reading.redundancy ?? 0))} % of a slip in it would show here.`,
  )
}
