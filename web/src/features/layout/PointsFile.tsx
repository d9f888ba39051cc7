import { Box, Button } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { useRef } from 'react'
import { answer, api, type Design } from '../../api'
import { useSession } from '../../app/session'
import { Problem, saveText } from '../../ui'

/** The points of an end as a CSV file, out and in; a file with a fault changes nothing and names every bad row. */
export function PointsFile({
  end,
  onRead,
}: {
  end: Design['ends'][number]
  onRead: (points: Record<string, number[]>) => void
}) {
  const { session } = useSession()
  const file = useRef<HTMLInputElement>(null)
  const write = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/points/write', {
          body: { design: { ...session.state().design, links: [] }, end_id: end.id, roll_deg: 0, steer_mm: 0 },
        }),
      ),
    onSuccess: (found) => saveText(found.text, `${end.name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}-points.csv`),
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
      <Button size="small" onClick={() => file.current?.click()}>
        Load from CSV
      </Button>
      <input
        ref={file}
        type="file"
        accept=".csv,text/csv"
        hidden
        aria-label="Points file"
        onChange={(event) => {
          const chosen = event.target.files?.[0]
          if (chosen) read.mutate(chosen)
          event.target.value = ''
        }}
      />
      {(read.error ?? write.error) && <Problem error={read.error ?? write.error} />}
    </Box>
  )
}
