import { Box, Typography } from '@mui/material'
import { keepPreviousData, queryOptions, useQuery, useQueryClient } from '@tanstack/react-query'
import { Suspense, lazy, useState, type ReactNode } from 'react'
import { answer, api, type Design, type SuspensionEnd } from '../api'
import { useDesign } from '../app/session'
import { studied, studyKey, useMade, useEarly, usePointMoves, useTravel, type PointMoves } from '../app/travel'
import { Told, useUnits } from '../quantity'
import { Busy, Empty, Problem, Segmented } from '../ui'
import { canDraw } from './canDraw'
import type { Axis, Look } from './look'

const SceneView = lazy(() => import('./SceneView'))

interface Props {
  end: SuspensionEnd
  chosen: string | null
  onChoose: (point: string | null) => void
  /** What a drag does, where the page says it elsewhere too. */
  moves?: PointMoves
  /** What stands in where there is no 3D. */
  children: ReactNode
}

/** The end in 3D at the strip's position; a pivot is dragged along an axis, and the study follows. */
export function EndScene({ end, chosen, onChoose, moves: given, children }: Props) {
  const design = useDesign()
  const own = usePointMoves(end)
  const { bends, shapes } = useMade(end.id)
  const moves = given ?? own
  const { travel, roll, steer } = useTravel()
  const { main } = useUnits()
  const [drawable] = useState(canDraw)
  const [axis, setAxis] = useState<Axis>('z')
  const [look, setLook] = useState<Look>('free')
  const options = (now: Design) =>
    queryOptions({
      queryKey: [
        'scene',
        ...studyKey(
          now,
          now.ends.find((one) => one.id === end.id),
          { bends, shapes },
        ),
        roll,
        steer,
      ],
      queryFn: ({ signal }) =>
        answer(
          api.POST('/api/study/scene', {
            body: { design: studied(now), end_id: end.id, roll_deg: roll, steer, limits: null, bends, shapes },
            signal,
          }),
        ),
      gcTime: 20_000,
    })
  const queries = useQueryClient()
  useEarly((now) => void queries.prefetchQuery(options(now)), drawable)
  const query = useQuery({ ...options(design), enabled: drawable, placeholderData: keepPreviousData })
  if (!drawable)
    return (
      <>
        <Typography role="status" variant="body2" sx={{ color: 'text.secondary', px: 1 }}>
          This browser has no 3D here (WebGL is off). The three views stand in; points are moved by their fields.
        </Typography>
        {children}
      </>
    )
  const place = chosen ? end.end.points[chosen] : undefined
  const put = (point: string, index: number, mm: number, drag?: number) =>
    moves.put(
      'points',
      point,
      index,
      Math.round(mm * 10) / 10,
      `drag ${point}${index}${drag ? ` in drag ${drag}` : ''}`,
    )
  const scene = query.data?.scene
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column', minHeight: 0 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, pb: 0.75, flexWrap: 'wrap' }}>
        <Segmented
          label="From where"
          value={look}
          onChange={setLook}
          options={(['front', 'side', 'top', 'free'] as const).map((value) => ({ value, label: value }))}
        />
        <Segmented
          label="Drag along"
          value={axis}
          onChange={setAxis}
          options={(['x', 'y', 'z'] as const).map((value) => ({ value, label: `drag ${value}` }))}
        />
        <Typography variant="body2" sx={{ color: 'text.secondary' }} role="status">
          {moves.refused
            ? moves.refused.message
            : chosen && place
              ? `${moves.keeps === 'lengths' ? 'the lengths are kept; ' : ''}${chosen.replaceAll('_', ' ')}: ${place.map((v, i) => `${'xyz'[i]} ${v < 0 ? '−' : ''}${main(Math.abs(v))}`).join(', ')}`
              : 'Drag a joint, or choose it and press the arrow keys. F, S, T, R: front, side, top, free.'}
        </Typography>
      </Box>
      <Box sx={{ flex: 1, minHeight: 0, position: 'relative' }}>
        {Boolean(query.error) && <Problem error={query.error} retry={() => void query.refetch()} />}
        {query.isPending && <Busy what="Building the scene" />}
        {query.data && !scene && (
          <Empty title="This cannot be put together">
            {query.data.faults.map((fault, i) => (
              <Box key={i} role="alert">
                <Told>{fault.message}</Told>
              </Box>
            ))}
          </Empty>
        )}
        {scene && (
          <Suspense fallback={<Busy what="Loading the 3D view" />}>
            <SceneView
              scene={scene}
              travel={travel}
              points={end.end.points}
              chosen={chosen}
              axis={axis}
              look={look}
              onLook={setLook}
              onAxis={setAxis}
              onChoose={onChoose}
              onPut={put}
            />
          </Suspense>
        )}
      </Box>
    </Box>
  )
}
