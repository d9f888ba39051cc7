import { Box } from '@mui/material'
import { memo } from 'react'
import type { Design } from '../../api'
import { Drawn } from '../../drawing'
import { useUnits } from '../../quantity'
import { useDesign } from '../session'
import { USUAL, useEndDrawing, useEndPlots, type Place, type Plots } from './useEndDrawing'

interface Props {
  endId: string
  at: Place
  busy: string
  empty: string
  other?: Design | null
  plots?: Plots
}

/** The three views of an end with the plots beside them, each drawn as soon as it is there. */
export const EndViews = memo(function EndViews({ endId, at, busy, empty, other = null, plots = USUAL }: Props) {
  const design = useDesign()
  const { unit } = useUnits()
  const views = useEndDrawing(design, endId, at, unit)
  const plotted = useEndPlots(design, endId, at, unit, other, plots)
  const drawn = views.data?.drawing
  return (
    <Box sx={{ height: '100%', display: 'grid', gridTemplateColumns: drawn ? '145fr 72fr' : '1fr', minHeight: 0 }}>
      <Box sx={{ minHeight: 0, minWidth: 0 }}>
        <Drawn query={views} busy={busy} empty={empty} />
      </Box>
      {drawn && (
        <Box sx={{ minHeight: 0, minWidth: 0 }}>
          <Drawn query={plotted} busy="Measuring along the travel" empty="No measures" />
        </Box>
      )}
    </Box>
  )
})
