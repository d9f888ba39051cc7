import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import {
  ApiProblem,
  answer,
  api,
  newId,
  type PartTravelsOut,
  type StepOut,
  type TickTold,
  type TravelRow,
} from '../../api'
import { useSessionPart } from '../../app/session'

export const rowKey = (row: { part_id: string; hand: string }) => `${row.part_id}:${row.hand}`

/** How far every part of the job is made: by what is issued, else by the draft. */
export function useTraveller() {
  const jobId = useSessionPart((state) => state.jobId)
  const saved = useSessionPart((state) => state.version)
  return useQuery({
    queryKey: ['traveller', jobId, saved],
    queryFn: () => answer(api.GET('/api/jobs/{job_id}/traveller', { params: { path: { job_id: jobId } } })),
    placeholderData: (before) => before,
  })
}

/** The steps of one hand of a part, and how one is ticked or taken back: marks are only added. */
export function usePartTravels(row: TravelRow, number: number | null) {
  const jobId = useSessionPart((state) => state.jobId)
  const saved = useSessionPart((state) => state.version)
  const queries = useQueryClient()
  const path = { job_id: jobId, part_id: row.part_id }
  const found = useQuery({
    queryKey: ['traveller', jobId, 'part', rowKey(row), saved],
    queryFn: () =>
      answer(api.GET('/api/jobs/{job_id}/traveller/{part_id}', { params: { path, query: { hand: row.hand } } })),
  })
  const mark = useMutation({
    mutationFn: async ({ step, done, told }: { step: StepOut; done: boolean; told: TickTold }) => {
      const kept = await answer(
        api.POST('/api/jobs/{job_id}/ticks', {
          params: { path: { job_id: jobId } },
          body: {
            ticks: [
              {
                ...{ id: newId(), number, part_id: row.part_id, hand: row.hand as 'left', step: step.key },
                ...{ metal: row.metal, done, at_ms: Date.now(), told },
              },
            ],
          },
        }),
      )
      const why = kept.refused[0]?.why
      if (why) throw new ApiProblem(409, { code: 'shut', message: why, issues: [], request_id: null, current: null })
    },
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: ['made', jobId] })
      return queries.invalidateQueries({ queryKey: ['traveller', jobId] })
    },
  })
  const taken = (after: PartTravelsOut) => {
    queries.setQueryData(['traveller', jobId, 'part', rowKey(row), saved], after)
    void queries.invalidateQueries({ queryKey: ['traveller', jobId] })
    void queries.invalidateQueries({ queryKey: ['made', jobId] })
  }
  const sign = useMutation({
    mutationFn: ({ step, note, password }: { step: string; note: string; password: string }) =>
      answer(
        api.POST('/api/jobs/{job_id}/traveller/{part_id}/sign', {
          params: { path },
          body: {
            ...{ id: newId(), number: number ?? 0, hand: row.hand as 'left', step, metal: row.metal },
            ...{ note, password },
          },
        }),
      ),
    onSuccess: taken,
  })
  const withdraw = useMutation({
    mutationFn: ({ id, why, password }: { id: string; why: string; password: string }) =>
      answer(
        api.POST('/api/jobs/{job_id}/signatures/{signature_id}/withdraw', {
          params: { path: { job_id: jobId, signature_id: id } },
          body: { why, password },
        }),
      ),
    onSuccess: taken,
  })
  return { found, mark, sign, withdraw }
}
