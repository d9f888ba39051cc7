import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { answer, api, type Design, type Unit } from '../api'

/** The end at a position, drawn by the core; the drawing before stays until the next is there. */
export function useEndDrawing(
  design: Design,
  endId: string | undefined,
  at: { travel: number; roll: number; steer: number },
  unit: Unit,
) {
  const end = design.ends.find((one) => one.id === endId)
  return useQuery({
    queryKey: ['end-drawing', end, at.travel, at.roll, at.steer, unit, design.settings],
    queryFn: ({ signal }) =>
      answer(
        api.POST('/api/study/drawing', {
          body: {
            design: { ...design, links: [] },
            end_id: endId!,
            travel_mm: at.travel,
            roll_deg: at.roll,
            steer_mm: at.steer,
            unit,
          },
          signal,
        }),
      ),
    enabled: end !== undefined,
    placeholderData: keepPreviousData,
    gcTime: 20_000,
  })
}
