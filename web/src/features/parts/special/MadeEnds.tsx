import { Checkbox, FormControlLabel } from '@mui/material'
import type { Link } from '../../../api'
import { FieldRows, useForms } from '../../../fields'
import { Segmented } from '../../../ui'

type Fixed = Extract<Link['end_a'], { kind: 'fixed' }>
type Machined = NonNullable<Fixed['machined']>
type Flat = NonNullable<Fixed['flat']>
type Sleeve = NonNullable<Fixed['sleeve']>
type Reducer = NonNullable<Sleeve['reducer']>
type Plug = NonNullable<Fixed['plug']>

/** The tube tapped for the joint, in place of an insert: how deep. */
export function Tapped(props: {
  depth: number | null
  begins: number | undefined
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
            disabled={props.begins === undefined}
            onChange={(event) => props.onChange(event.target.checked ? (props.begins ?? null) : null)}
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

const FLAT: Record<Flat['form'], string[]> = {
  'eye let in': ['let in'],
  'clevis let in': ['clevis let in', 'let in'],
  squashed: ['squashed'],
}

/** How a fixed end is made where it is checked here: a sleeve, from the solid on a spigot, or flat: plates let in, the tube squashed; or the tube plugged. */
export function MadeFields(props: {
  end: Fixed
  begins:
    | { machined?: unknown; flat?: unknown; sleeve?: unknown; reducer?: unknown; plug?: unknown; eye?: unknown }
    | undefined
  problems: Map<string, string>
  at: string
  onChange: (made: Partial<Pick<Fixed, 'machined' | 'flat' | 'sleeve' | 'plug' | 'eye'>>) => void
}) {
  const { end, begins, problems, at, onChange } = props
  const forms = useForms()
  const machined = end.machined ?? null
  const flat = end.flat ?? null
  const sleeve = end.sleeve ?? null
  const plug = end.plug ?? null
  const under = (name: string) => {
    const start = `${at}.${name}.`
    return new Map(
      [...problems].filter(([path]) => path.startsWith(start)).map(([path, text]) => [path.slice(start.length), text]),
    )
  }
  const change = (part: Partial<Machined>) =>
    machined && onChange({ machined: { ...machined, ...part }, flat: null, sleeve: null, plug: null })
  return (
    <>
      <Segmented
        label="How it is made"
        fullWidth
        disabled={!begins}
        value={machined ? 'machined' : flat ? 'flat' : sleeve ? 'sleeve' : plug ? 'plug' : 'none'}
        onChange={(value) =>
          onChange({
            machined: value === 'machined' ? (begins?.machined as Machined) : null,
            flat: value === 'flat' ? (begins?.flat as Flat) : null,
            sleeve: value === 'sleeve' ? (begins?.sleeve as Sleeve) : null,
            plug: value === 'plug' ? (begins?.plug as Plug) : null,
          })
        }
        options={[
          { value: 'none', label: 'not given' },
          { value: 'sleeve', label: 'sleeve' },
          { value: 'machined', label: 'solid' },
          { value: 'flat', label: 'flat' },
          { value: 'plug', label: 'plug' },
        ]}
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
            problems={under('machined')}
            onChange={(path, value) => change({ [path]: value })}
          />
        </>
      )}
      {flat && (
        <FieldRows
          whole={flat}
          fields={['flat end', ...FLAT[flat.form]].flatMap((form) => forms?.rows(form) ?? [])}
          problems={under('flat')}
          onChange={(path, value) =>
            onChange({ machined: null, sleeve: null, plug: null, flat: { ...flat, [path]: value } })
          }
        />
      )}
      {!machined && !flat && !plug && (
        <GoesIn
          eye={end.eye ?? null}
          begins={begins?.eye as GoesInEye | undefined}
          problems={under('eye')}
          onChange={(eye) => onChange({ machined, flat, sleeve, plug, eye })}
        />
      )}
      {sleeve && (
        <SleeveFields
          sleeve={sleeve}
          begins={begins?.reducer as Reducer | undefined}
          problems={under('sleeve')}
          onChange={(next) => onChange({ machined: null, flat: null, plug: null, sleeve: next })}
        />
      )}
      {plug && (
        <FieldRows
          whole={plug}
          fields={forms?.rows('plug') ?? []}
          problems={under('plug')}
          onChange={(path, value) =>
            onChange({ machined: null, flat: null, sleeve: null, plug: { ...plug, [path]: value } })
          }
        />
      )}
    </>
  )
}

/** A sleeve that the tube is notched to, or a reducer between the two. */
function SleeveFields(props: {
  sleeve: Sleeve
  begins: Reducer | undefined
  problems: Map<string, string>
  onChange: (sleeve: Sleeve) => void
}) {
  const forms = useForms()
  const { sleeve, begins, problems, onChange } = props
  const reducer = sleeve.reducer ?? null
  const under = new Map(
    [...problems]
      .filter(([path]) => path.startsWith('reducer.'))
      .map(([path, text]) => [path.slice('reducer.'.length), text]),
  )
  return (
    <>
      <FieldRows
        whole={sleeve}
        fields={forms?.rows('sleeve') ?? []}
        problems={problems}
        onChange={(path, value) => onChange({ ...sleeve, [path]: value })}
      />
      <FormControlLabel
        control={
          <Checkbox
            size="small"
            checked={reducer !== null}
            disabled={!begins}
            onChange={(event) => onChange({ ...sleeve, reducer: event.target.checked ? (begins ?? null) : null })}
          />
        }
        label="a reducer, for a tube that is wider than the sleeve"
      />
      {reducer && (
        <FieldRows
          whole={reducer}
          fields={forms?.rows('reducer') ?? []}
          problems={under}
          onChange={(path, value) => onChange({ ...sleeve, reducer: { ...reducer, [path]: value } })}
        />
      )}
    </>
  )
}

type GoesInEye = NonNullable<Fixed['eye']>

/** The bush or bearing in a fixed end, as the plates of a bracket clamp it. */
function GoesIn(props: {
  eye: GoesInEye | null
  begins: GoesInEye | undefined
  problems: Map<string, string>
  onChange: (eye: GoesInEye | null) => void
}) {
  const forms = useForms()
  const { eye } = props
  return (
    <>
      <FormControlLabel
        control={
          <Checkbox
            size="small"
            checked={eye !== null}
            disabled={!props.begins}
            onChange={(event) => props.onChange(event.target.checked ? (props.begins ?? null) : null)}
          />
        }
        label="what goes in it is known, for a bracket"
      />
      {eye && (
        <FieldRows
          whole={eye}
          fields={forms?.rows('goes in') ?? []}
          problems={props.problems}
          onChange={(path, value) => props.onChange({ ...eye, [path]: value })}
        />
      )}
    </>
  )
}
