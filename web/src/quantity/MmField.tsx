import { LengthField } from './LengthField'
import type { Limits } from './limits'

/** A length that is kept as plain millimetres, typed as freely as any other. */
export function MmField({
  value,
  onChange,
  ...rest
}: {
  label: string
  value: number | null
  onChange: (mm: number | null) => void
  signed?: boolean
  optional?: boolean
  placeholder?: string
  problem?: string
  hideLabel?: boolean
} & Limits) {
  return (
    <LengthField
      {...rest}
      signed={rest.signed ?? (rest.min !== undefined && rest.min <= 0)}
      value={value === null ? null : { mm: value, typed: null }}
      onChange={(found) => onChange(found?.mm ?? null)}
    />
  )
}
