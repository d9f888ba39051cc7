import { Box, InputBase, Typography } from '@mui/material'
import { useRef, type ReactNode } from 'react'
import { useUnits } from './units'

interface Props {
  id: string
  label: string
  hideLabel?: boolean
  shown: string
  unit: string
  placeholder?: string
  message?: string
  /** Asked under the field of a value that is taken and hardly any car has. */
  asked?: string
  /** Said under the field while nothing is wrong. */
  note?: ReactNode
  decimal?: boolean
  onType: (text: string) => void
  onTake: () => void
  onLeave: () => void
}

const ROOM = {
  position: 'absolute',
  zIndex: 2,
  left: 0,
  right: 0,
  px: 1,
  py: 0.5,
  bgcolor: 'background.paper',
  border: 1,
  borderColor: 'error.main',
} as const

/** A field of a figure: its label, what is typed, its unit, and below it what is wrong or the same in the other unit. */
export function FieldFrame(props: Props) {
  const { id, label, hideLabel, message } = props
  const { told } = useUnits()
  const wrong = Boolean(message)
  const given = useRef(false) // back as it was: what is typed is not taken when the field is left
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
          value={props.shown}
          placeholder={props.placeholder}
          error={wrong}
          onChange={(event) => props.onType(event.target.value)}
          onFocus={(event) => event.target.select()}
          onBlur={() => {
            if (!given.current) props.onTake()
            given.current = false
          }}
          onKeyDown={(event) => {
            // left as it is taken, so that the next key is no longer typed into it
            if (event.key === 'Enter') event.currentTarget.blur()
            if (event.key !== 'Escape') return
            event.stopPropagation()
            given.current = true
            props.onLeave()
            event.currentTarget.blur()
          }}
          slotProps={{
            input: {
              'aria-label': hideLabel ? label : undefined,
              'aria-invalid': wrong,
              'aria-describedby': `${id}-unit ${id}-asked ${id}-note`,
              inputMode: props.decimal ? 'decimal' : undefined,
              autoComplete: 'off',
              spellCheck: false,
            },
          }}
          sx={(theme) => theme.tirante.field(wrong, hideLabel ? '100%' : '7.4em')}
        />
        <Typography
          id={`${id}-unit`}
          variant="caption"
          hidden={hideLabel}
          sx={{ color: 'text.secondary', minWidth: '1.9em' }}
        >
          {props.unit}
        </Typography>
      </Box>
      {!message && props.asked && (
        <Typography id={`${id}-asked`} variant="caption" component="div" role="status" sx={{ color: 'warning.main' }}>
          {told(props.asked)}
        </Typography>
      )}
      {(message || props.note !== undefined) && (
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
            // a narrow field's fault is read over the fields below it, not a word a line
            ...(hideLabel && message && ROOM),
          }}
        >
          {message ? told(message) : props.note}
        </Typography>
      )}
    </Box>
  )
}
