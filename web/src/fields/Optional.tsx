import { Box, Checkbox, FormControlLabel, Typography } from '@mui/material'
import type { ReactNode } from 'react'

/** A part of an end that may be there or not; its fields stand under it while it is. */
export function Optional(props: {
  label: string
  present: boolean
  onChange: (present: boolean) => void
  children: ReactNode
}) {
  return (
    <Box sx={{ mb: 0.5 }}>
      <FormControlLabel
        control={
          <Checkbox
            size="small"
            checked={props.present}
            onChange={(event) => props.onChange(event.target.checked)}
            sx={{ py: 0.25 }}
          />
        }
        label={<Typography variant="body2">{props.label}</Typography>}
      />
      {props.present && <Box sx={{ pl: 1.5 }}>{props.children}</Box>}
    </Box>
  )
}
