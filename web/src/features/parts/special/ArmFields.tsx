import { Box, Typography } from '@mui/material'
import { usePart } from '../../../app/session'
import { useUnits } from '../../../quantity'
import { Choice } from '../../../ui'
import type { OwnField } from '.'

const PARTS = ['joint', 'insert', 'nut'] as const

/** The rod ends at an arm's pivots: joint, insert and nut, alike at both. */
export function PivotEnd({ part, chosen }: OwnField) {
  const { problems } = usePart(part.id)
  if (part.kind !== 'arm') return null
  return (
    <>
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary', mt: 0.5 }}>
        The same at both pivots. Each is turned by half turns with its bolt out: that moves camber and caster, as the
        turn sheet shows.
      </Typography>
      {PARTS.map((name) => (
        <Choice
          key={name}
          label={name[0]!.toUpperCase() + name.slice(1)}
          value={part.pivot_end[name]}
          options={chosen.options(`pivot_end.${name}`, `${name}s`, part.pivot_end[name])}
          onChange={(key) => chosen.choose(`pivot_end.${name}`, key)}
          empty={name === 'joint' ? 'Press Size it first.' : 'Choose the joint first.'}
          problem={problems.get(`pivot_end.${name}`)}
        />
      ))}
    </>
  )
}

/** What each tube of an arm is sawn to. */
export function SawLengths({ part }: OwnField) {
  const { result } = usePart(part.id)
  const { main } = useUnits()
  const saw = Object.entries((result?.own?.kind === 'arm' && result.own.saw_mm) || {})
  return saw.map(([name, mm]) => (
    <Typography key={name} variant="body2" sx={{ display: 'flex', justifyContent: 'space-between' }}>
      <span>{`saw ${name}`}</span>
      <Box component="span" sx={(theme) => ({ fontFamily: theme.tirante.mono })}>
        {main(mm)}
      </Box>
    </Typography>
  ))
}

const kilo = (newtons: number) => `${(newtons / 1000).toFixed(2)} kN`
const signed = (value: number) => `${value < 0 ? '−' : '+'}${Math.abs(value).toFixed(3)}`

/** What the outer joint sees, along its stud and across it; what the arm gives per g. */
export function OuterTold({ part }: OwnField) {
  const { result } = usePart(part.id)
  const { signed: length } = useUnits()
  const own = result?.own?.kind === 'arm' ? result.own : null
  const outer = own?.outer
  if (!outer) return null
  return (
    <>
      <Typography variant="body2">
        {outer.name}: {kilo(outer.force_n)} at most, in “{outer.case}”.
      </Typography>
      {outer.stud_points === null ? (
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary' }}>
          Give its stud’s axis at Layout, bushes and ball joints, to know what pulls it out of its socket.
        </Typography>
      ) : (
        <Typography variant="body2" data-testid="stud">
          Its stud points {outer.stud_points} from the ball. Pulled out of its socket by {kilo(outer.out_n)}
          {outer.out_case && ` in “${outer.out_case}”`}, pressed in by {kilo(outer.into_n)}.
        </Typography>
      )}
      {own.per_g && (
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary' }} data-testid="per-g">
          Under 1 g of cornering the outer wheel goes {signed(own.per_g.camber_deg)}° of camber and{' '}
          {signed(own.per_g.toe_deg)}° of toe-in by this arm’s tubes alone: its joint moves{' '}
          {length(Math.max(...own.per_g.moved_mm.map(Math.abs)), false).replace('+', '')}.
        </Typography>
      )}
    </>
  )
}
