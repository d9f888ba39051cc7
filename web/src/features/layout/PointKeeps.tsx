import { Checkbox, FormControlLabel, Typography } from '@mui/material'
import type { Moved, PointMoves } from '../../app/travel'
import { useUnits } from '../../quantity'
import { Segmented } from '../../ui'

const WHY = {
  made: 'Its parts are made: they stay as long as they are, and the wheel goes where they take it.',
  issued: 'The job is issued to build from: its parts stay as long as they are, and the wheel goes where they take it.',
}

/** What stays when a pick-up is moved, why, and what came of the last one. */
export function PointKeeps({
  moves,
  made,
  onMade,
}: {
  moves: PointMoves
  made: boolean
  onMade: (made: boolean) => void
}) {
  const { keeps, why, moved } = moves
  const says = useMoved()
  return (
    <>
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
        A pick-up that is moved keeps
      </Typography>
      <Segmented
        label="A pick-up that is moved keeps"
        fullWidth
        value={keeps}
        onChange={moves.setKeeps}
        options={[
          { value: 'wheel', label: 'the wheel' },
          { value: 'lengths', label: 'the lengths' },
        ]}
      />
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary', mt: 0.5, mb: 0 }}>
        {keeps === 'wheel'
          ? 'The wheel stays where it is; what is made of these points is made anew.'
          : (why && WHY[why]) || 'The parts stay as long as they are, and the wheel goes where they take it.'}
        {keeps === 'wheel' && why && ' Parts that are cut already no longer fit.'}
      </Typography>
      {moved && keeps === 'lengths' && (
        <Typography role="status" variant="body2" sx={{ mt: 0.5 }}>
          {says(moved)}
        </Typography>
      )}
      <FormControlLabel
        sx={{ mb: 0.5 }}
        control={<Checkbox size="small" checked={made} onChange={(_, on) => onMade(on)} />}
        label={<Typography variant="body2">the parts of this end are made</Typography>}
      />
    </>
  )
}

/** What a move did, in words. */
function useMoved() {
  const { main } = useUnits()
  const deg = (value: number) => `${value < 0 ? '−' : '+'}${Math.abs(value).toFixed(2)}°`
  return ({ wheel_mm, camber_deg, toe_deg, bases_mm, left_behind }: Moved) => {
    const ways = [
      ['ahead', 'back'],
      ['to the left', 'to the right'],
      ['up', 'down'],
    ] as const
    const went = wheel_mm.flatMap((mm, i) =>
      Math.abs(mm) < 0.05 ? [] : [`${main(Math.abs(mm))} ${ways[i]![mm > 0 ? 0 : 1]}`],
    )
    const turned = [
      Math.abs(camber_deg) < 0.005 ? '' : `camber ${deg(camber_deg)}`,
      Math.abs(toe_deg) < 0.005 ? '' : `toe ${deg(toe_deg)}`,
    ].filter(Boolean)
    const left = left_behind.length
      ? ` Things to clear on what moves stand where they stood, and are put anew: ${left_behind.join(', ')}.`
      : ''
    const bases = Object.entries(bases_mm).map(
      ([part, mm]) =>
        ` The pivots of the ${part} stand ${main(Math.abs(mm))} ${mm > 0 ? 'further apart' : 'closer together'} than it was made: it is taken midway between them, and goes on only if its joints give that much.`,
    )
    const wheel =
      went.length || turned.length
        ? [went.join(', ') && `The wheel went ${went.join(', ')}`, turned.join(', ')].filter(Boolean).join('; ')
        : 'The wheel stays where it is'
    return `${wheel[0]?.toUpperCase()}${wheel.slice(1)}.${bases.join('')}${left}`
  }
}
