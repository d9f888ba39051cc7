import { Box, InputBase, Typography } from '@mui/material'
import { useEffect, useId, useRef, useState } from 'react'
import { ApiProblem, answer, api, type LengthValue } from '../api'
import { lengthText, otherUnit } from './format'
import { useUnits } from './units'

interface Props {
  label: string
  value: LengthValue | null
  onChange: (value: LengthValue | null) => void
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
  signed = false,
  optional,
  placeholder,
  problem,
  hideLabel,
}: Props) {
  const { unit, style, other } = useUnits()
  const [typing, setTyping] = useState<string | null>(null)
  const [read, setRead] = useState<{ mm: number } | null>(null)
  const [fault, setFault] = useState<string | null>(null)
  const id = useId()
  const timer = useRef<number>(undefined)
  const call = useRef<AbortController>(undefined)

  useEffect(() => () => window.clearTimeout(timer.current), [])

  const settle = async (text: string, leave: boolean) => {
    call.current?.abort()
    call.current = new AbortController()
    if (!text.trim() && optional) {
      setFault(null)
      onChange(null)
      if (leave) setTyping(null)
      return
    }
    try {
      const body = { text, unit, signed, decimals: style.decimals, inch_denominator: style.denominator as 16 | 32 | 64 }
      const found = await answer(api.POST('/api/length', { body, signal: call.current.signal }))
      setRead(found)
      setFault(null)
      if (value?.mm !== found.mm || value?.typed !== found.typed) onChange({ mm: found.mm, typed: found.typed })
      if (leave) setTyping(null)
    } catch (error) {
      if (error instanceof ApiProblem) {
        setFault(error.message)
        setRead(null)
      }
    }
  }

  const edit = (text: string) => {
    setTyping(text)
    window.clearTimeout(timer.current)
    timer.current = window.setTimeout(() => void settle(text, false), PAUSE_MS)
  }
  const leave = () => {
    window.clearTimeout(timer.current)
    if (typing !== null) void settle(typing, true)
  }

  const shown = typing ?? (value ? lengthText(value.mm, unit, style) : '')
  const mm = typing !== null ? read?.mm : value?.mm
  const message = fault ?? problem
  return (
    <Box sx={{ minWidth: 0 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
        {!hideLabel && (
          <Typography component="label" htmlFor={id} variant="body2" sx={{ flex: 1, minWidth: 0 }}>
            {label}
          </Typography>
        )}
        <InputBase
          id={id}
          value={shown}
          placeholder={placeholder}
          error={Boolean(message)}
          onChange={(event) => edit(event.target.value)}
          onFocus={(event) => event.target.select()}
          onBlur={leave}
          onKeyDown={(event) => {
            if (event.key === 'Enter') leave()
            if (event.key === 'Escape') {
              window.clearTimeout(timer.current)
              setTyping(null)
              setFault(null)
            }
          }}
          slotProps={{
            input: {
              'aria-label': hideLabel ? label : undefined,
              'aria-invalid': Boolean(message),
              'aria-describedby': `${id}-note`,
              autoComplete: 'off',
              spellCheck: false,
            },
          }}
          sx={(theme) => theme.tirante.field(Boolean(message), hideLabel ? '100%' : '7.4em')}
        />
        {!hideLabel && (
          <Typography variant="caption" sx={{ color: 'text.secondary', minWidth: '1.9em' }}>
            {unit === 'mm' ? 'mm' : 'in'}
          </Typography>
        )}
      </Box>
      <Typography
        id={`${id}-note`}
        variant="caption"
        component="div"
        role={message ? 'alert' : undefined}
        sx={{
          textAlign: message ? 'left' : 'right',
          color: message ? 'error.main' : 'text.secondary',
          minHeight: '1.2em',
          pr: hideLabel || message ? 0 : 3,
        }}
      >
        {message ?? (mm !== undefined ? other(mm) : otherUnit(unit) === 'mm' ? '' : '')}
      </Typography>
    </Box>
  )
}
