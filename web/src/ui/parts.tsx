import { Alert, Box, Button, CircularProgress, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material'
import type { ReactNode } from 'react'
import { ApiProblem } from '../api'
import { Told } from '../quantity'
import { where } from './where'

/** A choice of a few, side by side. */
export function Segmented<T extends string>(props: {
  label: string
  value: T
  options: { value: T; label: string; title?: string }[]
  onChange: (value: T) => void
  fullWidth?: boolean
  disabled?: boolean
}) {
  return (
    <ToggleButtonGroup
      exclusive
      disabled={props.disabled}
      size="small"
      fullWidth={props.fullWidth}
      aria-label={props.label}
      value={props.value}
      onChange={(_, value: T | null) => value !== null && props.onChange(value)}
    >
      {props.options.map((option) => (
        <ToggleButton key={option.value} value={option.value} title={option.title}>
          {option.label}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  )
}

/** What went wrong and what to do, with another try where that may help. */
export function Problem({ error, retry }: { error: unknown; retry?: () => void }) {
  const known = error instanceof ApiProblem ? error : null
  const told = known?.message ?? 'Something went wrong on this page. Your work is kept; load it again.'
  const issues = known?.body.issues.filter((issue) => issue.message !== told) ?? []
  // what names a field by its path is said once, with the path in words
  const message =
    issues.length > 0 && told === `${issues[0]?.path}: ${issues[0]?.message}` ? 'This cannot be used yet.' : told
  return (
    <Alert severity="error" variant="outlined" action={retry && <Button onClick={retry}>Try again</Button>}>
      <Told>{message}</Told>
      {issues.length > 0 && (
        <Box component="ul" sx={{ m: 0, pl: 2, maxHeight: 260, overflow: 'auto' }}>
          {issues.map((issue, i) => (
            <li key={i}>
              {issue.path && <b>{where(issue.path)}: </b>}
              <Told>{issue.message}</Told>
            </li>
          ))}
        </Box>
      )}
    </Alert>
  )
}

export function Busy({ what }: { what: string }) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, p: 3, color: 'text.secondary' }} role="status">
      <CircularProgress size={18} color="inherit" aria-hidden />
      <Typography variant="body2">{what}</Typography>
    </Box>
  )
}

/** Nothing here yet, and what to do about it. */
export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <Box sx={{ p: 4, maxWidth: 560 }}>
      <Typography variant="h2" component="h2" gutterBottom>
        {title}
      </Typography>
      <Typography component="div" sx={{ color: 'text.secondary' }}>
        {children}
      </Typography>
    </Box>
  )
}

/** A heading of a stretch of a panel. */
export function Section({ title, note, children }: { title: string; note?: string; children: ReactNode }) {
  return (
    <Box component="section" aria-label={title} sx={{ mb: 2.5 }}>
      <Typography variant="h3" component="h3" sx={{ mb: note ? 0 : 0.75 }}>
        {title}
      </Typography>
      {note && (
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0, mb: 0.75 }}>
          {note}
        </Typography>
      )}
      {children}
    </Box>
  )
}
