import { Alert, Box, Button, Typography } from '@mui/material'
import { useQuery } from '@tanstack/react-query'
import { Suspense, lazy, useEffect, useMemo, useState } from 'react'
import { Link as RouterLink, useParams } from 'react-router'
import {
  answer,
  api,
  useKeptAt,
  type BenchOut,
  type BenchPartOut,
  type MadePartOut,
  type PartChangedOut,
  type StepOut,
  type Unit,
} from '../../api'
import { NO_TRUST, useKeeping } from '../../app/away'
import { useMe } from '../../app/me'
import { Told, UnitsContext, styleOf } from '../../quantity'
import { Busy, Empty, Problem } from '../../ui'
import { called, Headline, MadeFigures, PartCard, PartChanged, VERDICT } from '../cards'
import { handsOf, stepsDone, useTicks, type Ticks } from './ticks'

const AFTER = 1200 // ms after the first card, so that it is light
const load = () => import('./Steps')
const Steps = lazy(async () => ({ default: (await load()).Steps }))

/** Whether the first card has stood for a while, so that what the others want may be fetched. */
function useLate() {
  const [late, setLate] = useState(false)
  useEffect(() => {
    const timer = setTimeout(() => {
      setLate(true)
      void load()
    }, AFTER)
    return () => clearTimeout(timer)
  }, [])
  return late
}

/** What was begun of every part, as the job now stands; undefined while it is asked, null where it cannot be. */
function useMade(jobId: string, late: boolean) {
  const found = useQuery({
    queryKey: ['bench', jobId, 'made'],
    queryFn: () => answer(api.GET('/api/jobs/{job_id}/made', { params: { path: { job_id: jobId } } })),
    enabled: late,
    refetchInterval: 60_000,
  })
  return found.data?.parts ?? (found.failureReason ? null : undefined)
}

/** What every part is made in, fetched once the first card stands, and kept here for when the server is away. */
function useSteps(jobId: string, draft: boolean, late: boolean) {
  const found = useQuery({
    queryKey: ['bench', jobId, 'steps', draft],
    queryFn: () => {
      const query = draft ? { draft: 1 } : {}
      return answer(api.GET('/api/jobs/{job_id}/bench/steps', { params: { path: { job_id: jobId }, query } }))
    },
    enabled: late,
    refetchInterval: 60_000,
  })
  return found.data?.steps
}

/** Beside the saw, on a phone: one card a part as it is issued, in large figures; swipe to the next. */
export function BenchView() {
  const { jobId = '' } = useParams()
  const [draft, setDraft] = useState(false)
  const found = useQuery({
    queryKey: ['bench', jobId, draft],
    queryFn: () =>
      answer(
        api.GET('/api/jobs/{job_id}/bench', {
          params: { path: { job_id: jobId }, query: draft ? { draft: 1 } : {} },
        }),
      ),
    staleTime: 0,
    refetchOnWindowFocus: true,
    refetchInterval: 60_000,
  })
  if (found.error && !found.data)
    return (
      <Box sx={{ p: 2 }}>
        <Problem error={found.error} retry={() => void found.refetch()} />
      </Box>
    )
  if (!found.data) return <Busy what="Fetching the cards" />
  return <Cards key={String(draft)} jobId={jobId} found={found.data} away={Boolean(found.error)} onDraft={setDraft} />
}

interface CardsProps {
  jobId: string
  found: BenchOut
  away: boolean
  onDraft: (draft: boolean) => void
}

function Cards({ jobId, found, away, onDraft }: CardsProps) {
  const late = useLate()
  const steps = useSteps(jobId, found.draft, late)
  const begun = useMade(jobId, late)
  const kept = useKeptAt()
  const keeping = useKeeping(Boolean(useMe()?.lan))
  const ticks = useTicks(jobId, found.draft ? null : (found.issued?.number ?? null))
  const [unit, setUnit] = useState<Unit>(found.settings.units)
  const units = useMemo(
    () => ({
      unit,
      style: styleOf(found.settings),
      toggle: () => setUnit((now) => (now === 'mm' ? 'in' : 'mm')),
    }),
    [unit, found.settings],
  )
  const changes = new Map(found.changes.map((one) => [one.part_id, one]))
  const here = new Set(found.parts.map((one) => one.id))
  const more = found.changes.filter((one) => !here.has(one.part_id))
  const lost = begun?.filter((one) => !here.has(one.part_id)) ?? []
  return (
    <UnitsContext value={units}>
      <Box sx={{ height: '100dvh', display: 'flex', flexDirection: 'column', bgcolor: 'background.default' }}>
        <Box component="header" sx={{ px: 2, py: 0.75, borderBottom: 1, borderColor: 'divider' }}>
          <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
            <Typography
              variant="h2"
              component={RouterLink}
              to="/"
              noWrap
              sx={{ flex: 1, color: 'text.primary', textDecoration: 'none' }}
            >
              {found.job}
            </Typography>
            <Button variant="outlined" size="large" onClick={units.toggle} aria-label="Units">
              {unit}
            </Button>
          </Box>
          <Stamp found={found} onDraft={onDraft} />
          {keeping !== undefined && keeping !== 'keeps' && (
            <Typography variant="body2" sx={{ color: 'warning.main' }}>
              {NO_TRUST}
            </Typography>
          )}
          {(away || kept || ticks.waiting > 0) && (
            <Typography role="status" sx={{ fontWeight: 700, color: 'warning.main' }}>
              {(away || kept) && 'The server is away. '}
              {kept && `These cards are as they were on ${new Date(kept).toLocaleString()}. `}
              {ticks.waiting > 0 &&
                `${ticks.waiting} ${ticks.waiting === 1 ? 'tick is' : 'ticks are'} kept here and sent when it answers.`}
            </Typography>
          )}
          {ticks.refused && <Problem error={ticks.refused} retry={ticks.again} />}
          {ticks.shut.length > 0 && (
            <Alert severity="warning" variant="outlined" onClose={ticks.seen}>
              Not kept. {ticks.shut.join(' ')}
            </Alert>
          )}
        </Box>
        <Box
          component="main"
          sx={{ flex: 1, minHeight: 0, display: 'flex', overflowX: 'auto', scrollSnapType: 'x mandatory' }}
          tabIndex={0}
          aria-label="Part cards, swipe to the next"
        >
          {found.parts.length === 0 && <Empty title="No part yet">Add parts on a larger screen.</Empty>}
          {found.parts.map((part, i) => (
            <Card
              key={part.id}
              jobId={jobId}
              part={part}
              place={`${i + 1} of ${found.parts.length}`}
              changed={changes.get(part.id)}
              begun={begun && begun.filter((one) => one.part_id === part.id)}
              lost={i === 0 ? lost : []}
              draft={found.draft}
              ticks={ticks}
              steps={steps?.[part.id]}
              more={i === 0 ? more.map((one) => one.name) : []}
            />
          ))}
          {found.not_here.length > 0 && (
            <Box
              component="article"
              tabIndex={0}
              aria-label="Not on these cards"
              sx={{ flex: '0 0 100%', scrollSnapAlign: 'start', overflowY: 'auto', p: 2, bgcolor: 'background.paper' }}
            >
              <Typography variant="h1" sx={{ fontSize: 24, mb: 1 }}>
                Not on these cards
              </Typography>
              {found.not_here.map((one) => (
                <Typography key={one} sx={{ mb: 1 }}>
                  <Told>{one}</Told>
                </Typography>
              ))}
            </Box>
          )}
        </Box>
      </Box>
    </UnitsContext>
  )
}

/** What these cards are of: the issued revision, or a draft; and whether a newer draft differs. */
function Stamp({ found, onDraft }: { found: BenchOut; onDraft: (draft: boolean) => void }) {
  const { issued, draft, changes } = found
  const many = changes.length
  return (
    <Box role="status" sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 1, alignItems: 'baseline' }}>
      {draft ? (
        <Typography sx={{ fontWeight: 700, color: 'warning.main' }}>DRAFT, not to cut from</Typography>
      ) : (
        <Typography sx={{ fontWeight: 700 }}>
          rev {issued?.number}, issued {issued && new Date(issued.sealed_at).toLocaleDateString()}
        </Typography>
      )}
      {!draft && issued && !issued.reviewer && (
        <Typography sx={{ fontWeight: 700, color: 'warning.main' }}>NOT REVIEWED</Typography>
      )}
      {!draft && issued?.reviewer && <Typography>reviewed by {issued.reviewer}</Typography>}
      {issued && !issued.current && !draft && (
        <Button size="small" color="warning" onClick={() => onDraft(true)} sx={{ p: 0 }}>
          a newer draft {many === 0 ? 'changes no part' : many === 1 ? 'changes 1 part' : `changes ${many} parts`}: see
          it
        </Button>
      )}
      {draft && issued && (
        <Button size="small" onClick={() => onDraft(false)} sx={{ p: 0 }}>
          back to rev {issued.number}, issued
        </Button>
      )}
      {draft && !issued && <Typography>nothing is issued yet</Typography>}
    </Box>
  )
}

/** Hands of a part of which the same is told, side by side. */
function together(begun: MadePartOut[]): [MadePartOut, ...MadePartOut[]][] {
  const found = new Map<string, [MadePartOut, ...MadePartOut[]]>()
  for (const one of begun) {
    const told = JSON.stringify({ ...one, hand: '' })
    const alike = found.get(told)
    if (alike) alike.push(one)
    else found.set(told, [one])
  }
  return [...found.values()]
}

/** What was done to it already, to one hand or to both alike, against the job as it now stands. */
function AsMade({ alike }: { alike: [MadePartOut, ...MadePartOut[]] }) {
  const [one] = alike
  const hand = one.hand && `${alike.map((each) => each.hand.toUpperCase()).join(' and ')}, `
  if (!one.askew) return <Typography sx={{ my: 1 }}>{`As made it fits: ${hand}${one.is_now}.`}</Typography>
  return (
    <Box sx={{ border: 2, borderColor: 'warning.main', p: 1.25, my: 1 }}>
      <Typography sx={{ fontWeight: 700 }}>
        As made: {hand}
        {one.is_now}: {one.verdict ? VERDICT[one.verdict] : 'not known'}
      </Typography>
      <Typography>
        <Told>{one.says}</Told>
      </Typography>
      <MadeFigures one={one} />
    </Box>
  )
}

/** How many are made of a part, and whether they are alike. */
const made = (part: BenchPartOut) =>
  part.side === 'pair' ? `pair: make 2, ${part.own_mirror ? 'both the same' : 'left and right differ'}` : part.side

/** What the bench needs of a part, whatever its kind: the lengths it is worked to, what to mind, how it is welded. */
function Card(props: {
  jobId: string
  part: BenchPartOut
  place: string
  changed: PartChangedOut | undefined
  begun: MadePartOut[] | null | undefined
  lost: MadePartOut[]
  draft: boolean
  ticks: Ticks
  steps: StepOut[] | undefined
  more: string[]
}) {
  const { jobId, part, place, changed, begun, lost, draft, ticks, steps, more } = props
  const [open, setOpen] = useState(false)
  const { card } = part
  return (
    <Box
      component="article"
      data-card={part.id}
      tabIndex={0}
      aria-label={part.name}
      sx={{ flex: '0 0 100%', scrollSnapAlign: 'start', overflowY: 'auto', p: 2, bgcolor: 'background.paper' }}
    >
      <Typography variant="h1" sx={{ fontSize: 24, overflowWrap: 'anywhere' }}>
        {part.name}
      </Typography>
      <Typography sx={{ color: 'text.secondary' }}>
        {part.word} · {made(part)} · {place}
      </Typography>
      {changed && (
        <Box sx={{ border: 2, borderColor: 'warning.main', p: 1.25, my: 1 }}>
          <Typography sx={{ fontWeight: 700 }}>
            {draft ? 'Other than issued' : 'A newer draft changes this'}: {VERDICT[changed.verdict]}
          </Typography>
          <PartChanged part={changed} big />
        </Box>
      )}
      {begun === null && (
        <Typography sx={{ my: 1, color: 'warning.main' }}>
          What was made of it already is not known here: the server does not say.
        </Typography>
      )}
      {lost.length > 0 && (
        <Typography sx={{ my: 1, color: 'warning.main' }}>
          Begun, and no card of it is here: {lost.map(called).join('; ')}.
        </Typography>
      )}
      {together(begun ?? []).map((alike) => (
        <AsMade key={alike[0].hand} alike={alike} />
      ))}
      {more.length > 0 && (
        <Typography sx={{ my: 1, color: 'warning.main' }}>
          {draft ? 'Issued, and not wanted any more' : 'In the newer draft alone'}: {more.join(', ')}.
        </Typography>
      )}
      {!card && (
        <Typography sx={{ my: 3, fontSize: 18 }}>
          <Told>{part.headline}</Told>
        </Typography>
      )}
      {card && (
        <>
          <PartCard card={card} draft={draft} />
          {part.steps > 0 && (
            <Button
              variant="contained"
              fullWidth
              disabled={!steps}
              onClick={() => setOpen(true)}
              sx={{ minHeight: 56, my: 2, fontSize: 18 }}
            >
              Step by step, {stepsDone(part, ticks)} of {part.steps * handsOf(part).length} done
            </Button>
          )}
          {part.steps === 0 && (
            <Typography sx={{ my: 1 }}>
              Its steps were not kept with this issue, and it is worked out otherwise now: go by its card and its
              sheets.
            </Typography>
          )}
          {part.otherwise > 0 && (
            <Typography sx={{ color: 'warning.main', fontWeight: 700 }}>
              {part.otherwise} {part.otherwise === 1 ? 'step was' : 'steps were'} ticked for it as it was once: what was
              made then is not this part.
            </Typography>
          )}
          {open && steps && (
            <Suspense fallback={null}>
              <Steps
                jobId={jobId}
                part={part}
                steps={steps}
                ticks={ticks}
                draft={draft}
                onClose={() => setOpen(false)}
              />
            </Suspense>
          )}
          <Box component="ul" sx={{ pl: 2.5, '& li': { fontSize: 16, mb: 1 } }}>
            {part.welding.map((note) => (
              <li key={note}>
                <Told>{note}</Told>
              </li>
            ))}
          </Box>
          <Headline part={part} />
        </>
      )}
    </Box>
  )
}
