import { Alert, Button } from '@mui/material'
import { useSessionPart, useTheSession } from '../session'
import { where } from '../../ui'
import { Told } from '../../quantity'

/** Said at the top of the sheet while what is typed is not saved: why, and that it is kept; and what must be known of a change. */
export function SaveNotice() {
  const session = useTheSession()
  const save = useSessionPart((state) => state.save)
  const told = useSessionPart((state) => state.told)
  const design = useSessionPart((state) => state.design)
  if (save.kind === 'away')
    return (
      <Alert severity="warning" variant="filled" square>
        <Told>{save.message}</Told>
      </Alert>
    )
  if (save.kind === 'refused') {
    const issue = save.problem.issues[0]
    return (
      <Alert
        severity="error"
        square
        action={
          <Button color="inherit" onClick={session.undo}>
            Undo
          </Button>
        }
      >
        Not saved. {issue?.path && `${where(issue.path, design)}: `}
        <Told>{issue?.message ?? save.problem.message}</Told> Change it, and it saves by itself; what you typed is kept.
      </Alert>
    )
  }
  if (told.length > 0)
    return (
      <Alert severity="info" square onClose={session.heard}>
        {told.map((one) => (
          <div key={one}>
            <Told>{one}</Told>
          </div>
        ))}
      </Alert>
    )
  return null
}
