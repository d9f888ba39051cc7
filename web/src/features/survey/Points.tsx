import { Box, Button } from '@mui/material'
import type { SurveyOut } from '../../api'
import { useDesign, useTheSession } from '../../app/session'
import { useUnits } from '../../quantity'

interface Props {
  survey: SurveyOut
  selected: string[]
  onSelect: (ref: string) => void
}

/** Every point as it was measured, how surely, and how far that is from where the layout has it. */
export function Points({ survey, selected, onSelect }: Props) {
  const { main, finely, signed } = useUnits()
  const session = useTheSession()
  const names = new Map(survey.places.map((place) => [place.key, place.name]))
  const design = useDesign()
  const ends = Object.entries(survey.layout)
  const waits = ends.some(([id, into]) => {
    const end = design.ends.find((one) => one.id === id)?.end
    return end && (differ(into.points, end.points) || differ(into.right_points, end.right_points))
  })
  const takeOver = () =>
    session.edit('survey into the layout', (now) => ({
      ...now,
      ends: now.ends.map((end) => ({
        ...end,
        end: {
          ...end.end,
          points: { ...end.end.points, ...survey.layout[end.id]?.points },
          surveyed: { ...end.end.surveyed, ...survey.layout[end.id]?.surveyed } as never,
          right_surveyed: { ...end.end.right_surveyed, ...survey.layout[end.id]?.right_surveyed } as never,
          right_points: { ...end.end.right_points, ...survey.layout[end.id]?.right_points },
        },
      })),
    }))
  return (
    <Box sx={{ px: 3, pb: 2 }}>
      <Box
        component="table"
        aria-label="Points as measured"
        sx={{
          width: '100%', borderCollapse: 'collapse', fontSize: 13.5,
          '& th': { textAlign: 'right', fontWeight: 600, fontSize: 12.5, color: 'text.secondary', pb: 0.5 },
          '& th:nth-of-type(-n+2)': { textAlign: 'left' },
          '& td': { py: 0.4, borderTop: 1, borderColor: 'divider', textAlign: 'right', whiteSpace: 'nowrap' },
          '& td:nth-of-type(-n+2)': { textAlign: 'left', whiteSpace: 'normal' },
        }} // prettier-ignore
      >
        <thead>
          <tr>
            {['', 'point', 'ahead', 'left', 'up', 'off the layout: ahead', 'left', 'up'].map((head, i) => (
              <th key={i}>{head}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {survey.points.map((point) => (
            <Box
              component="tr"
              key={point.key}
              onClick={() => onSelect(`point:${point.key}`)}
              sx={{
                cursor: 'pointer',
                bgcolor: selected.includes(`point:${point.key}`) ? 'action.selected' : undefined,
              }}
            >
              <td>{point.number}</td>
              <td>{names.get(point.key)}</td>
              {(point.at as number[]).map((value, i) => (
                <Box component="td" key={i} sx={(theme) => ({ fontFamily: theme.tirante.mono })}>
                  {point.sd[i] === null ? 'free' : main(value)}
                  <Box component="span" sx={{ color: 'text.secondary', display: 'block', fontSize: 11.5 }}>
                    {point.fixed ? 'datum' : point.sd[i] === null ? '' : `± ${finely(point.sd[i] ?? 0)}`}
                  </Box>
                </Box>
              ))}
              {(point.off as number[]).map((value, i) => (
                <Box component="td" key={i} sx={(theme) => ({ fontFamily: theme.tirante.mono })}>
                  {!endOf(point.key) || point.sd[i] === null ? '' : signed(value, false, 1)}
                </Box>
              ))}
            </Box>
          ))}
        </tbody>
      </Box>
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', mt: 1.25, fontSize: 13 }}>
        <Button variant="outlined" size="small" disabled={!waits} onClick={takeOver}>
          Put the measured points into the layout
        </Button>
        <Box component="span" sx={{ color: 'text.secondary' }}>
          {waits
            ? 'Of a pair the left one, or the right one where only that is known. It can be undone.'
            : ends.length > 0
              ? 'The layout has them so.'
              : ''}
        </Box>
      </Box>
    </Box>
  )
}

const endOf = (key: string) => (key.startsWith('end:') ? key.split(':')[1] : undefined)

/** Whether a measured point is not yet where the layout has it. */
const differ = (measured: Record<string, number[]>, has: Record<string, number[]>) =>
  Object.entries(measured).some(([name, at]) => at.some((value, i) => value !== has[name]?.[i]))
