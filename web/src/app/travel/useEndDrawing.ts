import { keepPreviousData, queryOptions, useQuery, useQueryClient } from '@tanstack/react-query'
import { answer, api, type Design, type Unit } from '../../api'
import { drawnFirst, studied, studyKey, useMade } from './context'
import { useEarly } from './useEarly'

/** What the plots show: measures by key (none: the usual four), and what stands up the page. */
export interface Plots {
  measures: string[]
  along: 'travel' | 'roll' | 'steer'
}
export const USUAL: Plots = { measures: [], along: 'travel' }

export type Place = { travel: number; roll: number; steer: number }

/** The end at a position, drawn by the core; the drawing before stays until the next is there. */
export function useEndDrawing(design: Design, endId: string | undefined, at: Place, unit: Unit, handles = false) {
  const made = useMade(endId)
  const options = (now: Design) => {
    const end = now.ends.find((one) => one.id === endId)
    return queryOptions({
      queryKey: ['end-drawing', ...studyKey(now, end, made), at.travel, at.roll, at.steer, unit, handles],
      queryFn: ({ signal }) =>
        answer(
          api.POST('/api/study/drawing', {
            body: {
              design: studied(now),
              end_id: endId!,
              travel_mm: at.travel,
              roll_deg: at.roll,
              steer: at.steer,
              unit,
              handles,
              ...made,
            },
            signal,
          }),
        ),
      gcTime: 20_000,
    })
  }
  const queries = useQueryClient()
  useEarly((now) => void queries.prefetchQuery(options(now)), endId !== undefined)
  return useQuery({
    ...options(design),
    enabled: design.ends.some((one) => one.id === endId),
    placeholderData: keepPreviousData,
  })
}

/** The end's measures along its travel, roll or steer; after the views, which an edit waits for. */
export function useEndPlots(
  design: Design,
  endId: string,
  at: Place,
  unit: Unit,
  other: Design | null = null,
  plots: Plots = USUAL,
) {
  const end = design.ends.find((one) => one.id === endId)
  const made = useMade(endId)
  const queries = useQueryClient()
  return useQuery({
    queryKey: [
      'end-plots',
      ...studyKey(design, end, made),
      at.travel,
      at.roll,
      at.steer,
      unit,
      other?.ends,
      other?.car,
      plots,
    ],
    queryFn: async ({ signal }) => {
      await drawnFirst(queries)
      return answer(
        api.POST('/api/study/plots', {
          body: {
            design: studied(design),
            end_id: endId,
            travel_mm: at.travel,
            roll_deg: at.roll,
            steer: at.steer,
            unit,
            other: other && studied(other),
            plots: plots.measures,
            along: plots.along,
            ...made,
          },
          signal,
        }),
      )
    },
    enabled: end !== undefined,
    placeholderData: keepPreviousData,
    gcTime: 20_000,
  })
}
