import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { answer, api, dependsOn, type Design, type Unit } from '../api'

interface Wanted {
  design: Design
  partId: string
  view: string | undefined
  unit: Unit
  end?: number
  turns?: number
}

/** A drawing of the core, drawn anew when what it shows changes; the one before stays until then. */
export function useDrawing({ design, partId, view, unit, end = 1, turns = 0 }: Wanted) {
  return useQuery({
    queryKey: ['draw', partId, view, unit, end, turns, dependsOn(design, [partId])],
    queryFn: ({ signal }) =>
      answer(api.POST('/api/draw', { body: { design, part_id: partId, view: view!, end, turns, unit }, signal })),
    enabled: view !== undefined,
    placeholderData: keepPreviousData,
    gcTime: 30_000,
    retry: 2,
  })
}
