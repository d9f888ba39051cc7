import { Box, Typography } from '@mui/material'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api, type SuspensionEnd } from '../../api'
import { useDesign } from '../../app/session'
import { studied, studyKey } from '../../app/travel'
import { Drawn } from '../../drawing'
import { Told, useUnits } from '../../quantity'
import { Followed, StateMark } from '../../ui'

/** How far an end's kind is built: what still moves, followed, and the three views with its points by name. */
export function KindSheet({ end, onPoint }: { end: SuspensionEnd; onPoint: (name: string) => void }) {
  const design = useDesign()
  const { unit } = useUnits()
  const [{ motion, phase }, show] = useState({ motion: 0, phase: 0 })
  const query = useQuery({
    queryKey: ['as-built', ...studyKey(design, end), motion, phase, unit],
    queryFn: ({ signal }) =>
      answer(
        api.POST('/api/study/as-built', {
          body: { design: studied(design), end_id: end.id, motion, phase, unit },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    gcTime: 20_000,
  })
  const found = query.data
  const picked = (ref: string) => {
    const [kind, name = ''] = ref.split(':')
    if (kind === 'point') onPoint(name.replaceAll(' ', '_'))
  }
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column', minHeight: 0 }}>
      {found && found.faults.length === 0 && (
        <Box sx={{ px: 1, display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) 300px', columnGap: 3 }}>
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'flex-start', maxHeight: 96, overflowY: 'auto' }}>
            <StateMark state={found.whole ? 'good' : 'attention'} />
            <Typography role="status" variant="body2">
              <Told>{found.says}</Told>
            </Typography>
          </Box>
          {found.motions.length > 0 && (
            <Followed
              motions={found.motions}
              motion={motion}
              phase={phase}
              onMotion={(next) => show({ motion: next, phase: 0 })}
              onPhase={(next) => show((now) => ({ ...now, phase: next }))}
            />
          )}
        </Box>
      )}
      <Box sx={{ flex: 1, minHeight: 0 }}>
        <Drawn query={query} busy="Counting what holds it" empty="This cannot be put together yet" onSelect={picked} />
      </Box>
    </Box>
  )
}
