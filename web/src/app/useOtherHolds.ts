import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query'
import { answer, api } from '../api'
import { useDesign } from './session'
import { drawnFirst } from './travel'

const REST_MS = 2000

/** Arms and load cases that want attention; worked out when an edit has come to rest. */
export function useOtherHolds() {
  const design = useDesign()
  const queries = useQueryClient()
  const { arms, ends, car, loads, settings, catalogue } = design
  const found = useQuery({
    queryKey: ['holds', arms, ends, car, loads, settings, catalogue],
    queryFn: async ({ signal }) => {
      await new Promise((done) => setTimeout(done, REST_MS))
      await drawnFirst(queries)
      signal.throwIfAborted()
      return answer(api.POST('/api/holds', { body: { design }, signal }))
    },
    enabled: ends.length > 0,
    placeholderData: keepPreviousData,
  })
  return ends.length > 0 ? (found.data?.holds ?? []) : []
}
