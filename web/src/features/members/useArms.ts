import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { answer, api, type Design } from '../../api'
import { useDesign } from '../../app/session'
import { useUnits } from '../../quantity'

export type Arm = Design['arms'][number]

const dependsOn = (design: Design) => [
  design.arms,
  design.ends,
  design.car,
  design.loads,
  design.settings,
  design.catalogue,
]

/** The arms of the job under every load case. */
export function useArms(enabled: boolean) {
  const design = useDesign()
  return useQuery({
    queryKey: ['arms', ...dependsOn(design)],
    queryFn: ({ signal }) => answer(api.POST('/api/arms', { body: { design }, signal })),
    enabled,
    placeholderData: keepPreviousData,
  })
}

/** One of them, flat in its plane. */
export function useArmDrawing(id: string | null) {
  const design = useDesign()
  const { unit } = useUnits()
  return useQuery({
    queryKey: ['arm-drawing', id, unit, ...dependsOn(design)],
    queryFn: ({ signal }) => answer(api.POST('/api/arms/drawing', { body: { design, arm_id: id!, unit }, signal })),
    enabled: id !== null && design.arms.some((arm) => arm.id === id),
    placeholderData: keepPreviousData,
  })
}
