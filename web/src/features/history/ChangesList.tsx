import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Link, Typography } from '@mui/material'
import { Link as RouterLink } from 'react-router'
import type { ChangesOut, PartChangedOut } from '../../api'
import { useKinds, useSessionPart } from '../../app/session'
import { Busy, Problem } from '../../ui'
import { PartChanged, VERDICT } from '../cards'
import { MadeList } from './MadeList'
import { useChanges } from './useChanges'

/** Every part that differs since the job was issued, worst first. */
export function ChangesList({ found }: { found: ChangesOut }) {
  const jobId = useSessionPart((state) => state.jobId)
  const design = useSessionPart((state) => state.design)
  const kinds = useKinds()
  const stationOf = (id: string) => {
    const part = design.parts.find((one) => one.id === id)
    return part && kinds?.find((kind) => kind.key === part.kind)?.station
  }
  if (!found.since)
    return <Typography variant="body2">Nothing is issued yet, so there is nothing to compare with.</Typography>
  return (
    <>
      {found.otherwise.map((one) => (
        <Typography key={one.name} variant="body2" sx={{ color: 'warning.main', mb: 1 }}>
          {one.name} was issued with other figures than are worked out of the same design now. Build from the issued
          sheets, or issue the job anew.
        </Typography>
      ))}
      {found.parts.length === 0 && (
        <Typography variant="body2">Everything that was made to rev {found.since.number} fits as it is.</Typography>
      )}
      {found.parts.map((part) => {
        const station = stationOf(part.part_id)
        return (
          <Box
            key={part.part_id}
            sx={{
              display: 'grid',
              gridTemplateColumns: '92px 1fr',
              gap: 1.5,
              py: 1,
              borderTop: 1,
              borderColor: 'divider',
            }}
          >
            <Typography
              variant="body2"
              sx={{ fontWeight: 700, color: MIND.has(part.verdict) ? 'warning.main' : 'text.primary' }}
            >
              {VERDICT[part.verdict]}
            </Typography>
            <Box sx={{ minWidth: 0 }}>
              {station ? (
                <Link component={RouterLink} to={`/jobs/${jobId}/${station}/${part.part_id}`}>
                  {part.name}
                </Link>
              ) : (
                <Typography variant="body2">{part.name}</Typography>
              )}
              <PartChanged part={part} />
            </Box>
          </Box>
        )
      })}
    </>
  )
}

const MIND = new Set<PartChangedOut['verdict']>(['make', 'cut', 'incomplete', 'gone'])

/** The same in a dialog of its own, from the header. */
export function ChangesDialog({ onClose }: { onClose: () => void }) {
  const found = useChanges()
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="changes-title">
      <DialogTitle id="changes-title">
        What changed since {found.data?.since ? `rev ${found.data.since.number} was issued` : 'it was issued'}
      </DialogTitle>
      <DialogContent onClick={(event) => (event.target as Element).closest('a') && onClose()}>
        {found.error && <Problem error={found.error} retry={() => void found.refetch()} />}
        {found.isPending && <Busy what="Comparing" />}
        {found.data && <ChangesList found={found.data} />}
        <Typography variant="h3" component="h3" sx={{ mt: 2, mb: 0.5 }}>
          What was made of it
        </Typography>
        <MadeList />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  )
}
