import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { answer, api, type SurveyEntry } from '../../api'
import { useSessionPart } from '../../app/session'
import { useUnits } from '../../quantity'

/** A job's survey, and how entries are added to it: they are only added, what does not count is taken back by one of its own. */
export function useSurvey() {
  const jobId = useSessionPart((state) => state.jobId)
  // where the layout has its points: the survey is told beside them as they were saved
  const saved = useSessionPart((state) => state.version)
  const { unit } = useUnits()
  const queries = useQueryClient()
  const params = { path: { job_id: jobId }, query: { unit } }
  const key = ['survey', jobId, unit, saved]
  const found = useQuery({
    queryKey: key,
    queryFn: () => answer(api.GET('/api/jobs/{job_id}/survey', { params })),
    placeholderData: (before) => before,
  })
  const add = useMutation({
    mutationFn: (entries: SurveyEntry[]) =>
      answer(
        api.POST('/api/jobs/{job_id}/survey', {
          params,
          body: { entries: entries.map((entry) => ({ entry, made_at: new Date().toISOString() })) as never },
        }),
      ),
    onSuccess: (survey) => {
      queries.setQueryData(key, survey)
      void queries.invalidateQueries({ queryKey: ['survey', jobId, 'means'] }) // how surely lengths are known by it
    },
  })
  return { found, add }
}
