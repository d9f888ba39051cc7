import { Box, InputBase, Typography } from '@mui/material'
import { useId, useState } from 'react'

interface Props {
  label: string
  value: number | null
  unit: string
  onChange: (value: number | null) => void
  min?: number
  max?: number
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
  min,
  max,
  optional,
  placeholder,
  problem,
  hideLabel,
}: Props) {
  const [typing, setTyping] = useState<string | null>(null)
  const [fault, setFault] = useState<string | null>(null)
  const id = useId()

  const settle = (text: string, leave: boolean) => {
    const plain = text.trim().replace('−', '-')
    if (!plain && optional) {
      setFault(null)
      onChange(null)
    } else if (!/^[-+]?(\d+\.?\d*|\.\d+)$/.test(plain)) {
      setFault(`“${text}” is not a complete number. Write for example 1250 or 0.5.`)
      return
    } else {
      const number = Number(plain)
      if ((min !== undefined && number < min) || (max !== undefined && number > max)) {
        setFault(
          `This must be ${min !== undefined ? `at least ${min}` : ''}${min !== undefined && max !== undefined ? ' and ' : ''}${max !== undefined ? `at most ${max}` : ''} ${unit}.`,
        )
        return
      }
      setFault(null)
      if (number !== value) onChange(number)
    }
    if (leave) setTyping(null)
  }

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
          value={typing ?? (value === null ? '' : tidy(value))}
          placeholder={placeholder}
          error={Boolean(message)}
          onFocus={(event) => event.target.select()}
          onChange={(event) => {
            setTyping(event.target.value)
            settle(event.target.value, false)
          }}
          onBlur={() => typing !== null && settle(typing, true)}
          onKeyDown={(event) => {
            if (event.key === 'Enter' && typing !== null) settle(typing, true)
            if (event.key === 'Escape') {
              setTyping(null)
              setFault(null)
            }
          }}
          slotProps={{
            input: {
              'aria-label': hideLabel ? label : undefined,
              'aria-invalid': Boolean(message),
              'aria-describedby': `${id}-note`,
              inputMode: 'decimal',
              autoComplete: 'off',
            },
          }}
          sx={(theme) => theme.tirante.field(Boolean(message), hideLabel ? '100%' : '7.4em')}
        />
        {!hideLabel && (
          <Typography variant="caption" sx={{ color: 'text.secondary', minWidth: '1.9em' }}>
            {unit}
          </Typography>
        )}
      </Box>
      {message && (
        <Typography id={`${id}-note`} variant="caption" component="div" role="alert" sx={{ color: 'error.main' }}>
          {message}
        </Typography>
      )}
    </Box>
  )
}
