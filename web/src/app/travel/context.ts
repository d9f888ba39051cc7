import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { createContext, useContext } from 'react'
import { answer, api } from '../../api'
import { useSession } from '../session'

/** Where the suspension stands: which end, and its travel, roll and steer. */
export interface Travel {
  endId: string | null
  travel: number
  roll: number
  steer: number
  playing: boolean
  move: (part: Partial<Pick<Travel, 'endId' | 'travel' | 'roll' | 'steer' | 'playing'>>) => void
}

export const TravelContext = createContext<Travel>({
  endId: null,
  travel: 0,
  roll: 0,
  steer: 0,
  playing: false,
  move: () => undefined,
})

export const useTravel = () => useContext(TravelContext)

/** The end that the strip moves. */
export function useEnd() {
  const { design } = useSession()
  const { endId } = useTravel()
  return design.ends.find((end) => end.id === endId) ?? design.ends[0]
}

/** The core's study of an end along its travel, at the strip's roll and steer. */
export function useStudy() {
  const { design } = useSession()
  const { roll, steer } = useTravel()
  const end = useEnd()
  return useQuery({
    queryKey: ['study', end, roll, steer],
    queryFn: ({ signal }) =>
      answer(
        api.POST('/api/study', {
          body: { design: { ...design, links: [] }, end_id: end!.id, roll_deg: roll, steer_mm: steer },
          signal,
        }),
      ),
    enabled: end !== undefined,
    placeholderData: keepPreviousData,
  })
}

/** The kinds of suspension. */
export function useTemplates() {
  return useQuery({ queryKey: ['templates'], queryFn: () => answer(api.GET('/api/templates')), staleTime: Infinity })
}
