import { Box, Button, Typography } from '@mui/material'
import { useState } from 'react'
import type { BenchPartOut, StepOut } from '../../api'
import { Told, useUnits } from '../../quantity'
import { Draft } from '../cards'
import { StepPictures } from '../pictures'
import { handsOf, stepsDone, type Ticks } from './ticks'

const HANDS: Record<string, string> = { left: 'LEFT', right: 'RIGHT', '': 'done' }
const OUTLINE: Record<string, string> = { left: '4px', right: '32px', '': '12px' }

interface Props {
  jobId: string
  part: BenchPartOut
  steps: StepOut[]
  ticks: Ticks
  draft: boolean
  onClose: () => void
}

/** One step on the whole screen: what it is, its figures as large as they go, its tick for each hand; next and previous. */
export function Steps({ jobId, part, steps, ticks, draft, onClose }: Props) {
  const first = steps.findIndex((step) => handsOf(part).some((hand) => !ticks.done(part, step.key, hand)))
  const [at, setAt] = useState(Math.max(0, first))
  const step = steps[at]
  const { main, other } = useUnits()
  if (!step) return null
  return (
    <Box
      role="dialog"
      aria-label={`${part.name}, step by step`}
      sx={{
        ...{ position: 'fixed', inset: 0, zIndex: 1200, bgcolor: 'background.paper' },
        ...{ display: 'flex', flexDirection: 'column', p: 2, gap: 1 },
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
        <Typography noWrap sx={{ flex: 1, fontWeight: 600 }}>
          {part.name}
        </Typography>
        <Button size="large" onClick={onClose}>
          Card
        </Button>
      </Box>
      <Typography sx={{ color: 'text.secondary' }}>
        {step.word}, step {at + 1} of {steps.length}; {stepsDone(part, ticks)} of {steps.length * handsOf(part).length}{' '}
        done
        {draft && ' · DRAFT, not to cut from'}
      </Typography>
      <Box sx={{ flex: 1, minHeight: 0, overflowY: 'auto' }} tabIndex={0} role="group" aria-label="The step">
        <Typography variant="h1" sx={{ fontSize: 28, overflowWrap: 'anywhere' }}>
          <Told>{step.title}</Told>
        </Typography>
        {step.figures.map((figure) => (
          <Box key={figure.label} sx={{ mt: 2 }}>
            <Typography sx={{ fontSize: 20, fontWeight: 700 }}>{figure.label}</Typography>
            <Figure text={main(figure.mm)} draft={draft} />
            <Typography sx={{ fontSize: 22, color: 'text.secondary' }}>
              {other(figure.mm)} {figure.note}
            </Typography>
          </Box>
        ))}
        {step.lines.map((line) => (
          <Typography key={line} sx={{ fontSize: 19, mt: 1 }}>
            <Told>{line}</Told>
          </Typography>
        ))}
      </Box>
      {!draft && (
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
          {handsOf(part).map((hand) => (
            <StepPictures
              key={hand}
              jobId={jobId}
              part={{ part_id: part.id, hand, metal: part.metal }}
              step={step.key}
              big
            />
          ))}
        </Box>
      )}
      {ticks.shut.length > 0 && (
        <Typography role="alert" sx={{ fontSize: 19, color: 'warning.main' }}>
          Not kept. {ticks.shut.join(' ')}
        </Typography>
      )}
      {step.hold &&
        handsOf(part).map((hand) => (
          <Typography
            key={hand}
            sx={{ fontSize: 19, color: ticks.done(part, step.key, hand) ? 'text.primary' : 'warning.main' }}
          >
            {hand && `${hand.toUpperCase()}: `}
            {ticks.done(part, step.key, hand)
              ? '✓ signed'
              : 'somebody else signs this, at the build log on the computer: it is not ticked here'}
          </Typography>
        ))}
      <Box sx={{ display: 'grid', gridTemplateColumns: `repeat(${handsOf(part).length}, 1fr)`, gap: 1 }}>
        {(step.hold ? [] : handsOf(part)).map((hand) => {
          const is = ticks.done(part, step.key, hand)
          return (
            <Button
              key={hand}
              variant={is ? 'contained' : 'outlined'}
              aria-pressed={is}
              onClick={() => ticks.tick(part, step.key, hand, !is)}
              sx={{ minHeight: 72, fontSize: 22, fontWeight: 700, borderRadius: OUTLINE[hand], borderWidth: 2 }}
            >
              {is ? '✓ ' : ''}
              {HANDS[hand]}
            </Button>
          )
        })}
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        <Button
          variant="outlined"
          size="large"
          disabled={at === 0}
          onClick={() => setAt(at - 1)}
          sx={{ minHeight: 56 }}
        >
          Previous
        </Button>
        <Button
          variant="outlined"
          size="large"
          disabled={at === steps.length - 1}
          onClick={() => setAt(at + 1)}
          sx={{ minHeight: 56 }}
        >
          Next
        </Button>
      </Box>
    </Box>
  )
}

/** A length in letters that are read from the machine; of a draft with the word across it. */
function Figure({ text, draft }: { text: string; draft: boolean }) {
  return (
    <Box sx={{ position: 'relative', display: 'inline-block' }}>
      <Typography
        sx={(theme) => ({
          fontFamily: theme.tirante.mono,
          fontSize: 'clamp(48px, 17vw, 120px)',
          fontWeight: 700,
          lineHeight: 1.05,
          whiteSpace: 'nowrap',
          color: 'primary.main',
        })}
      >
        {text}
      </Typography>
      {draft && <Draft />}
    </Box>
  )
}
