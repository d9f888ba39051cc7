import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { answer, api, tiedTo, type Design, type Unit, type View } from '../api'

interface Wanted {
  design: Design
  linkId: string
  view: View
  unit: Unit
  end?: number
  turns?: number
}

/** A drawing of the core, drawn anew when what it shows changes; the one before stays until then. */
export function useDrawing({ design, linkId, view, unit, end = 1, turns = 0 }: Wanted) {
  const link = design.links.find((one) => one.id === linkId)
  return useQuery({
    queryKey: ['draw', view, unit, end, turns, link, design.settings, design.catalogue, tiedTo(design, [link])],
    queryFn: ({ signal }) =>
      answer(
        api.POST('/api/draw', {
          body: { design: { ...design, links: link ? [link] : [] }, link_id: linkId, view, end, turns, unit },
          signal,
        }),
      ),
    enabled: link !== undefined,
    placeholderData: keepPreviousData,
    gcTime: 30_000,
    retry: 2,
  })
}
