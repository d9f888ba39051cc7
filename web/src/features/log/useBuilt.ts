import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { answer, api, type BuiltEntry } from '../../api'
import { useSessionPart } from '../../app/session'
import { useUnits } from '../../quantity'

/** What was read of a car as it is built, and how entries are added to it: they are only added. */
export function useBuilt() {
  const jobId = useSessionPart((state) => state.jobId)
  // what is read is told beside the model as it was saved
  const saved = useSessionPart((state) => state.version)
  const { unit } = useUnits()
  const queries = useQueryClient()
  const params = { path: { job_id: jobId }, query: { unit } }
  const key = ['built', jobId, unit, saved]
  const found = useQuery({
    queryKey: key,
    queryFn: () => answer(api.GET('/api/jobs/{job_id}/built', { params })),
    placeholderData: (before) => before,
  })
  const add = useMutation({
    mutationFn: (entries: BuiltEntry[]) =>
      answer(
        api.POST('/api/jobs/{job_id}/built', {
          params,
          body: { entries: entries.map((entry) => ({ entry, made_at: new Date().toISOString() })) as never },
        }),
      ),
    onSuccess: (built) => queries.setQueryData(key, built),
  })
  return { found, add }
}
