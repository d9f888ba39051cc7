import { Box } from '@mui/material'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useMemo, useState } from 'react'
import { Outlet, useParams } from 'react-router'
import { answer, api, type DraftOut } from '../api'
import { UnitsContext, styleOf } from '../quantity'
import { Busy, Problem } from '../ui'
import { Frame } from './frame/Frame'
import { TravelProvider, drawnFirst } from './travel'
import { Session, SessionContext, useSessionPart } from './session'
import type { Unit } from '../api'

/** The draft of a job, loaded, then the stations in the frame. */
export function Draft() {
  const { jobId = '' } = useParams()
  const { data, error, refetch } = useQuery({
    queryKey: ['job', jobId],
    queryFn: () => answer(api.GET('/api/jobs/{job_id}', { params: { path: { job_id: jobId } } })),
    staleTime: Infinity,
    gcTime: 0,
  })
  if (error)
    return (
      <Box sx={{ p: 3 }}>
        <Problem error={error} retry={() => void refetch()} />
      </Box>
    )
  if (!data) return <Busy what="Opening the job" />
  return <OpenJob key={jobId} draft={data} />
}

function OpenJob({ draft }: { draft: DraftOut }) {
  const queries = useQueryClient()
  const [session] = useState(() => new Session(draft, () => drawnFirst(queries)))
  useEffect(() => {
    session.open()
    return () => session.close()
  }, [session])
  return (
    <SessionContext value={session}>
      <InUnits>
        <TravelProvider>
          <Frame>
            <Outlet />
          </Frame>
        </TravelProvider>
      </InUnits>
    </SessionContext>
  )
}

function InUnits({ children }: { children: React.ReactNode }) {
  const settings = useSessionPart((state) => state.design.settings)
  const [unit, setUnit] = useState<Unit>(settings.units)
  const value = useMemo(
    () => ({ unit, style: styleOf(settings), toggle: () => setUnit((now) => (now === 'mm' ? 'in' : 'mm')) }),
    [unit, settings],
  )
  return <UnitsContext value={value}>{children}</UnitsContext>
}
