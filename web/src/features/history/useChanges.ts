import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { answer, api } from '../../api'
import { useSessionPart } from '../../app/session'

/** What changed since the job was last issued, asked again whenever it is saved. */
export function useChanges() {
  const jobId = useSessionPart((state) => state.jobId)
  const version = useSessionPart((state) => state.version)
  const basedOn = useSessionPart((state) => state.basedOn)
  return useQuery({
    queryKey: ['changes', jobId, version, basedOn],
    queryFn: ({ signal }) =>
      answer(api.GET('/api/jobs/{job_id}/changes', { params: { path: { job_id: jobId } }, signal })),
    staleTime: Infinity,
    placeholderData: keepPreviousData,
  })
}
