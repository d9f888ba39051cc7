import { Box, Button, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { answer, api, type StudyOut, type SuspensionEnd } from '../../api'
import { newId, useDesign, useTheSession } from '../../app/session'
import { studied } from '../../app/travel'
import { useUnits } from '../../quantity'
import { Problem, fileName, saveFile } from '../../ui'

/** Every length that is made after; links of the job are made from them and stay tied. */
export function Lengths({ end, rows }: { end: SuspensionEnd; rows: StudyOut['lengths'] }) {
  const session = useTheSession()
  const design = useDesign()
  const links = rows.filter((row) => row.is_link)
  const tied = design.parts.filter(
    (part) => 'between' in part && part.between.kind === 'end' && part.between.end_id === end.id,
  )
  const make = useMutation({
    mutationFn: async () => {
      const now = session.state().design
      const body = { design: now, end_id: end.id, ids: links.map(() => newId()), kinds: ['link'] }
      return answer(api.POST('/api/parts/of-end', { body }))
    },
    onSuccess: (patch) => session.patch('links of an end', patch),
  })
  const sheet = useMutation({
    mutationFn: async () => {
      const path = { job_id: session.state().jobId }
      const datum = (await answer(api.GET('/api/jobs/{job_id}/survey', { params: { path } }))).datum
      const words = datum && { floor: datum.floor, centre: datum.centre, zero: datum.zero, stands: datum.stands }
      const body = { design: studied(session.state().design), end_id: end.id, datum: words }
      return answer(api.POST('/api/ends/measuring-sheet.pdf', { body, parseAs: 'blob' }))
    },
    onSuccess: (pdf) =>
      saveFile(pdf as unknown as Blob, 'application/pdf', `${fileName(end.name)}-measuring-sheet.pdf`),
  })
  const left = links.length - tied.length
  return (
    <>
      {rows.map((row, i) => (
        <Row key={i} row={row} again={i > 0 && rows[i - 1]?.part === row.part} />
      ))}
      <Box sx={{ mt: 1 }}>
        {left > 0 && (
          <Button size="small" onClick={() => make.mutate()} disabled={make.isPending}>
            Make {left === links.length ? 'links' : `the other ${left} links`} of these
          </Button>
        )}
        <Button size="small" onClick={() => sheet.mutate()} disabled={sheet.isPending}>
          Measuring sheet, PDF
        </Button>
      </Box>
      {tied.length > 0 && (
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
          {tied.length} of the job’s links follow these points.
        </Typography>
      )}
      {(make.error ?? sheet.error) && <Problem error={make.error ?? sheet.error} />}
    </>
  )
}

function Row({ row, again }: { row: StudyOut['lengths'][number]; again: boolean }) {
  const { main, other } = useUnits()
  const unlike = row.right_mm !== null && Math.abs(row.right_mm - row.left_mm) > 0.005
  return (
    <Box sx={{ py: 0.4, borderTop: again ? 0 : 1, borderColor: 'divider' }}>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'baseline' }}>
        <Typography variant="body2" sx={{ flex: 1, minWidth: 0, fontWeight: again ? 400 : 600 }}>
          {again ? '' : row.part}
        </Typography>
        <Typography variant="body2" sx={(theme) => ({ fontFamily: theme.tirante.mono, fontWeight: 700 })}>
          {main(row.left_mm)}
        </Typography>
        <Typography variant="caption" sx={{ color: 'text.secondary', width: 76, textAlign: 'right' }}>
          {unlike ? `R ${main(row.right_mm ?? 0)}` : other(row.left_mm)}
        </Typography>
      </Box>
      {!row.is_link && (
        <Typography variant="caption" component="div" sx={{ color: 'text.secondary' }}>
          {row.what}
          {row.angle_deg !== null && ` · ${row.angle_deg.toFixed(2)}° opposite`}
        </Typography>
      )}
    </Box>
  )
}
