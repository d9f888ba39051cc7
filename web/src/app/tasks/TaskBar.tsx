import { Box, LinearProgress, Typography } from '@mui/material'
import type { TaskOut } from '../../api'
import { Problem } from '../../ui'

interface Props {
  going: boolean
  task: TaskOut | null
  trouble: unknown
  /** what is done, for a reader */
  label: string
  /** of what it is so many of so many, "parts sized" */
  what: string
}

/** How far a task is, and what went wrong with it. */
export function TaskBar({ going, task, trouble, label, what }: Props) {
  const { done = 0, of = 0 } = task ?? {}
  return (
    <>
      {going && (
        <>
          <LinearProgress
            aria-label={label}
            variant={of ? 'determinate' : 'indeterminate'}
            value={of ? (100 * done) / of : undefined}
            sx={{ mt: 1 }}
          />
          <Typography variant="caption" component="p" role="status" sx={{ m: 0 }}>
            {of ? `${done} of ${of} ${what}` : 'beginning'}; it goes on when this page is left
          </Typography>
        </>
      )}
      {Boolean(trouble) && (
        <Box sx={{ mt: 1 }}>
          <Problem error={trouble} />
        </Box>
      )}
      {!going && task?.state === 'failed' && (
        <Typography variant="body2" role="alert" sx={{ color: 'error.main', mt: 1 }}>
          {task.fault}
        </Typography>
      )}
      {!going && task?.state === 'cancelled' && (
        <Typography variant="caption" component="p" role="status">
          Stopped: nothing came of it.
        </Typography>
      )}
    </>
  )
}
