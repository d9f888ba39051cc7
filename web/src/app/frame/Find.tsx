import { Autocomplete, Dialog, DialogContent, TextField } from '@mui/material'
import { useNavigate } from 'react-router'
import { useSessionPart } from '../session'
import { STATIONS } from '../stations'
import { useEnds, useTravel } from '../travel'

interface Target {
  group: string
  label: string
  to: string
  /** The end that the strip is to move. */
  endId?: string
}

/** Find a part, an end, a load case, a check of a part, or a station, by typing. */
export function Find({ open, onClose }: { open: boolean; onClose: () => void }) {
  const evaluation = useSessionPart((state) => state.evaluation)
  const jobId = useSessionPart((state) => state.jobId)
  const go = useNavigate()
  const ends = useEnds()
  const cases = useSessionPart((state) => state.design.loads.cases)
  const { move } = useTravel()
  const base = `/jobs/${jobId}`
  const parts = evaluation?.parts ?? []
  const targets: Target[] = [
    ...parts.map((part) => ({ group: 'Parts', label: part.name, to: `${base}/${part.station}/${part.id}` })),
    ...ends.map((end) => ({ group: 'Ends', label: end.name, to: `${base}/layout`, endId: end.id })),
    ...cases.map((one) => ({ group: 'Load cases', label: one.name, to: `${base}/loads` })),
    ...STATIONS.map((station) => ({
      group: 'Stations',
      label: `${station.number} ${station.name}`,
      to: `${base}/${station.path}`,
    })),
    { group: 'Stations', label: 'Catalogue of parts', to: '/catalogue' },
    { group: 'Stations', label: 'The shop’s rack', to: '/rack' },
    ...parts.flatMap((part) =>
      part.checks.map((check) => ({
        group: 'Checks',
        label: `${part.name}: ${check.name}, ${check.part} ${check.shown}`,
        to: `${base}/${part.station}/${part.id}?show=${encodeURIComponent(`check:${check.key}`)}`,
      })),
    ),
  ]
  return (
    <Dialog
      open={open}
      onClose={onClose}
      fullWidth
      maxWidth="sm"
      aria-label="Find"
      sx={{ '& .MuiDialog-container': { alignItems: 'flex-start' } }}
    >
      <DialogContent>
        <Autocomplete
          options={targets}
          groupBy={(target) => target.group}
          getOptionKey={(target) => target.to + target.label}
          autoHighlight
          openOnFocus
          onChange={(_, target) => {
            if (!target) return
            onClose()
            if (target.endId) move({ endId: target.endId })
            void go(target.to)
          }}
          noOptionsText="Nothing by that name."
          renderInput={(params) => (
            <TextField {...params} autoFocus label="Find a part, an end, a load case, a check, a station" />
          )}
        />
      </DialogContent>
    </Dialog>
  )
}
