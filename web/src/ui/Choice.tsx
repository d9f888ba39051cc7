import { Autocomplete, Box, TextField, Typography } from '@mui/material'
import { useId } from 'react'

export interface Option {
  key: string
  label: string
}

/** One of the rows that fit, found by typing. */
export function Choice(props: {
  label: string
  value: string | null
  options: Option[]
  onChange: (key: string | null) => void
  empty?: string
  problem?: string
  clearable?: boolean
}) {
  const id = useId()
  // what is not chosen yet is no fault of what was typed; what is chosen and does not fit is
  const problem = props.value === null ? undefined : props.problem
  const value = props.options.find((option) => option.key === props.value) ?? null
  return (
    <Box sx={{ mb: 0.75 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
        <Typography component="label" htmlFor={id} variant="body2" sx={{ width: 58, flexShrink: 0 }}>
          {props.label}
        </Typography>
        <Autocomplete
          id={id}
          size="small"
          sx={{ flex: 1, minWidth: 0 }}
          options={props.options}
          value={value}
          disableClearable={!props.clearable as false}
          getOptionLabel={(option) => option.label}
          getOptionKey={(option) => option.key}
          isOptionEqualToValue={(a, b) => a.key === b.key}
          noOptionsText={props.empty ?? 'Nothing that fits. Add it to the catalogue.'}
          onChange={(_, option) => props.onChange(option?.key ?? null)}
          renderInput={(params) => (
            <TextField
              {...params}
              variant="standard"
              placeholder={props.clearable ? 'none' : 'choose'}
              error={Boolean(problem)}
              slotProps={{
                ...params.slotProps,
                input: { ...params.slotProps?.input, sx: { fontSize: 13.5, color: 'primary.main' } },
              }}
            />
          )}
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
