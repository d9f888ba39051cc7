import { Box, InputBase, Typography } from '@mui/material'
import { useId } from 'react'

/** A line of text with its label. */
export function TextRow(props: {
  label: string
  value: string
  onChange: (text: string) => void
  problem?: string
  multiline?: boolean
  optional?: boolean
  maxLength?: number
}) {
  const id = useId()
  const limit = props.maxLength ?? 80
  const problem =
    props.problem ??
    (props.value.trim() === '' && !props.multiline && !props.optional
      ? 'A name is needed.'
      : props.value.length > limit
        ? `At most ${limit} characters; this has ${props.value.length}.`
        : undefined)
  return (
    <Box sx={{ mb: 0.75 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
        <Typography component="label" htmlFor={id} variant="body2" sx={{ width: 58, flexShrink: 0 }}>
          {props.label}
        </Typography>
        <InputBase
          id={id}
          value={props.value}
          multiline={props.multiline}
          error={Boolean(problem)}
          onChange={(event) => props.onChange(event.target.value)}
          slotProps={{ input: { 'aria-invalid': Boolean(problem), autoComplete: 'off' } }}
          sx={{
            flex: 1, fontSize: 14, color: 'primary.main', borderBottom: 1, borderColor: problem ? 'error.main' : 'divider',
            '& input': { p: '2px' },
          }} // prettier-ignore
        />
      </Box>
      {problem && (
        <Typography variant="caption" component="div" role="alert" sx={{ color: 'error.main' }}>
          {problem}
        </Typography>
      )}
    </Box>
  )
}
