import { Checkbox, FormControlLabel } from '@mui/material'
import type { Link } from '../../../api'
import { MmField, NumberField } from '../../../quantity'
import { Segmented } from '../../../ui'

type Fixed = Extract<Link['end_a'], { kind: 'fixed' }>
type Machined = NonNullable<Fixed['machined']>

const SIZES = [
  ['thickness_mm', 'Eye, or one ear, thick'],
  ['width_mm', 'Width across the hole'],
  ['hole_mm', 'Hole'],
  ['pin_mm', 'Pin'],
  ['edge_mm', 'Hole’s centre to the free end'],
] as const
const STRENGTHS = [
  ['yield_mpa', 'Its yield'],
  ['uts_mpa', 'Its ultimate'],
] as const

/** The tube tapped for the joint, in place of an insert: how deep. */
export function Tapped(props: {
  depth: number | null
  begins: number
  problem?: string
  onChange: (depth: number | null) => void
}) {
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
        <MmField
          label="Full thread, deep"
          min={1}
          value={props.depth}
          problem={props.problem}
          onChange={(depth) => depth !== null && props.onChange(depth)}
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
          {SIZES.map(([field, label]) => (
            <MmField
              key={field}
              label={label}
              min={0.1}
              value={machined[field]}
              problem={problems.get(`${at}.${field}`)}
              onChange={(mm) => mm !== null && change({ [field]: mm })}
            />
          ))}
          {machined.form === 'clevis' && (
            <>
              <MmField
                label="Between the ears"
                min={0}
                value={machined.gap_mm}
                onChange={(mm) => mm !== null && change({ gap_mm: mm })}
              />
              <NumberField
                label="Pin’s yield"
                unit="MPa"
                min={50}
                max={3000}
                value={machined.pin_yield_mpa}
                onChange={(found) => found !== null && change({ pin_yield_mpa: found })}
              />
            </>
          )}
          {STRENGTHS.map(([field, label]) => (
            <NumberField
              key={field}
              label={label}
              unit="MPa"
              min={50}
              max={3000}
              value={machined[field]}
              onChange={(found) => found !== null && change({ [field]: found })}
            />
          ))}
        </>
      )}
    </>
  )
}
