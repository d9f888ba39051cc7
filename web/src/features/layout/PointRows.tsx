import { Box, Button, Typography } from '@mui/material'
import { memo } from 'react'
import type { End, EndKind } from '../../api'
import type { PointMoves } from '../../app/travel'
import { useSessionPart } from '../../app/session'
import { LengthField, useUnits } from '../../quantity'
import { plain, problemAt, withoutValue } from '../../fields'

const ORIGIN = [0, 0, 0]

interface Props {
  endId: string
  end: End
  points: EndKind['points']
  problems: Map<string, string>
  chosen: string | null
  onChoose: (name: string) => void
  onChange: (label: string, change: (now: End) => End) => void
  moves: PointMoves
}

/** The points of an end, each by what it is; a pair may be unpaired on purpose. */
export function PointRows({ endId, end, points, problems, chosen, onChoose, onChange, moves }: Props) {
  const refused = (of: 'points' | 'right_points', name: string) =>
    moves.refused?.of === of && moves.refused.point === name ? moves.refused.message : undefined
  const extra = Object.keys(end.points).filter((name) => !points.some((point) => point.name === name))
  const rows = [...points, ...extra.map((name) => ({ name, what: plain(name), measure: '', pair: true }))]
  return (
    <>
      {rows.map((point) => (
        <Box
          key={point.name}
          data-point={point.name}
          onFocusCapture={() => onChoose(point.name)}
          sx={{ mb: 0.5, borderLeft: 3, borderColor: chosen === point.name ? 'warning.main' : 'transparent', pl: 0.75 }}
        >
          <Box sx={{ display: 'flex', alignItems: 'baseline' }}>
            <Typography
              variant="body2"
              title={point.measure}
              sx={{ flex: 1, color: problemAt(problems, `points/${point.name}`) ? 'error.main' : 'text.primary' }}
            >
              {point.what}
            </Typography>
            {point.pair && <Pairing name={point.name} end={end} onChange={onChange} />}
          </Box>
          <Row
            name={point.name}
            what={point.what}
            of="points"
            at={end.points[point.name] ?? ORIGIN}
            problem={refused('points', point.name) ?? problemAt(problems, `points/${point.name}`)}
            moves={moves}
          />
          <FromSurvey came={end.surveyed[point.name]} at={end.points[point.name]} />
          <Asked endId={endId} name={point.name} at={end.points[point.name]} onChange={onChange} />
          {end.right_points[point.name] && (
            <>
              <Typography variant="caption" sx={{ color: 'text.secondary' }}>
                on the right, y negative
              </Typography>
              <Row
                name={point.name}
                what={`${point.what}, right`}
                of="right_points"
                at={end.right_points[point.name] ?? ORIGIN}
                problem={refused('right_points', point.name) ?? problemAt(problems, `right_points/${point.name}`)}
                moves={moves}
              />
              <FromSurvey came={end.right_surveyed[point.name]} at={end.right_points[point.name]} />
            </>
          )}
        </Box>
      ))}
    </>
  )
}

/** Where a point came from, while it stands where a survey put it; and that it was moved since. */
function FromSurvey({ came, at }: { came: End['surveyed'][string] | undefined; at: number[] | undefined }) {
  const { finely } = useUnits()
  if (!came || !at) return null
  const stands = (came.at as number[]).every((value, i) => value === at[i])
  return (
    <Typography variant="caption" component="p" sx={{ m: 0, color: stands ? 'text.secondary' : 'warning.main' }}>
      {stands
        ? `Surveyed ${came.on}, ${came.side === 'mirror' ? 'its twin, ' : ''}± ${(came.sd as number[]).map((one) => finely(one)).join(', ')} by ${came.readings} readings.`
        : `Moved since it was surveyed on ${came.on}: that says nothing of it any more.`}
    </Typography>
  )
}

/** A point that stands far off is asked about; it may be meant. */
function Asked(props: { endId: string; name: string; at: number[] | undefined; onChange: Props['onChange'] }) {
  const { endId, name, at, onChange } = props
  const { told } = useUnits()
  const asked = useSessionPart((state) =>
    state.evaluation?.ends.find((one) => one.id === endId)?.far_off.find((one) => one.point === name),
  )
  if (!asked || !at) return null
  return (
    <Box role="alert" sx={{ display: 'flex', gap: 1, alignItems: 'baseline', mb: 0.5 }}>
      <Typography variant="caption" sx={{ flex: 1, color: 'warning.main' }}>
        {told(asked.says)}
      </Typography>
      <Button
        size="small"
        sx={{ py: 0, whiteSpace: 'nowrap' }}
        onClick={() => onChange(`meant ${name}`, (now) => ({ ...now, meant: { ...now.meant, [name]: at } }))}
      >
        it is meant
      </Button>
    </Box>
  )
}

function Pairing({ name, end, onChange }: { name: string; end: End; onChange: Props['onChange'] }) {
  const own = end.right_points[name]
  return (
    <Button
      size="small"
      sx={{ minWidth: 0, py: 0, fontSize: 12, fontWeight: 400 }}
      title={own ? 'the right side mirrors the left again' : 'let the right side stand elsewhere'}
      onClick={() =>
        onChange(`pairing ${name}`, (now) => {
          if (now.right_points[name]) return withoutValue(now, `right_points/${name}`)
          const [x = 0, y = 0, z = 0] = now.points[name] ?? []
          return { ...now, right_points: { ...now.right_points, [name]: [x, -y, z] } }
        })
      }
    >
      {own ? 'pair again' : 'unpair'}
    </Button>
  )
}

/** The three coordinates of a point; drawn again only when they, or what is said of them, change. */
const Row = memo(function Row(props: {
  name: string
  what: string
  of: 'points' | 'right_points'
  at: number[]
  problem?: string
  moves: Pick<PointMoves, 'put' | 'foresee'>
}) {
  const { name, of, at, problem, moves } = props
  return (
    <>
      <Box sx={{ position: 'relative', display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', columnGap: 1.5 }}>
        {['x', 'y', 'z'].map((axis, i) => (
          <LengthField
            key={axis}
            hideLabel
            signed
            label={`${props.what}, ${axis}`}
            value={{ mm: at[i] ?? 0, typed: null }}
            onChange={(value) => value && moves.put(of, name, i, value.mm, `point ${of} ${name}${axis}`)}
            onTyping={(mm) => moves.foresee(of, name, i, mm)}
          />
        ))}
      </Box>
      {problem && (
        <Typography role="alert" variant="caption" component="p" sx={{ color: 'error.main', m: 0 }}>
          {problem}
        </Typography>
      )}
    </>
  )
})
