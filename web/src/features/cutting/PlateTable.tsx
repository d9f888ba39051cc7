import { Alert, Box, Button, Link, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Link as RouterLink } from 'react-router'
import { answer, api } from '../../api'
import { useDesign, useSessionPart } from '../../app/session'
import { MmField, Told, useUnits } from '../../quantity'
import { Problem, Section } from '../../ui'
import { Stale } from './Ask'
import { cell } from './cell'

/** The cut files of all plates, tried on a simulated cutting table before they are sent: what each takes, or what is refused. */
export function PlateTable() {
  const design = useDesign()
  const jobId = useSessionPart((state) => state.jobId)
  const station = useSessionPart((state) => state.evaluation?.parts)
  const { main } = useUnits()
  const [kerf, setKerf] = useState(1.2)
  const tried = useMutation({
    mutationFn: () =>
      answer(api.POST('/api/cutting-table', { body: { design, kerf_mm: kerf } })).then((found) => ({
        found,
        of: design,
      })),
  })
  const found = tried.data?.found
  const refused = found?.plates.filter((one) => one.faults.length > 0) ?? []
  const driven = found?.plates.filter((one) => one.faults.length === 0) ?? []
  const to = (id: string) => `/jobs/${jobId}/${station?.find((part) => part.id === id)?.station ?? 'members'}/${id}`
  return (
    <Section title="Plates on the cutting table" note="the DXF files of the pack, tried on a simulated table">
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-end', flexWrap: 'wrap', mb: 1 }}>
        <Box sx={{ width: 200 }}>
          <MmField label="Kerf" value={kerf} min={0.01} max={10} onChange={(mm) => mm !== null && setKerf(mm)} />
        </Box>
        <Button variant="outlined" disabled={tried.isPending} onClick={() => tried.mutate()}>
          {tried.isPending ? 'Trying them' : 'Try every plate'}
        </Button>
      </Box>
      {tried.error && <Problem error={tried.error} />}
      {found && (
        <Box role="status" aria-label="What the table says">
          {tried.data?.of !== design && <Stale again="Try them" />}
          {found.plates.length === 0 && <Typography variant="body2">No plate of this job has a file.</Typography>}
          {refused.map((one) => (
            <Alert key={one.file} severity="error" variant="outlined" sx={{ mb: 1 }}>
              <Link component={RouterLink} to={to(one.part_id)}>
                {named(one)}
              </Link>{' '}
              is refused: <Told>{one.faults.join(' ')}</Told>
            </Alert>
          ))}
          {driven.length > 0 && (
            <Box component="table" sx={cell} aria-label="Plates on the cutting table">
              <thead>
                <tr>
                  <th>plates</th>
                  <th>thick</th>
                  <Box component="th" sx={right}>
                    cut of each
                  </Box>
                  <Box component="th" sx={right}>
                    pierces
                  </Box>
                  <Box component="th" sx={right}>
                    time of each
                  </Box>
                  <th>for</th>
                </tr>
              </thead>
              <tbody>
                {driven.map((one) => (
                  <tr key={one.file}>
                    <td>{one.count} ×</td>
                    <Box component="td" sx={{ whiteSpace: 'nowrap' }}>
                      {main(one.thickness_mm)}
                    </Box>
                    <Box component="td" sx={right}>
                      {main(one.cut_mm ?? 0)}
                    </Box>
                    <Box component="td" sx={right}>
                      {one.pierces}
                    </Box>
                    <Box component="td" sx={right}>
                      {Math.round(one.seconds ?? 0)} s
                    </Box>
                    <td>
                      <Link component={RouterLink} to={to(one.part_id)}>
                        {named(one)}
                      </Link>
                      <Typography variant="caption" component="div" sx={{ color: 'text.secondary' }}>
                        {one.material}, {one.file}
                      </Typography>
                    </td>
                  </tr>
                ))}
              </tbody>
            </Box>
          )}
          {driven.length > 0 && (
            <Typography variant="caption" component="p" sx={{ color: 'text.secondary' }}>
              About {Math.max(1, Math.round(found.seconds / 60))} min for all that it takes. Feeds are of an invented
              table: your own machine takes another time, and may refuse more.
            </Typography>
          )}
          {found.left_out.length > 0 && (
            <Alert severity="warning" variant="outlined" sx={{ mt: 1 }}>
              Not tried: <Told>{found.left_out.map((one) => `${one.name} (${one.why})`).join('; ')}</Told>
            </Alert>
          )}
        </Box>
      )}
    </Section>
  )
}

const named = (one: { part: string; piece: string }) => (one.piece ? `${one.part}, ${one.piece}` : one.part)

const right = { textAlign: 'right !important', pr: '16px !important', whiteSpace: 'nowrap' }
