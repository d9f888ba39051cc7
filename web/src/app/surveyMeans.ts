import { useQuery } from '@tanstack/react-query'
import { answer, api } from '../api'
import { useSessionPart } from './session'

/** How surely measures and lengths are known by a job's survey; asked again with every entry, and with every saved state of the design. */
export function useMeans() {
  const jobId = useSessionPart((state) => state.jobId)
  const saved = useSessionPart((state) => state.version)
  return useQuery({
    queryKey: ['survey', jobId, 'means', saved],
    queryFn: () => answer(api.GET('/api/jobs/{job_id}/survey/means', { params: { path: { job_id: jobId } } })),
    placeholderData: (before) => before,
  })
}

/** How a job's survey stands, for its station; undefined while it is not known. */
export function useSurveyMark() {
  const jobId = useSessionPart((state) => state.jobId)
  const saved = useSessionPart((state) => state.version)
  const found = useQuery({
    queryKey: ['survey', jobId, 'mark', saved],
    queryFn: () => answer(api.GET('/api/jobs/{job_id}/survey/mark', { params: { path: { job_id: jobId } } })),
    placeholderData: (before) => before,
  })
  return found.data?.mark
}
