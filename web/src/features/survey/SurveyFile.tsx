import { Box, Button } from '@mui/material'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { answer, api } from '../../api'
import { useSessionPart } from '../../app/session'
import { FileButton, Problem, fileName, saveText } from '../../ui'

/** All readings as a file; and such a file into a job that has none yet. */
export function SurveyFile({ empty }: { empty: boolean }) {
  const jobId = useSessionPart((state) => state.jobId)
  const name = useSessionPart((state) => state.design.name)
  const queries = useQueryClient()
  const params = { path: { job_id: jobId } }
  const save = useMutation({
    mutationFn: () => answer(api.GET('/api/jobs/{job_id}/survey/file', { params, parseAs: 'text' })),
    onSuccess: (text) => saveText(text as string, `${fileName(name)}-survey.json`, 'application/json'),
  })
  const read = useMutation({
    mutationFn: async (file: File) => {
      let body: unknown
      try {
        body = JSON.parse(await file.text())
      } catch {
        throw new Error('no JSON')
      }
      return answer(api.POST('/api/jobs/{job_id}/survey/file', { params, body: body as never }))
    },
    onSuccess: () => void queries.invalidateQueries({ queryKey: ['survey', jobId] }),
  })
  return (
    <Box sx={{ mb: 0.5 }}>
      {!empty && (
        <Button size="small" disabled={save.isPending} onClick={() => save.mutate()}>
          Save the readings as a file
        </Button>
      )}
      {empty && (
        <FileButton label="A file of readings" accept=".json,application/json" onFile={(file) => read.mutate(file)}>
          Read them in from a file
        </FileButton>
      )}
      {save.error && <Problem error={save.error} />}
      {read.error && <Problem error={read.error} />}
    </Box>
  )
}
