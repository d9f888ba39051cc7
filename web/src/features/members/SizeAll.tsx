import { Box, Button, LinearProgress, Typography } from '@mui/material'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { ApiProblem, answer, api, type AnyPart } from '../../api'
import { newId, useKinds, usePartsOf, useSessionPart, useTheSession } from '../../app/session'
import { Problem, Section, Segmented } from '../../ui'

type Aim = 'mass' | 'cost' | 'stocks'
const FOUND: Record<Aim, string> = { mass: 'lightest', cost: 'cheapest', stocks: 'fewest stocks' }

/** A search that was asked for: kept with the job, so that its answer is found when one comes back to the page. */
interface Asked {
  id: string
  aim: Aim
  parts: AnyPart[]
}

const keyOf = (jobId: string) => `tirante:size-all:${jobId}`
const under = (state: string | undefined) => state === 'queued' || state === 'running'

function lastAsked(jobId: string): Asked | null {
  try {
    return JSON.parse(localStorage.getItem(keyOf(jobId)) ?? 'null') as Asked | null
  } catch {
    return null
  }
}

function keepAsked(jobId: string, asked: Asked | null) {
  try {
    if (asked) localStorage.setItem(keyOf(jobId), JSON.stringify(asked))
    else localStorage.removeItem(keyOf(jobId))
  } catch {
    /* a full or forbidden storage: the answer is shown while the page stands */
  }
}

/** Every part of the job that the catalogue is searched for, sized together; what is found is shown first and taken when it is wanted. */
export function SizeAll() {
  const session = useTheSession()
  const kinds = useKinds()
  const members = usePartsOf('members')
  const jobId = useSessionPart((state) => state.jobId)
  const parts = members.filter((part) => kinds?.find((kind) => kind.key === part.kind)?.searched).length
  const [aim, setAim] = useState<Aim>('mass')
  const [asked, setAsked] = useState(() => lastAsked(jobId))
  const begin = useMutation({
    mutationFn: () => {
      const { design } = session.state()
      const next = { id: newId(), aim, parts: design.parts }
      keepAsked(jobId, next)
      setAsked(next)
      return answer(api.POST('/api/tasks/size-all', { body: { design, id: next.id, job_id: jobId, aim } }))
    },
  })
  // the search goes on while this page is left, and what it found is there when one comes back
  const task = useQuery({
    queryKey: ['task', asked?.id],
    queryFn: () => answer(api.GET('/api/tasks/{task_id}', { params: { path: { task_id: asked!.id } } })),
    enabled: asked !== null && !begin.isPending && !begin.error,
    refetchInterval: ({ state }) => (under(state.data?.state) ? 300 : false),
    retry: (count, error) => error instanceof ApiProblem && error.passing && count < 20,
  })
  const going =
    begin.isPending || (asked !== null && !begin.error && !task.error && under(task.data?.state ?? 'queued'))
  const found = asked && !going ? (task.data?.sized ?? null) : null
  const stop = () => {
    if (!asked) return
    const params = { path: { task_id: asked.id } }
    void api.POST('/api/tasks/{task_id}/stop', { params, body: {} }).then(() => task.refetch())
  }
  const { done = 0, of = 0 } = task.data ?? {}
  const forget = () => {
    keepAsked(jobId, null)
    setAsked(null)
  }
  const take = () => {
    if (!found || !asked) return
    // what was changed since the search began is not overwritten by what was found for it as it was
    const before = new Map(asked.parts.map((part) => [part.id, JSON.stringify(part)]))
    const now = new Map(session.state().design.parts.map((part) => [part.id, JSON.stringify(part)]))
    const stands = (id: string) => !before.has(id) || now.get(id) === before.get(id)
    const left = found.patch.parts.filter((part) => !stands(part.id))
    session.patch('size all', {
      ...found.patch,
      parts: found.patch.parts.filter((part) => stands(part.id)),
      told: [
        ...found.patch.told,
        ...left.map((part) => `${part.name} was changed since the search began: it stays as it is. Size it again.`),
      ],
    })
    forget()
  }
  const trouble = begin.error ?? (task.error instanceof ApiProblem && task.error.status === 404 ? null : task.error)
  return (
    <Section title="Size all" note="every part against every case; hardware that does not fit together is never tried">
      <Segmented
        label="What is to be least"
        fullWidth
        value={aim}
        onChange={(next) => {
          setAim(next)
          if (!going) forget()
        }}
        options={[
          { value: 'mass' as const, label: 'mass' },
          { value: 'cost' as const, label: 'cost' },
          { value: 'stocks' as const, label: 'stocks', title: 'the fewest different tubes on the rack' },
        ]}
      />
      <Box sx={{ display: 'flex', gap: 1, mt: 1 }}>
        <Button variant="contained" fullWidth onClick={() => begin.mutate()} disabled={going || parts === 0}>
          Size all
        </Button>
        {going && <Button onClick={stop}>Stop</Button>}
      </Box>
      {going && (
        <>
          <LinearProgress
            aria-label="Searching the catalogue"
            variant={of ? 'determinate' : 'indeterminate'}
            value={of ? (100 * done) / of : undefined}
            sx={{ mt: 1 }}
          />
          <Typography variant="caption" component="p" role="status" sx={{ m: 0 }}>
            {of ? `${done} of ${of} parts sized` : 'beginning'}; it goes on when this page is left
          </Typography>
        </>
      )}
      {Boolean(trouble) && (
        <Box sx={{ mt: 1 }}>
          <Problem error={trouble} />
        </Box>
      )}
      {!going && task.data?.state === 'failed' && (
        <Typography variant="body2" role="alert" sx={{ color: 'error.main', mt: 1 }}>
          {task.data.fault}
        </Typography>
      )}
      {!going && task.data?.state === 'cancelled' && (
        <Typography variant="caption" component="p" role="status">
          Stopped before it began.
        </Typography>
      )}
      {found && (
        <Box
          data-testid="size-all"
          sx={{ mt: 1.5, border: 1, borderColor: 'divider', p: 1.5, bgcolor: 'background.paper' }}
        >
          {found.parts.map((one) => (
            <Box key={one.part_id} sx={{ mb: 1 }}>
              <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 1 }}>
                <Typography sx={{ fontWeight: 600, color: one.sized ? 'text.primary' : 'error.main' }}>
                  {one.sized ? '' : '■ '}
                  {one.name}
                </Typography>
                {one.mass_kg !== null && (
                  <Typography sx={(theme) => ({ fontFamily: theme.tirante.mono, whiteSpace: 'nowrap' })}>
                    {one.mass_kg.toFixed(2)} kg
                  </Typography>
                )}
              </Box>
              <Typography variant="caption" component="p" sx={{ m: 0 }}>
                {one.sized && `${one.tube}, ${one.grade}; weakest: ${one.worst}`}
              </Typography>
              <Typography variant="caption" component="p" sx={{ m: 0, color: 'text.secondary' }}>
                {one.advice}
              </Typography>
            </Box>
          ))}
          <Typography variant="caption" component="p" sx={{ color: 'text.secondary', mt: 0 }}>
            {found.stopped && 'Stopped before all were sized. '}
            {FOUND[asked?.aim ?? aim]}: {found.mass_kg.toFixed(2)} kg, {found.stocks} different{' '}
            {found.stocks === 1 ? 'stock' : 'stocks'}; {found.considered.toLocaleString('en')} sets of parts fit
            together, {found.judged.toLocaleString('en')} came into question, in {found.seconds.toFixed(1)} s.
          </Typography>
          <Button variant="contained" size="small" onClick={take} disabled={found.parts.every((one) => !one.sized)}>
            Use these parts
          </Button>
        </Box>
      )}
    </Section>
  )
}
