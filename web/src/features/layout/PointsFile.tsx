import { Box, Button } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { answer, api, type SuspensionEnd } from '../../api'
import { useTheSession } from '../../app/session'
import { studied } from '../../app/travel'
import { PastePoints } from './PastePoints'
import { FileButton, Problem, fileName, saveText } from '../../ui'

/** The points of an end as a file, out and in; a file with a fault changes nothing and names every bad row. */
export function PointsFile({
  end,
  onRead,
}: {
  end: SuspensionEnd
  onRead: (points: Record<string, number[]>) => void
}) {
  const session = useTheSession()
  const write = useMutation({
    mutationFn: () =>
      answer(api.POST('/api/points/write', { body: { design: studied(session.state().design), end_id: end.id } })),
    onSuccess: (found) => saveText(found.text, `${fileName(end.name)}-points.csv`),
  })
  const read = useMutation({
    mutationFn: async (chosen: File) => answer(api.POST('/api/points/read', { body: { text: await chosen.text() } })),
    onSuccess: (found) => onRead(found.points),
  })
  return (
    <Box sx={{ my: 1 }}>
      <Button size="small" onClick={() => write.mutate()}>
        Take away as CSV
      </Button>
      <FileButton label="Points file" accept=".csv,text/csv,.json" onFile={(file) => read.mutate(file)}>
        Load CSV or JSON
      </FileButton>
      <PastePoints end={end} onRead={onRead} />
      {(read.error ?? write.error) && <Problem error={read.error ?? write.error} />}
    </Box>
  )
}
