import { Checkbox, FormControlLabel } from '@mui/material'
import type { Link } from '../../../api'
import { FieldRows, useForms } from '../../../fields'
import { Segmented } from '../../../ui'

type Fixed = Extract<Link['end_a'], { kind: 'fixed' }>
type Machined = NonNullable<Fixed['machined']>

/** The tube tapped for the joint, in place of an insert: how deep. */
export function Tapped(props: {
  depth: number | null
  begins: number
  problem?: string
  onChange: (depth: number | null) => void
}) {
  const forms = useForms()
  return (
    <>
      <FormControlLabel
        control={
          <Checkbox
            size="small"
            checked={props.depth !== null}
            onChange={(event) => props.onChange(event.target.checked ? props.begins : null)}
          />
        }
        label="the tube itself is tapped: no insert"
      />
      {props.depth !== null && (
        <FieldRows
          whole={{ tapped_mm: props.depth }}
          fields={forms?.rows('tapped') ?? []}
          problems={new Map(props.problem ? [['tapped_mm', props.problem]] : [])}
          onChange={(_, depth) => props.onChange(depth as number)}
        />
      )}
    </>
  )
}

/** An eye or clevis turned or milled from the solid, on a spigot in the tube. */
export function MachinedFields(props: {
  machined: Machined | null
  begins: Machined | null
  problems: Map<string, string>
  at: string
  onChange: (machined: Machined | null) => void
}) {
  const { machined, begins, problems, at, onChange } = props
  const forms = useForms()
  const change = (part: Partial<Machined>) => machined && onChange({ ...machined, ...part })
  return (
    <>
      <FormControlLabel
        control={
          <Checkbox
            size="small"
            checked={machined !== null}
            onChange={(event) => onChange(event.target.checked ? begins : null)}
          />
        }
        label="machined from the solid, checked here"
      />
      {machined && (
        <>
          <Segmented
            label="Machined as"
            fullWidth
            value={machined.form}
            onChange={(form) => change({ form })}
            options={[
              { value: 'eye', label: 'eye on a spigot' },
              { value: 'clevis', label: 'clevis' },
            ]}
          />
          <FieldRows
            whole={machined}
            fields={['eye', ...(machined.form === 'clevis' ? ['clevis'] : []), 'its metal'].flatMap(
              (form) => forms?.rows(form) ?? [],
            )}
            problems={
              new Map(
                [...problems]
                  .filter(([path]) => path.startsWith(`${at}.`))
                  .map(([path, text]) => [path.slice(at.length + 1), text]),
              )
            }
            onChange={(path, value) => change({ [path]: value })}
          />
        </>
      )}
    </>
  )
}
