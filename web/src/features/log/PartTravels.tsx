import { Box, Button, Typography } from '@mui/material'
import { useState } from 'react'
import type { DoneStepOut, TickTold, TravelRow } from '../../api'
import { NOTHING_TOLD } from '../../app/told'
import { Told, useUnits } from '../../quantity'
import { Busy, KeptLine, Problem, TextRow } from '../../ui'
import { usePartTravels } from './useTraveller'

/** One hand of a part, step by step: what was done, by whom, from what; the next one open. */
export function PartTravels({ row, number }: { row: TravelRow; number: number | null }) {
  const { found, mark } = usePartTravels(row, number)
  const [chosen, choose] = useState<string | null>(null)
  const part = found.data
  if (found.error) return <Problem error={found.error} retry={() => void found.refetch()} />
  if (!part) return <Busy what="Reading its steps" />
  const open = chosen ?? part.steps.find((one) => !one.done)?.step.key ?? ''
  return (
    <Box component="section" aria-label={`Steps of ${part.name}`}>
      <Typography variant="h2" component="h2">
        {part.name}
        {part.hand && `, ${part.hand.toUpperCase()}`}
      </Typography>
      {part.other_metal.map((told) => (
        <KeptLine key={told} amber>
          {told}.
        </KeptLine>
      ))}
      {Boolean(mark.error) && <Problem error={mark.error} />}
      <Box component="ol" aria-label="Steps" sx={{ listStyle: 'none', m: 0, p: 0, mt: 1 }}>
        {part.steps.map((one) => (
          <Step
            key={one.step.key}
            one={one}
            asked={part.asked}
            open={open === one.step.key}
            busy={mark.isPending}
            onOpen={() => choose(open === one.step.key ? '' : one.step.key)}
            onMark={(done, told) =>
              mark.mutate({ step: one.step, done, told }, { onSuccess: () => choose(done ? null : one.step.key) })
            }
          />
        ))}
      </Box>
    </Box>
  )
}

interface StepProps {
  one: DoneStepOut
  asked: Record<string, string>
  open: boolean
  busy: boolean
  onOpen: () => void
  onMark: (done: boolean, told: TickTold) => void
}

function Step({ one, asked, open, busy, onOpen, onMark }: StepProps) {
  const { main } = useUnits()
  const [told, setTold] = useState(NOTHING_TOLD)
  const { step } = one
  const say = (name: keyof TickTold) => (text: string) => setTold((now) => ({ ...now, [name]: text }))
  const give = (done: boolean) => {
    onMark(done, told)
    setTold((now) => ({ ...now, note: '' }))
  }
  return (
    <Box component="li" sx={{ borderBottom: 1, borderColor: 'divider', py: 0.5 }}>
      <Box
        component="button"
        aria-expanded={open}
        onClick={onOpen}
        sx={{
          all: 'unset', cursor: 'pointer', display: 'flex', gap: 1, width: '100%', fontSize: 14,
          fontWeight: open ? 700 : 400, '&:focus-visible': { outline: 2 },
        }} // prettier-ignore
      >
        <Box component="span" role="img" aria-label={one.done ? 'done' : step.hold ? 'to be signed' : 'open'}>
          {one.done ? '✓' : step.hold ? '◇' : '○'}
        </Box>
        <span>
          <Told>{step.title}</Told>
        </span>
      </Box>
      {one.marks.map((mark, i) => (
        <KeptLine key={i} amber={!mark.done && i === one.marks.length - 1}>
          {mark.done ? 'Done' : 'Taken back'}
          {mark.number !== null && `, rev ${mark.number}`}
          {mark.told.who && `, ${mark.told.who}`}, {new Date(mark.made_at).toLocaleString()}
          {mark.late && ', while the server was away'}
          {(['heat', 'filler', 'welder', 'note'] as const)
            .filter((name) => mark.told[name])
            .map((name) => `; ${name === 'note' ? '' : `${name} `}${mark.told[name]}`)
            .join('')}
        </KeptLine>
      ))}
      {open && (
        <Box sx={{ pl: 2.5, pt: 0.5 }}>
          {step.figures.map((figure) => (
            <Typography key={figure.label} variant="body2">
              {figure.label} <b>{main(figure.mm)}</b> {figure.note}
            </Typography>
          ))}
          {step.lines.map((line) => (
            <Typography key={line} variant="body2" sx={{ color: 'text.secondary' }}>
              <Told>{line}</Told>
            </Typography>
          ))}
          {step.hold ? (
            <Typography variant="body2" sx={{ color: 'warning.main', mt: 0.5 }}>
              Somebody else signs this. Signing is not there yet: it stays open, and what is ticked after it is told as
              past it.
            </Typography>
          ) : (
            <>
              {step.asks.map((name) => (
                <TextRow
                  key={name}
                  label={asked[name] ?? name}
                  value={told[name as keyof TickTold]}
                  optional
                  maxLength={200}
                  onChange={say(name as keyof TickTold)}
                />
              ))}
              <TextRow label="Who" value={told.who} optional maxLength={200} onChange={say('who')} />
              <TextRow
                label={one.done ? 'Why' : 'Note'}
                value={told.note}
                optional
                maxLength={2000}
                onChange={say('note')}
              />
              <Button
                size="small"
                variant={one.done ? 'outlined' : 'contained'}
                disabled={busy}
                onClick={() => give(!one.done)}
                sx={{ mt: 0.5 }}
              >
                {one.done ? 'Not done after all' : 'Done'}
              </Button>
            </>
          )}
        </Box>
      )}
    </Box>
  )
}
