import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { answer, api, type SuspensionEnd } from '../../api'
import { useDesign } from '../../app/session'
import { useRested } from '../../app/travel'
import { DrawingView } from '../../drawing'
import { useUnits } from '../../quantity'
import { Busy, Empty, Problem } from '../../ui'

/** Where the joints of an end are, with the members that brackets stand on; a joint is picked by its number. */
export function JointMap(props: { end: SuspensionEnd; chosen: number | null; onPick: (number: number) => void }) {
  const design = useRested(useDesign())
  const { unit } = useUnits()
  const query = useQuery({
    queryKey: ['joints', design, props.end.id, unit],
    queryFn: ({ signal }) =>
      answer(api.POST('/api/brackets/map', { body: { design, end_id: props.end.id, unit }, signal })),
    placeholderData: keepPreviousData,
    gcTime: 20_000,
  })
  const drawing = query.data?.drawing
  if (query.error) return <Problem error={query.error} retry={() => void query.refetch()} />
  if (query.isPending) return <Busy what="Drawing the joints" />
  if (!drawing)
    return (
      <Empty title="This end cannot be put together">
        <p>Layout says what stands in the way.</p>
      </Empty>
    )
  return (
    <DrawingView
      drawing={drawing}
      selected={props.chosen === null ? [] : [`point:${props.chosen}`]}
      onSelect={(ref) => ref.startsWith('point:') && Number(ref.slice(6)) > 0 && props.onPick(Number(ref.slice(6)))}
    />
  )
}
