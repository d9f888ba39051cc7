import { useId, useRef, useState } from 'react'
import { FieldFrame } from './FieldFrame'
import { outside, unusual, type Limits } from './limits'

interface Props extends Limits {
  label: string
  value: number | null
  unit: string
  onChange: (value: number | null) => void
  optional?: boolean
  placeholder?: string
  problem?: string
  hideLabel?: boolean
}

const tidy = (value: number) => String(Math.round(value * 1e6) / 1e6).replace('-', '−')

/** A plain number with its unit; a bad one stays as typed and says what would be right. */
export function NumberField({
  label,
  value,
  unit,
  onChange,
  optional,
  placeholder,
  problem,
  hideLabel,
  ...limits
}: Props) {
  const [typing, setTyping] = useState<string | null>(null)
  const [fault, setFault] = useState<string | null>(null)
  const before = useRef<number | null>(value)
  // taken since it is typed in: the value may not show it yet, and Escape must take it back all the same
  const taken = useRef<number | null | undefined>(undefined)
  const give = (number: number | null) => {
    taken.current = number
    onChange(number)
  }
  const id = useId()

  const settle = (text: string, leave: boolean) => {
    const plain = text.trim().replace('−', '-')
    if (!plain && optional) {
      setFault(null)
      give(null)
    } else if (!/^[-+]?(\d+\.?\d*|\.\d+)$/.test(plain)) {
      setFault(`“${text}” is not a complete number. Write for example 1250 or 0.5.`)
      return
    } else {
      const number = Number(plain)
      const beyond = outside(number, unit, limits)
      if (beyond) {
        setFault(beyond)
        return
      }
      setFault(null)
      if (number !== value) give(number)
    }
    if (leave) setTyping(null)
  }

  const take = () => typing !== null && settle(typing, true)
  return (
    <FieldFrame
      id={id}
      label={label}
      hideLabel={hideLabel}
      shown={typing ?? (value === null ? '' : tidy(value))}
      unit={unit}
      placeholder={placeholder}
      message={fault ?? problem}
      asked={value === null ? undefined : unusual(value, unit, limits.usual)}
      decimal
      onType={(text) => {
        if (typing === null) {
          before.current = value
          taken.current = undefined
        }
        setTyping(text)
        settle(text, false)
      }}
      onTake={take}
      onLeave={() => {
        const now = taken.current === undefined ? value : taken.current
        if (typing !== null && before.current !== now && (before.current !== null || optional)) onChange(before.current)
        setTyping(null)
        setFault(null)
      }}
    />
  )
}
