import { Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { answer, api, type EndKind, type SuspensionEnd } from '../../api'
import { useEndEdit, useSessionPart } from '../../app/session'
import { useTemplates } from '../../app/travel'
import { Fold, Problem } from '../../ui'
import { FieldRows, Optional, plain, withValue, type Field, type Forms } from '../../fields'

interface Props {
  end: SuspensionEnd
  kind: EndKind
  forms: Forms
  wrong: boolean
}

/** What is put on the template: an anti-roll bar, a steered axle's knuckles. */
export function Additions({ end, kind, forms, wrong }: Props) {
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
              ...(one.has_bar ? forms.rows('addition', { name: one.name }) : []),
            ]}
            problems={problems}
            onChange={(path, value) => editEnd(path, (now) => withValue(now, path, value))}
          />
          {one.has_bar && <MadeRate endId={end.id} addition={one.name} />}
        </Optional>
      ))}
      {put.error && <Problem error={put.error} />}
    </Fold>
  )
}

/** That a bar which is made sets the rate, whatever is typed here. */
function MadeRate({ endId, addition }: { endId: string; addition: string }) {
  const told = useSessionPart(({ design, evaluation }) => {
    const part = design.parts.find(
      (one) => one.kind === 'anti_roll_bar' && one.end_id === endId && one.addition === addition,
    )
    const own = evaluation?.parts.find((one) => one.id === part?.id)?.own
    return part && own?.kind === 'anti_roll_bar'
      ? `${part.name} sets it: ${own.rate_nm_per_deg.toFixed(1)} N·m/°, by its own size.`
      : ''
  })
  return told ? (
    <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
      {told}
    </Typography>
  ) : null
}
