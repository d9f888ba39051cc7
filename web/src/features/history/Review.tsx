import { Box, Button, TextField, Typography } from '@mui/material'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { answer, api, type RevisionOut } from '../../api'
import { useMe } from '../../app/me'
import { newId } from '../../app/session'
import { Password } from '../../app/SignIn'
import { KeptLine, Problem } from '../../ui'

interface Props {
  revision: RevisionOut
  jobId: string
  not: string
}

/** The reviews of an issued revision: signed with the password typed again, withdrawn with a reason, both kept. */
export function Review({ revision, jobId, not }: Props) {
  const [open, setOpen] = useState(false)
  const me = useMe()
  const standing = revision.reviews.find((one) => one.withdrawn === null)
  const mine = standing && me?.me && (standing.name === me.me.name || me.me.role === 'owner')
  return (
    <Box>
      {revision.reviews.map((one) => (
        <KeptLine key={one.id} amber={one.withdrawn !== null}>
          Reviewed and signed by {one.name}, {new Date(one.at).toLocaleString()}. Limits: {one.limits}
          {one.withdrawn !== null && ` Withdrawn by ${one.withdrawn_by}: ${one.withdrawn}`}
        </KeptLine>
      ))}
      {(standing ? mine : true) && (
        <Button size="small" sx={{ p: 0, fontSize: 12 }} aria-expanded={open} onClick={() => setOpen(!open)}>
          {standing ? 'Withdraw the review' : 'Review it and sign'}
        </Button>
      )}
      {open && !standing && not && (
        <Typography variant="body2" sx={{ color: 'warning.main' }}>
          {not} {!me?.me && <Link to="/people">People</Link>}
        </Typography>
      )}
      {open && me?.me && (standing ? mine : !not) && (
        <Signing
          revision={revision}
          jobId={jobId}
          standing={standing?.id ?? null}
          name={me.me.name}
          done={() => setOpen(false)}
        />
      )}
    </Box>
  )
}

interface SigningProps {
  revision: RevisionOut
  jobId: string
  standing: string | null
  name: string
  done: () => void
}

function Signing({ revision, jobId, standing, name, done }: SigningProps) {
  const [words, setWords] = useState('')
  const [password, setPassword] = useState('')
  const [id] = useState(newId)
  const queries = useQueryClient()
  const sign = useMutation({
    mutationFn: () => {
      const path = { job_id: jobId }
      return standing
        ? answer(
            api.POST('/api/jobs/{job_id}/reviews/{review_id}/withdraw', {
              params: { path: { ...path, review_id: standing } },
              body: { why: words, password },
            }),
          )
        : answer(
            api.POST('/api/jobs/{job_id}/revisions/{number}/review', {
              params: { path: { ...path, number: revision.number } },
              body: { id, limits: words, password },
            }),
          )
    },
    onSuccess: async () => {
      await queries.invalidateQueries()
      done()
    },
  })
  return (
    <Box
      component="form"
      onSubmit={(event) => {
        event.preventDefault()
        sign.mutate()
      }}
      sx={{ display: 'grid', gap: 1, mt: 0.5 }}
    >
      {!standing && (
        <Typography variant="body2">
          Your name, the date and these limits stand on the sheets of rev {revision.number} instead of NOT REVIEWED. You
          answer for what you looked at; local rules and a licensed engineer’s duties stay what they are.
        </Typography>
      )}
      <TextField
        size="small"
        multiline
        minRows={2}
        label={standing ? 'Why' : 'What was looked at, and what was not'}
        value={words}
        onChange={(event) => setWords(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 2000 } }}
        sx={{ mt: 0.5 }}
      />
      <Password small label={`Password of ${name}, again`} value={password} onChange={setPassword} />
      {sign.error && <Problem error={sign.error} />}
      <Button
        type="submit"
        size="small"
        variant={standing ? 'outlined' : 'contained'}
        disabled={sign.isPending || !password || !words.trim()}
      >
        {sign.isPending ? 'Its sheets are being made' : standing ? 'Withdraw the review' : `Sign as ${name}`}
      </Button>
    </Box>
  )
}
