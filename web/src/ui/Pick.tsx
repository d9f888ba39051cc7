import { MenuItem, TextField } from '@mui/material'

/** One of a few named values, from a menu; `none` is what its having none is called, where it may have none. */
export function Pick(props: {
  label: string
  value: string
  options: { value: string; label: string }[]
  onChange: (value: string) => void
  none?: string
  problem?: string
  note?: string
  disabled?: boolean
}) {
  return (
    <TextField
      select
      fullWidth
      size="small"
      variant="standard"
      label={props.label}
      value={props.value}
      disabled={props.disabled}
      error={Boolean(props.problem)}
      helperText={props.problem ?? props.note}
      slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
      onChange={(event) => props.onChange(event.target.value)}
      sx={{ mb: 1 }}
    >
      {props.none !== undefined && <MenuItem value="">{props.none}</MenuItem>}
      {props.options.map((one) => (
        <MenuItem key={one.value} value={one.value}>
          {one.label}
        </MenuItem>
      ))}
    </TextField>
  )
}
