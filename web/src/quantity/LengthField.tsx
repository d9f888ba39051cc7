import { useEffect, useId, useRef, useState } from 'react'
import { ApiProblem, answer, api, type LengthValue } from '../api'
import { FieldFrame } from './FieldFrame'
import { outside, unusual, type Limits } from './limits'
import { fieldText } from './format'
import { plainLength } from './plain'
import { useUnits } from './units'
import { useKept } from './useKept'

interface Props extends Limits {
  label: string
  value: LengthValue | null
  onChange: (value: LengthValue | null) => void
  /** Told at every key what stands there, where that is a plain figure: nothing is taken yet. */
  onTyping?: (mm: number, typed: string) => void
  signed?: boolean
  optional?: boolean
  placeholder?: string
  problem?: string
  hideLabel?: boolean
}

const PAUSE_MS = 300

/**
 * A length typed freely in either system. The core reads it; the other unit stands beside it as it is typed; what cannot
 * be read stays as typed, with what is wrong and what would be right.
 */
export function LengthField({
  label,
  value,
  onChange,
  onTyping,
  signed = false,
  optional,
  placeholder,
  problem,
  hideLabel,
  ...limits
}: Props) {
  const { unit, style, other } = useUnits()
  const [typing, setTyping] = useState<string | null>(null)
  const [read, setRead] = useState<{ mm: number } | null>(null)
  const [fault, setFault] = useState<string | null>(null)
  const [standing, keep] = useKept(value?.mm)
  const id = useId()
  const timer = useRef<number>(undefined)
  const call = useRef<AbortController>(undefined)
  const before = useRef<LengthValue | null>(value)
  // taken since it is typed in: the value may not show it yet, and Escape must take it back all the same
  const taken = useRef<number | null | undefined>(undefined)

  useEffect(() => () => window.clearTimeout(timer.current), [])

  const take = (found: { mm: number; typed: string }, leave: boolean) => {
    setRead(found)
    const beyond = outside(found.mm, 'mm', limits)
    setFault(beyond ?? null)
    if (beyond) return
    if (value?.mm !== found.mm || value?.typed !== found.typed) {
      keep(found.mm)
      taken.current = found.mm
      onChange({ mm: found.mm, typed: found.typed })
    }
    if (leave) setTyping(null)
  }

  const settle = async (text: string, leave: boolean) => {
    call.current?.abort()
    call.current = new AbortController()
    if (!text.trim() && optional) {
      setFault(null)
      taken.current = null
      onChange(null)
      if (leave) setTyping(null)
      return
    }
    try {
      const plain = plainLength(text, unit, signed)
      if (plain) return take(plain, leave)
      const body = { text, unit, signed, decimals: style.decimals, inch_denominator: style.denominator as 16 | 32 | 64 }
      const found = await answer(api.POST('/api/length', { body, signal: call.current.signal }))
      take(found, leave)
    } catch (error) {
      if (error instanceof ApiProblem) {
        setFault(error.message)
        setRead(null)
      }
    }
  }

  const edit = (text: string) => {
    if (typing === null) {
      before.current = value
      taken.current = undefined
    }
    setTyping(text)
    const plain = onTyping && plainLength(text, unit, signed)
    if (plain && plain.mm !== value?.mm && !outside(plain.mm, 'mm', limits)) onTyping(plain.mm, plain.typed)
    window.clearTimeout(timer.current)
    timer.current = window.setTimeout(() => void settle(text, false), PAUSE_MS)
  }
  const leave = () => {
    window.clearTimeout(timer.current)
    if (typing !== null) void settle(typing, true)
  }

  const mm = typing !== null ? read?.mm : standing
  return (
    <FieldFrame
      id={id}
      label={label}
      hideLabel={hideLabel}
      shown={typing ?? (standing !== undefined ? fieldText(standing, unit, style) : '')}
      unit={unit}
      placeholder={placeholder}
      message={fault ?? problem}
      asked={standing === undefined ? undefined : unusual(standing, 'mm', limits.usual)}
      note={mm !== undefined ? other(mm) : ''}
      onType={edit}
      onTake={leave}
      onLeave={() => {
        window.clearTimeout(timer.current)
        call.current?.abort()
        const now = taken.current === undefined ? value?.mm : (taken.current ?? undefined)
        if (typing !== null && before.current?.mm !== now && (before.current !== null || optional)) {
          if (before.current) keep(before.current.mm)
          onChange(before.current)
        }
        setTyping(null)
        setFault(null)
      }}
    />
  )
}
