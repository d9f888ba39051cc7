import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { answer, api } from '../../api'
import { useDesign } from '../../app/session'
import { studied, studyKey, useEnd } from '../../app/travel'
import { useUnits } from '../../quantity'

/** All cases of the load set carried through the end that the strip moves, one of them drawn. */
export function useLoads(chosen: string | null) {
  const design = useDesign()
  const end = useEnd()
  const { unit } = useUnits()
  return useQuery({
    queryKey: ['loads', ...studyKey(design, end), design.loads, design.ends, chosen, unit],
    queryFn: ({ signal }) =>
      answer(
        api.POST('/api/loads', { body: { design: studied(design), end_id: end!.id, case: chosen, unit }, signal }),
      ),
    enabled: end !== undefined && design.loads.cases.length > 0,
    placeholderData: keepPreviousData,
  })
}

export function useLoadSets() {
  return useQuery({ queryKey: ['load-sets'], queryFn: () => answer(api.GET('/api/load-sets')), staleTime: Infinity })
}

/** A force with its sign, as the drawings write it. */
export const force = (newtons: number) =>
  `${newtons > 0.5 ? '+' : newtons < -0.5 ? '−' : ''}${(Math.abs(newtons) / 1000).toFixed(2)} kN`
