import { keepPreviousData, queryOptions, useQuery } from '@tanstack/react-query'
import { answer, api, dependsOn, type Design, type Unit } from '../api'

interface Wanted {
  design: Design
  partId: string
  view: string | undefined
  unit: Unit
  end?: number
  turns?: number
}

/** What is asked of the core for a drawing; its key is all that the drawing depends on. */
export const drawingOf = ({ design, partId, view, unit, end = 1, turns = 0 }: Wanted) =>
  queryOptions({
    queryKey: ['draw', partId, view, unit, end, turns, dependsOn(design, [partId])],
    queryFn: ({ signal }) =>
      answer(api.POST('/api/draw', { body: { design, part_id: partId, view: view!, end, turns, unit }, signal })),
    staleTime: 30_000,
    gcTime: 30_000,
    retry: 2,
  })

/** A drawing of the core, drawn anew when what it shows changes; the one before stays until then. */
export function useDrawing(wanted: Wanted) {
  return useQuery({ ...drawingOf(wanted), enabled: wanted.view !== undefined, placeholderData: keepPreviousData })
}
