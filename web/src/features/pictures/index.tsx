import { Box, Button, Typography } from '@mui/material'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api, newId, sendPicture, type PictureOut } from '../../api'
import { FileButton, Problem, TextRow } from '../../ui'

const keyOf = (jobId: string) => ['pictures', jobId]

/** Where a picture's dots are. */
export const addressOf = (jobId: string, one: PictureOut) => `/api/jobs/${jobId}/pictures/${one.id}`

/** The pictures of a job, and how one is added: they are only added. */
export function usePictures(jobId: string) {
  const queries = useQueryClient()
  const found = useQuery({
    queryKey: keyOf(jobId),
    queryFn: () => answer(api.GET('/api/jobs/{job_id}/pictures', { params: { path: { job_id: jobId } } })),
    staleTime: 600_000, // opening a step asks nothing anew: a session that has ended is told when something is done
  })
  const add = useMutation({
    mutationFn: ({ file, of }: { file: File; of: Record<string, string> }) =>
      sendPicture(jobId, file, { id: newId(), ...of }),
    onSuccess: (after) => queries.setQueryData(keyOf(jobId), after),
  })
  return { pictures: found.data?.pictures ?? [], error: found.error, add }
}

/** A button that takes a picture, on a phone with its camera. */
export function TakePicture(props: { label: string; busy: boolean; big?: boolean; onFile: (file: File) => void }) {
  return (
    <FileButton
      label={props.label}
      accept="image/jpeg,image/png,image/webp"
      variant={props.big ? 'outlined' : 'text'}
      disabled={props.busy}
      camera={props.big}
      big={props.big}
      onFile={props.onFile}
    >
      {props.busy ? 'Keeping the picture' : props.label}
    </FileButton>
  )
}

interface StepPicturesProps {
  jobId: string
  part: { part_id: string; hand: string; metal: string }
  step: string
  big?: boolean
}

/** Pictures of one step of one hand: small, opened large by a press; and one more. */
export function StepPictures({ jobId, part, step, big }: StepPicturesProps) {
  const { pictures, add } = usePictures(jobId)
  const [open, setOpen] = useState<PictureOut | null>(null)
  const [told, setTold] = useState('')
  const own = pictures.filter((one) => one.part_id === part.part_id && one.hand === part.hand && one.step === step)
  const called = part.hand ? `Photograph, ${part.hand.toUpperCase()}` : 'Photograph'
  return (
    <Box sx={{ mt: 0.5 }}>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1 }}>
        {own.map((one) => (
          <Box
            key={one.id}
            component="button"
            onClick={() => setOpen(one)}
            aria-label={`Open the photograph of ${new Date(one.at).toLocaleString()}`}
            sx={{ all: 'unset', cursor: 'pointer', '&:focus-visible': { outline: 2 }, width: 96 }}
          >
            <Box
              component="img"
              loading="lazy"
              alt={`${one.told || 'Photograph'}${one.metal === part.metal ? '' : ', of other metal'}`}
              src={addressOf(jobId, one)}
              sx={{ width: 96, height: 72, objectFit: 'cover', display: 'block', border: 1, borderColor: 'divider' }}
            />
            <Typography variant="caption" sx={{ color: one.metal === part.metal ? 'text.secondary' : 'warning.main' }}>
              {[one.told, one.who || new Date(one.at).toLocaleDateString()].filter(Boolean).join(', ')}
              {one.metal !== part.metal && ', other metal'}
            </Typography>
          </Box>
        ))}
      </Box>
      {!big && <TextRow label="It shows" value={told} optional maxLength={200} onChange={setTold} />}
      <TakePicture
        label={called}
        busy={add.isPending}
        big={big}
        onFile={(file) =>
          add.mutate(
            { file, of: { sort: 'step', part_id: part.part_id, hand: part.hand, metal: part.metal, step, told } },
            { onSuccess: () => setTold('') },
          )
        }
      />
      {add.error && <Problem error={add.error} />}
      {open && (
        <Box
          role="dialog"
          aria-label="Photograph"
          sx={{
            ...{ position: 'fixed', inset: 0, zIndex: 1400, bgcolor: 'background.default', p: 2 },
            ...{ display: 'flex', flexDirection: 'column', gap: 1 },
          }}
        >
          <Box sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
            <Typography sx={{ flex: 1 }}>
              {new Date(open.at).toLocaleString()}
              {open.who && `, ${open.who}`}
              {open.told && `: ${open.told}`}
            </Typography>
            <Button autoFocus onClick={() => setOpen(null)}>
              Close
            </Button>
          </Box>
          <Box
            component="img"
            alt={open.told || 'Photograph'}
            src={addressOf(jobId, open)}
            sx={{ flex: 1, minHeight: 0, objectFit: 'contain' }}
          />
        </Box>
      )}
    </Box>
  )
}
