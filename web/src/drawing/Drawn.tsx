import { Box } from '@mui/material'
import type { ComponentProps } from 'react'
import type { Drawing } from '../api'
import { Busy, Empty, Problem } from '../ui'
import { DrawingView } from './DrawingView'
import { Told } from '../quantity'

interface Props {
  query: {
    data?: { drawing: Drawing | null; faults: { field: string; message: string }[] }
    error: unknown
    isPending: boolean
    refetch: () => unknown
  }
  busy: string
  /** What stands over the faults when there is nothing to draw. */
  empty: string
  selected?: string[]
  onSelect?: (ref: string) => void
  drag?: ComponentProps<typeof DrawingView>['drag']
}

/** A drawing that the core makes: on its way, there, not to be had for what is named, or failed. */
export function Drawn({ query, busy, empty, selected, onSelect, drag }: Props) {
  const { data } = query
  return (
    <>
      {Boolean(query.error) && <Problem error={query.error} retry={() => void query.refetch()} />}
      {query.isPending && <Busy what={busy} />}
      {data?.drawing && <DrawingView drawing={data.drawing} selected={selected} onSelect={onSelect} drag={drag} />}
      {data && !data.drawing && (
        <Empty title={empty}>
          {data.faults.map((fault, i) => (
            <Box key={i} role="alert">
              <Told>{fault.message}</Told>
            </Box>
          ))}
        </Empty>
      )}
    </>
  )
}
