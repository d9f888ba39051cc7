import { useMutation } from '@tanstack/react-query'
import { answer, api, type EndKind, type SuspensionEnd } from '../../api'
import { useEndEdit } from '../../app/session'
import { useTemplates } from '../../app/travel'
import { Fold, Problem } from '../../ui'
import { FieldRows } from '../../fields'
import { plain, withValue, type Field } from '../../fields'
import { Optional } from '../../fields'

/** What is put on the template: an anti-roll bar, a steered axle's knuckles. */
export function Additions({ end, kind, wrong }: { end: SuspensionEnd; kind: EndKind; wrong: boolean }) {
  const { session, editEnd, problems } = useEndEdit(end.id)
  const templates = useTemplates()
  const offered = templates.data?.additions.filter((one) => one.axle === 'any' || one.axle === kind.axle) ?? []
  const put = useMutation({
    mutationFn: async ({ addition, present }: { addition: string; present: boolean }) => {
      const body = { design: session.state().design, end_id: end.id, addition, present }
      return (await answer(api.POST('/api/ends/add', { body }))).end
    },
    onSuccess: (changed) => editEnd('additions', () => changed.end),
  })
  const have = Object.keys(end.end.additions)
  const title = (name: string) => templates.data?.additions.find((one) => one.name === name)?.title ?? plain(name)
  return (
    <Fold title="Added" note={have.map(plain).join(', ') || 'nothing'} wrong={wrong}>
      {offered.map((one) => (
        <Optional
          key={one.name}
          label={title(one.name)}
          present={have.includes(one.name)}
          onChange={(present) => put.mutate({ addition: one.name, present })}
        >
          <FieldRows
            whole={end.end}
            fields={[
              ...one.asks
                .filter((ask) => ask !== 'side')
                .map((ask): Field => ({
                  kind: 'choice',
                  path: `additions/${one.name}/${ask}`,
                  label: ask === 'on' ? 'Fastened to' : 'Carried by',
                  options: kind.bodies.map((value) => ({ value, label: plain(value) })),
                })),
              ...(one.has_bar
                ? [
                    {
                      kind: 'number',
                      path: `additions/${one.name}/rate_nm_per_deg`,
                      label: 'Rate, of its twist',
                      unit: 'N·m/°',
                      optional: true,
                      min: 0,
                    } satisfies Field,
                  ]
                : []),
            ]}
            problems={problems}
            onChange={(path, value) => editEnd(path, (now) => withValue(now, path, value))}
          />
        </Optional>
      ))}
      {put.error && <Problem error={put.error} />}
    </Fold>
  )
}
