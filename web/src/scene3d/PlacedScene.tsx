import { Box } from '@mui/material'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { Suspense, lazy, useState } from 'react'
import { answer, api, type SuspensionEnd } from '../api'
import { useDesign } from '../app/session'
import { useRested, useTravel } from '../app/travel'
import { Busy, Empty, Problem, Segmented } from '../ui'
import type { Look } from './look'
import { canDraw } from './canDraw'

const SceneView = lazy(() => import('./SceneView'))
const NOTHING = {}

/** An end in 3D at the strip's position, with the members of the car and the brackets on them. */
export function PlacedScene({ end }: { end: SuspensionEnd }) {
  const design = useRested(useDesign())
  const { travel, roll, steer } = useTravel()
  const [look, setLook] = useState<Look>('free')
  const [drawable] = useState(canDraw)
  const query = useQuery({
    queryKey: ['placed', design, end.id, roll, steer],
    queryFn: ({ signal }) =>
      answer(api.POST('/api/brackets/scene', { body: { design, end_id: end.id, roll_deg: roll, steer }, signal })),
    enabled: drawable,
    placeholderData: keepPreviousData,
    gcTime: 20_000,
  })
  if (!drawable)
    return (
      <Empty title="This browser has no 3D here">
        <p>WebGL is off. The three views and each bracket’s own drawing say the same.</p>
      </Empty>
    )
  const scene = query.data?.scene
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column', minHeight: 0 }}>
      <Box sx={{ pb: 0.75 }}>
        <Segmented
          label="From where"
          value={look}
          onChange={setLook}
          options={(['front', 'side', 'top', 'free'] as const).map((value) => ({ value, label: value }))}
        />
      </Box>
      <Box sx={{ flex: 1, minHeight: 0, position: 'relative' }}>
        {Boolean(query.error) && <Problem error={query.error} retry={() => void query.refetch()} />}
        {query.isPending && <Busy what="Building the scene" />}
        {query.data && !scene && (
          <Empty title="This end cannot be put together">
            <p>Layout says what stands in the way.</p>
          </Empty>
        )}
        {scene && (
          <Suspense fallback={<Busy what="Loading the 3D view" />}>
            <SceneView
              scene={scene}
              travel={travel}
              points={NOTHING}
              chosen={null}
              axis="z"
              look={look}
              onLook={setLook}
              onAxis={() => undefined}
              onChoose={() => undefined}
              onPut={() => undefined}
            />
          </Suspense>
        )}
      </Box>
    </Box>
  )
}
