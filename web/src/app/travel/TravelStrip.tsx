import { memo } from 'react'
import type { StudyOut, SuspensionEnd } from '../../api'
import { Box, IconButton, MenuItem, Select, Slider, Typography } from '@mui/material'
import { useUnits } from '../../quantity'
import { PauseIcon, PlayIcon } from '../../ui'
import { steering, useEnd, useEnds, useKind, useStudy, useTravel } from './context'
import { OneWheel } from './OneWheel'

const NONE: StudyOut['events'] = []

/** Along the foot of every station: droop, ride, bump with what happens on the way; roll and steer beside it. */
export function TravelStrip() {
  const end = useEnd()
  const study = useStudy()
  const kind = useKind(end)
  if (!end)
    return (
      <Typography variant="caption" sx={{ color: 'text.secondary' }}>
        The travel strip runs along here once a suspension is laid out at station 2.
      </Typography>
    )
  const lock = steering(end)
  return (
    <Strip
      endId={end.id}
      box={end.box}
      most={lock.most}
      unit={lock.unit}
      events={study.data?.events ?? NONE}
      rises={kind?.rises ?? true}
      steered={kind?.steered ?? false}
      beam={kind?.axle === 'beam'}
    />
  )
}

/** The strip itself: an edit of a point does not draw it anew, what it comes to does. */
const Strip = memo(function Strip(props: {
  endId: string
  box: SuspensionEnd['box']
  most: number
  unit: '°' | 'mm'
  events: StudyOut['events']
  rises: boolean
  steered: boolean
  beam: boolean
}) {
  const { endId, events, rises } = props
  const ends = useEnds()
  const { travel, roll, steer, playing, move } = useTravel()
  const { main } = useUnits()
  const { bump_mm: bump, droop_mm: droop, roll_deg: lean } = props.box
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, width: '100%' }} role="group" aria-label="Travel strip">
      {ends.length > 1 && (
        <Select
          size="small"
          variant="standard"
          value={endId}
          onChange={(event) => move({ endId: event.target.value })}
          inputProps={{ 'aria-label': 'Which end moves' }}
          sx={{ minWidth: 72, fontSize: 13.5 }}
        >
          {ends.map((one) => (
            <MenuItem key={one.id} value={one.id}>
              {one.name}
            </MenuItem>
          ))}
        </Select>
      )}
      <Typography variant="caption" sx={{ color: 'text.secondary' }}>
        droop
      </Typography>
      <Box sx={{ flex: 1, minWidth: 0, position: 'relative', pt: 0.5 }}>
        <Slider
          disabled={!rises}
          size="small"
          aria-label="Travel"
          min={-droop}
          max={bump}
          step={1}
          value={travel}
          onChange={(_, value) => move({ travel: value as number, playing: false })}
          valueLabelDisplay="auto"
          valueLabelFormat={(value) => `${value > 0 ? '+' : value < 0 ? '−' : ''}${main(Math.abs(value))}`}
          track={false}
          marks={[{ value: 0 }, ...labelled(events, bump + droop)]}
          sx={{
            mb: 0,
            '& .MuiSlider-markLabel': { fontSize: 11.5, top: 22, color: 'warning.main' },
            '& .MuiSlider-mark': { height: 10, width: 1.5 },
          }}
        />
      </Box>
      <Typography variant="caption" sx={{ color: 'text.secondary' }}>
        bump
      </Typography>
      <Typography
        sx={(theme) => ({
          fontFamily: theme.tirante.mono,
          color: 'primary.main',
          fontWeight: 700,
          width: 88,
          textAlign: 'right',
        })}
        data-testid="travel"
      >
        {travel === 0 ? 'ride' : `${travel > 0 ? '+' : '−'}${main(Math.abs(travel))}`}
      </Typography>
      <Small name="roll" value={roll} most={lean} unit="°" step={0.5} onChange={(value) => move({ roll: value })} />
      {props.steered && (
        <Small
          name="steer"
          value={steer}
          most={props.most}
          unit={props.unit}
          step={1}
          onChange={(value) => move({ steer: value })}
        />
      )}
      {props.beam && rises && <OneWheel endId={endId} box={props.box} />}
      <IconButton size="small" aria-label={playing ? 'Stop' : 'Play'} onClick={() => move({ playing: !playing })}>
        {playing ? <PauseIcon /> : <PlayIcon />}
      </IconButton>
    </Box>
  )
})

const STRIP = 520 // px that the strip is at least where it has labels
const LETTER = 6.3 // px that a letter of them takes

const wide = (event: StudyOut['events'][number]) => ((event.short.length + 3) * LETTER) / STRIP

/** Events as marks; a label that would run into one before it is left away, stops named before warnings. */
function labelled(events: StudyOut['events'], span: number) {
  const taken: { at: number; half: number }[] = []
  const named = new Set<number>()
  for (const kind of ['stop', 'attention'] as const)
    events.forEach((event, i) => {
      const half = (wide(event) * span) / 2
      if (event.kind !== kind || taken.some(({ at, half: other }) => Math.abs(at - event.travel_mm) < half + other))
        return
      taken.push({ at: event.travel_mm, half })
      named.add(i)
    })
  return events.map((event, i) => ({
    value: event.travel_mm,
    label: named.has(i) ? `${event.kind === 'stop' ? '■' : '▲'} ${event.short}` : '',
  }))
}

function Small(props: {
  name: string
  value: number
  most: number
  unit: string
  step: number
  onChange: (value: number) => void
}) {
  const { main } = useUnits()
  if (props.most === 0) return null
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, width: 172 }}>
      <Typography variant="caption" sx={{ color: 'text.secondary' }}>
        {props.name}
      </Typography>
      <Slider
        size="small"
        aria-label={props.name}
        min={-props.most}
        max={props.most}
        step={props.step}
        value={props.value}
        track={false}
        marks={[{ value: 0 }]}
        onChange={(_, value) => props.onChange(value as number)}
        sx={{ mb: 0 }}
      />
      <Typography
        variant="caption"
        sx={(theme) => ({ fontFamily: theme.tirante.mono, width: 52, textAlign: 'right', whiteSpace: 'nowrap' })}
      >
        {props.unit === '°' ? `${Math.round(props.value * 100) / 100}°` : main(props.value)}
      </Typography>
    </Box>
  )
}
