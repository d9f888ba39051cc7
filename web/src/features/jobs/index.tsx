import { Box, Button, TextField, Typography } from '@mui/material'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useEffect, useRef, useState, type RefObject } from 'react'
import { Link as RouterLink, useNavigate } from 'react-router'
import { ApiProblem, answer, api, inTurn, type Design, type GlanceOut, type JobOut } from '../../api'
import { useMe } from '../../app/me'
import { newId } from '../../app/session'
import { DrawingView } from '../../drawing'
import { Busy, Problem, StateMark } from '../../ui'

/** All jobs; start one, or open a design file. */
export function JobsView() {
  const go = useNavigate()
  const me = useMe()
  const [name, setName] = useState('')
  const file = useRef<HTMLInputElement>(null)
  const list = useQuery({ queryKey: ['jobs'], queryFn: () => answer(api.GET('/api/jobs')), staleTime: 0 })
  const create = useMutation({
    mutationFn: (wanted: string) => answer(api.POST('/api/jobs', { body: { id: newId(), name: wanted } })),
    onSuccess: (draft) => go(`/jobs/${draft.job_id}`),
  })
  const load = useMutation({
    mutationFn: async (chosen: File) => {
      let design: Design
      try {
        design = JSON.parse(await chosen.text()) as Design
      } catch {
        throw new ApiProblem(422, {
          code: 'not_json',
          message: `${chosen.name} is not a design file: it is not JSON.`,
          issues: [],
          request_id: null,
          current: null,
        })
      }
      return answer(api.POST('/api/import', { body: { id: newId(), design } }))
    },
    onSuccess: (draft) => go(`/jobs/${draft.job_id}`),
  })
  const start = () => name.trim() && create.mutate(name.trim())
  return (
    <Box sx={{ height: '100vh', overflow: 'auto', bgcolor: 'background.default' }}>
      <Box component="main" sx={{ maxWidth: 980, mx: 'auto', p: { xs: 2, sm: 4 } }}>
        <Typography variant="h1" sx={{ fontSize: 26, mb: 0.5 }}>
          Tirante
        </Typography>
        <Typography sx={{ color: 'text.secondary', mb: 3, maxWidth: 620 }}>
          From chosen pivots to links you can saw, tabs you can cut and the jig to weld them in, every figure with its
          reason.
        </Typography>
        <Box
          sx={{
            display: 'grid',
            gridTemplateColumns: 'repeat(auto-fit, minmax(min(100%, 340px), 1fr))',
            gap: 3,
            alignItems: 'start',
          }}
        >
          <Box component="section" aria-label="Your jobs">
            <Typography variant="h2" gutterBottom>
              A job of your own
            </Typography>
            <Box sx={{ display: 'flex', gap: 1.5, mb: 1.5, flexWrap: 'wrap', alignItems: 'center' }}>
              <TextField
                size="small"
                label="Name of a new job"
                value={name}
                onChange={(event) => setName(event.target.value)}
                onKeyDown={(event) => event.key === 'Enter' && start()}
                error={name.length > 80}
                helperText={name.length > 80 ? `At most 80 characters; this has ${name.length}.` : undefined}
              />
              <Button
                variant="contained"
                disabled={!name.trim() || name.length > 80 || create.isPending}
                onClick={start}
              >
                Start a job
              </Button>
              <Button variant="outlined" onClick={() => file.current?.click()} disabled={load.isPending}>
                Open a design file
              </Button>
            </Box>
            {list.data && <Rows jobs={list.data.jobs.filter((job) => !job.demo)} none="No job of yours yet." />}
          </Box>
          <Box component="section" aria-label="Demo jobs">
            <Typography variant="h2" gutterBottom>
              The demo
            </Typography>
            <Typography variant="body2" sx={{ color: 'text.secondary', mb: 1.5 }}>
              Whole jobs with invented numbers, to look round in and to change at will.
            </Typography>
            {list.data && (
              <Rows jobs={list.data.jobs.filter((job) => job.demo)} none="The demo jobs were not put in here." />
            )}
          </Box>
        </Box>
        {list.isPending && <Busy what="Reading the jobs" />}
        {list.error && <Problem error={list.error} retry={() => void list.refetch()} />}
        <Box sx={{ mt: 3, display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
          <input
            ref={file}
            type="file"
            accept=".json,application/json"
            hidden
            aria-label="Design file"
            onChange={(event) => {
              const chosen = event.target.files?.[0]
              if (chosen) load.mutate(chosen)
              event.target.value = ''
            }}
          />
          <Button component={RouterLink} to="/rack">
            The shop’s rack
          </Button>
          <Button component={RouterLink} to="/catalogue">
            Catalogue of parts
          </Button>
          <Button component={RouterLink} to="/people">
            {me?.me ? `People: ${me.me.name} is signed in` : 'People'}
          </Button>
        </Box>
        {(create.error ?? load.error) && (
          <Box sx={{ mt: 2 }}>
            <Problem error={create.error ?? load.error} />
          </Box>
        )}
        <Typography variant="body2" sx={{ mt: 4, color: 'text.secondary', maxWidth: 620 }}>
          A margin shown here is not an approval. Everyday life is a first estimate; impact, weld quality, corrosion and
          the structure behind a bracket are not checked. Follow your local construction rules and have a licensed
          engineer or certifier pass a road or race car.
        </Typography>
      </Box>
    </Box>
  )
}

/** Jobs to open, the one saved last first. */
function Rows({ jobs, none }: { jobs: JobOut[]; none: string }) {
  if (jobs.length === 0)
    return (
      <Typography variant="body2" sx={{ color: 'text.secondary' }}>
        {none}
      </Typography>
    )
  return (
    <Box sx={{ bgcolor: 'background.paper', border: 1, borderColor: 'divider' }}>
      {jobs.map((job) => (
        <Row key={job.id} job={job} />
      ))}
    </Box>
  )
}

function Row({ job }: { job: JobOut }) {
  const row = useRef<HTMLAnchorElement>(null)
  const seen = useSeen(row)
  const { data } = useQuery({
    queryKey: ['glance', job.id, job.version],
    queryFn: ({ signal }) =>
      inTurn(signal, () =>
        answer(api.GET('/api/jobs/{job_id}/glance', { params: { path: { job_id: job.id } }, signal })),
      ),
    staleTime: 60_000,
    enabled: seen,
  })
  return (
    <Box
      component={RouterLink}
      ref={row}
      to={`/jobs/${job.id}`}
      sx={{
        display: 'flex', alignItems: 'center', columnGap: 2, px: 1.5, py: 1, borderBottom: 1, borderColor: 'divider',
        textDecoration: 'none', color: 'text.primary', '&:last-child': { borderBottom: 0 }, '&:hover': { color: 'primary.main' },
      }} // prettier-ignore
    >
      <Box sx={{ width: 84, height: 56, flexShrink: 0 }} aria-hidden>
        {data?.drawing && <DrawingView drawing={data.drawing} />}
      </Box>
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Typography variant="h3" component="span" sx={{ overflowWrap: 'anywhere' }}>
          {job.name}
        </Typography>
        {data && <State of={data} />}
        <Typography variant="caption" component="div" sx={{ color: 'text.secondary' }}>
          saved {new Date(job.saved_at).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' })}
        </Typography>
      </Box>
    </Box>
  )
}

/** What stands of a job: what is to be settled, the gravest first, and whether it is issued. */
function State({ of }: { of: GlanceOut }) {
  const told = [
    of.stop > 0 && `${of.stop} that ${of.stop === 1 ? 'does' : 'do'} not hold`,
    of.attention > 0 && `${of.attention} close to the limit or asked about`,
    of.incomplete > 0 && `${of.incomplete} not complete`,
  ].filter(Boolean)
  const state = of.stop > 0 ? 'stop' : of.attention > 0 ? 'attention' : of.incomplete > 0 ? 'in hand' : 'good'
  const issued = of.issued === null ? 'nothing issued' : `rev ${of.issued} issued${of.current ? '' : ', changed since'}`
  return (
    <Typography variant="body2" component="div">
      {of.parts === 0 ? 'no part yet' : <StateMark state={state} />}{' '}
      {told.join(', ') || (of.parts > 0 && 'nothing to settle')}
      {' · '}
      {issued}
    </Typography>
  )
}

/** Whether something has come into sight yet: what is far down a long list is not asked for before. */
function useSeen(of: RefObject<Element | null>): boolean {
  const [seen, setSeen] = useState(false)
  useEffect(() => {
    if (!of.current || seen) return undefined
    const watch = new IntersectionObserver((entries) => entries.some((one) => one.isIntersecting) && setSeen(true), {
      rootMargin: '200px',
    })
    watch.observe(of.current)
    return () => watch.disconnect()
  }, [of, seen])
  return seen
}
