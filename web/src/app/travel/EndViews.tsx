import { Box, Link, Typography } from '@mui/material'
import { memo, useMemo, useState } from 'react'
import { Link as RouterLink } from 'react-router'
import type { Design, SuspensionEnd } from '../../api'
import { Drawn } from '../../drawing'
import { useUnits } from '../../quantity'
import { useDesign, useKinds, useSessionPart } from '../session'
import { useDraggedPoint } from './useDraggedPoint'
import { USUAL, useEndDrawing, useEndPlots, type Place, type Plots } from './useEndDrawing'
import type { PointMoves } from './useMovedPoint'

interface Props {
  endId: string
  at: Place
  busy: string
  empty: string
  other?: Design | null
  plots?: Plots
  /** Where its points may be dragged: what moves them. */
  moves?: PointMoves
}

const NOWHERE: never[] = []

/** The three views of an end with the plots beside them, each drawn as soon as it is there; what is picked in them is named. */
export const EndViews = memo(function EndViews({ endId, at, busy, empty, other = null, plots = USUAL, moves }: Props) {
  const design = useDesign()
  const { unit } = useUnits()
  const [picked, pick] = useState<string | null>(null)
  const views = useEndDrawing(design, endId, at, unit, moves !== undefined)
  const plotted = useEndPlots(design, endId, at, unit, other, plots)
  const drawn = views.data?.drawing
  const end = design.ends.find((one) => one.id === endId)
  const selected = useMemo(() => (picked ? [picked] : NOWHERE), [picked])
  return (
    <Box sx={{ height: '100%', display: 'grid', gridTemplateColumns: drawn ? '145fr 72fr' : '1fr', minHeight: 0 }}>
      <Box sx={{ minHeight: 0, minWidth: 0, display: 'flex', flexDirection: 'column' }}>
        <Box sx={{ flex: 1, minHeight: 0 }}>
          {moves && end ? (
            <Movable
              query={views}
              busy={busy}
              empty={empty}
              end={end}
              moves={moves}
              selected={selected}
              onPick={pick}
            />
          ) : (
            <Drawn query={views} busy={busy} empty={empty} selected={selected} onSelect={pick} />
          )}
        </Box>
        {picked && end && <Picked of={picked} end={end} />}
      </Box>
      {drawn && (
        <Box sx={{ minHeight: 0, minWidth: 0 }}>
          <Drawn query={plotted} busy="Measuring along the travel" empty="No measures" />
        </Box>
      )}
    </Box>
  )
})

function Movable(props: {
  query: ReturnType<typeof useEndDrawing>
  busy: string
  empty: string
  end: SuspensionEnd
  moves: PointMoves
  selected: string[]
  onPick: (ref: string) => void
}) {
  const { query, end, moves, onPick, ...rest } = props
  const drag = useDraggedPoint(end, query.data?.views ?? NOWHERE, moves.put)
  return <Drawn query={query} {...rest} onSelect={onPick} drag={drag} />
}

/** What is picked in the views, in words, and the part that it is. */
function Picked({ of, end }: { of: string; end: SuspensionEnd }) {
  const { main } = useUnits()
  const jobId = useSessionPart((state) => state.jobId)
  const parts = useSessionPart((state) => state.evaluation?.parts)
  const saved = useSessionPart((state) => state.design.parts)
  const kinds = useKinds()
  const [sort = '', name = ''] = [of.slice(0, of.indexOf(':')), of.slice(of.indexOf(':') + 1)]
  const words = name.replaceAll('_', ' ')
  const at = sort === 'point' ? end.end.points[name] : undefined
  const part = saved.find((one) => standsFor(one, end.id, name))
  const shown = parts?.find((one) => one.id === part?.id)
  const station = kinds?.find((kind) => kind.key === part?.kind)?.station
  return (
    <Typography variant="body2" role="status" sx={{ color: 'text.secondary', px: 1, pb: 0.5 }}>
      <Box component="span" sx={{ color: 'warning.main', fontWeight: 700 }}>
        {words}
      </Box>
      {at && `: ${at.map((v, i) => `${'xyz'[i]} ${v < 0 ? '−' : ''}${main(Math.abs(v))}`).join(', ')}`}
      {part && station && (
        <>
          {' · '}
          <Link component={RouterLink} to={`/jobs/${jobId}/${station}/${part.id}`}>
            {part.name}
          </Link>
          {shown?.stock && `, ${shown.stock}`}
        </>
      )}
      {!part && (sort === 'link' || sort === 'body') && ' · no part of this job'}
    </Typography>
  )
}

/** Whether a part is what is drawn of an end under this name; one that stands twice has its side behind it. */
function standsFor(part: Design['parts'][number], endId: string, name: string): boolean {
  const own = name.replace(/(_|, )(left|right)$/, '')
  if ('between' in part && part.between.kind === 'end')
    return part.between.end_id === endId && [name, own].includes(part.between.link)
  return 'end_id' in part && part.end_id === endId && 'body' in part && [name, own].includes(String(part.body))
}
