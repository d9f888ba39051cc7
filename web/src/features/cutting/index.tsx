import { Alert, Box, Button, Link, Typography } from '@mui/material'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { Link as RouterLink } from 'react-router'
import { answer, api } from '../../api'
import { newId, useSessionPart, useTheSession } from '../../app/session'
import { TaskBar, useTask } from '../../app/tasks'
import { Told, useUnits } from '../../quantity'
import { Busy, Empty, LongBody, Problem, Section, SheetHead, StationLayout } from '../../ui'
import { ChangesList, IssueDialog, MadeList, useChanges } from '../history'
import { cell } from './cell'
import { LessCertain } from './LessCertain'
import { PlateTable } from './PlateTable'
import { Kept } from './Kept'
import { Order } from './Order'
import { ChosenParts, Printed } from './Printed'
import { Sheets } from './Sheets'
import { Sticks } from './Sticks'

/** Station 8: what to saw and buy, and the pack to print and cut from. */
export function PackStation() {
  const evaluation = useSessionPart((state) => state.evaluation)
  const jobId = useSessionPart((state) => state.jobId)
  const list = evaluation?.cut_list
  const [scroll, setScroll] = useState<HTMLElement | null>(null)
  return (
    <StationLayout
      sheet={
        <>
          <SheetHead title={<Typography variant="h1">Cut list</Typography>} note="pairs are counted twice" />
          <Box
            ref={setScroll}
            tabIndex={0}
            role="region"
            aria-label="The list"
            sx={{ flex: 1, minHeight: 0, overflowY: 'auto', px: 3, pb: 3 }}
          >
            {!list && <Busy what="Working it out" />}
            {list && list.pieces.length === 0 && list.items.length === 0 && (
              <Empty title="Nothing to cut yet">
                <p>Parts with their stock chosen come here by themselves.</p>
                <Button variant="contained" component={RouterLink} to={`/jobs/${jobId}/members`}>
                  To the members
                </Button>
              </Empty>
            )}
            {list && list.left_out.length > 0 && (
              <Alert severity="warning" variant="outlined" sx={{ my: 1 }}>
                Left out of this list: <Told>{list.left_out.map((one) => `${one.name} (${one.why})`).join('; ')}</Told>.
              </Alert>
            )}
            <LessCertain />
            <Changed />
            {list && list.pieces.length > 0 && <Saw scroll={scroll} />}
            {list && list.pieces.length > 0 && <Sticks />}
            {list && list.items.length > 0 && <Sheets />}
            <Kept />
            {list && list.items.length > 0 && <Items />}
            {list && (list.items.length > 0 || list.pieces.length > 0) && <Order />}
            {list && list.items.length > 0 && <PlateTable />}
            <NotMade />
          </Box>
        </>
      }
      panel={<PackPanel />}
    />
  )
}

function Saw({ scroll }: { scroll: HTMLElement | null }) {
  const pieces = useSessionPart((state) => state.evaluation?.cut_list.pieces) ?? []
  const jobId = useSessionPart((state) => state.jobId)
  const { main, other } = useUnits()
  // as a person saws: all of one tube together, under its name
  const listed = pieces.flatMap((piece, i) => {
    const stock = `${piece.tube}, ${piece.grade}`
    const before = pieces[i - 1]
    const same = before && before.tube === piece.tube && before.grade === piece.grade
    return same
      ? [{ piece, stock: null }]
      : [
          { piece: null, stock },
          { piece, stock: null },
        ]
  })
  return (
    <Section title="Saw">
      <Box component="table" sx={cell} aria-label="Saw" aria-rowcount={listed.length + 1}>
        <thead>
          <tr>
            <th>pieces</th>
            <Box component="th" sx={{ textAlign: 'right !important', pr: 2 }}>
              length
            </Box>
            <th aria-label="in the other unit" />
            <th>each</th>
            <th title="round the tube, from the first end’s long side to the second’s, right-handed as one looks from first to second">
              ends; turned
            </th>
            <th>for</th>
          </tr>
        </thead>
        <LongBody
          scroll={scroll}
          rows={listed}
          columns={6}
          height={33}
          row={({ piece, stock }, given) =>
            piece === null ? (
              <tr key={stock} {...given}>
                <Box
                  component="th"
                  scope="rowgroup"
                  colSpan={6}
                  sx={{ color: 'text.primary !important', pt: '10px !important' }}
                >
                  {stock}
                </Box>
              </tr>
            ) : (
              <tr key={piece.key} {...given}>
                <td>{piece.count} ×</td>
                <Box
                  component="td"
                  sx={(theme) => ({
                    fontFamily: theme.tirante.mono,
                    fontWeight: 700,
                    textAlign: 'right',
                    fontSize: '16px !important',
                    whiteSpace: 'nowrap',
                  })}
                >
                  {main(piece.length_mm)}
                </Box>
                <Box component="td" sx={{ color: 'text.secondary', whiteSpace: 'nowrap' }}>
                  {other(piece.length_mm)}
                </Box>
                <Box component="td" sx={{ whiteSpace: 'nowrap' }}>
                  {piece.mass_kg === null ? '' : kilograms(piece.mass_kg)}
                </Box>
                <td>
                  <Told>{[piece.at_ends, piece.turned].filter(Boolean).join('; ')}</Told>
                </td>
                <td>
                  <Link component={RouterLink} to={`/jobs/${jobId}/members/${piece.part_id}`}>
                    {piece.part} ({piece.side})
                  </Link>
                  {piece.off_mm !== null ? `. ${piece.told}: ${main(piece.off_mm)}` : piece.told && `, ${piece.told}`}
                </td>
              </tr>
            )
          }
        />
      </Box>
    </Section>
  )
}

const kilograms = (mass: number) => `${mass.toFixed(mass < 1 ? 3 : 2)} kg`

/** What was made to what is issued, and does not fit this list any more. */
function Changed() {
  const { data } = useChanges()
  if (!data?.since || (data.parts.length === 0 && data.otherwise.length === 0)) return null
  return (
    <Section title={`Changed since rev ${data.since.number} was issued`} note="of parts that may have been made to it">
      <ChangesList found={data} />
      <Typography variant="h3" component="h3" sx={{ mt: 2, mb: 0.5 }}>
        What was made of it
      </Typography>
      <MadeList />
    </Section>
  )
}

/** What moves at the job's ends and is on no list, so that nobody takes the list for all of it. */
function NotMade() {
  const rows = useSessionPart((state) => state.evaluation?.not_made) ?? []
  if (rows.length === 0) return null
  return (
    <Section title="Not on this list" note="it moves at the suspension’s ends, and is no part of this job">
      {rows.map((row) => (
        <Typography key={`${row.end_id}${row.name}`} variant="body2" sx={{ color: 'text.secondary' }}>
          {row.end}, {row.name}: <Told>{row.why}</Told>
        </Typography>
      ))}
    </Section>
  )
}

function Items() {
  const evaluation = useSessionPart((state) => state.evaluation)
  return (
    <Section title="Have or buy">
      <Box component="table" sx={cell}>
        <tbody>
          {evaluation?.cut_list.items.map((item) => (
            <tr key={`${item.kind}${item.what}${item.hand}`}>
              <Box component="td" sx={{ width: 76, whiteSpace: 'nowrap' }}>
                {item.count ? `${item.count} ×` : 'as needed'}
              </Box>
              <Box component="td" sx={{ width: 76 }}>
                {item.kind}
              </Box>
              <Box
                component="td"
                sx={(theme) => ({
                  width: 44,
                  fontFamily: theme.tirante.mono,
                  fontWeight: item.hand === 'LH' ? 700 : 400,
                })}
              >
                {item.hand === 'LH' ? (
                  <Box component="span" sx={{ border: 1.5, borderRadius: '50%', px: '3px' }}>
                    LH
                  </Box>
                ) : (
                  item.hand
                )}
              </Box>
              <td>
                <Told>{item.what}</Told>
                {item.mass_kg !== null && `, together ${kilograms(item.mass_kg)}`}
              </td>
            </tr>
          ))}
        </tbody>
      </Box>
    </Section>
  )
}

/** A pack that was asked for. */
interface Asked {
  id: string
  what: 'pack.zip' | 'pack.pdf'
  revision: number | null
  parts?: string[] | null
}

function PackPanel() {
  const session = useTheSession()
  const jobId = useSessionPart((state) => state.jobId)
  const version = useSessionPart((state) => state.version)
  const [history, setHistory] = useState(false)
  const revisions = useQuery({
    queryKey: ['revisions', jobId, version, history],
    queryFn: () => answer(api.GET('/api/jobs/{job_id}/revisions', { params: { path: { job_id: jobId } } })),
    staleTime: 0,
  })
  const issued = revisions.data?.revisions.find((revision) => revision.kind === 'issued')
  const base = `/api/jobs/${jobId}`
  const fetchIt = useMutation({
    mutationFn: async (what: string) => {
      if (!(await session.saveNow())) throw new Error('not saved')
      window.location.assign(`${base}/${what}`)
    },
    onSuccess: () => void setTimeout(() => void revisions.refetch(), 1500),
  })
  const pack = useTask<Asked>('pack', jobId, async ({ id, what, revision, parts = null }) => {
    if (revision === null && !(await session.saveNow())) throw new Error('not saved')
    return answer(api.POST('/api/tasks/pack', { body: { id, job_id: jobId, what, revision, parts } }))
  })
  const make = (what: Asked['what'], revision: number | null = null, parts: string[] | null = null) =>
    pack.begin({ id: newId(), what, revision, parts })
  // one that was asked for here is fetched as soon as it is made; one that is found again waits for its button
  const awaited = useRef<string | null>(null)
  const file = pack.came?.file ? `/api/tasks/${pack.came.id}/file` : null
  useEffect(() => {
    if (pack.going) awaited.current = pack.asked?.id ?? null
    else if (file && awaited.current === pack.came?.id) {
      awaited.current = null
      window.location.assign(file)
      void revisions.refetch()
    }
  }, [pack.going, pack.asked?.id, pack.came?.id, file, revisions])
  return (
    <Box sx={{ p: 2.25, overflowY: 'auto' }}>
      <Section title="To build from">
        {issued ? (
          <>
            <Typography variant="body2" sx={{ mb: 1 }}>
              rev {issued.number}, “{issued.name}”, issued {new Date(issued.sealed_at).toLocaleDateString()}
              {issued.reviewer ? `, reviewed by ${issued.reviewer}` : '. NOT REVIEWED stands on every page'}.
              {!issued.current && ' The job has changed since.'}
              {issued.engine === null &&
                ' It was issued before its sheets were kept: they are worked out anew, and may differ from those in the shop.'}
            </Typography>
            <Button
              variant="contained"
              fullWidth
              sx={{ mb: 1 }}
              disabled={pack.going}
              onClick={() => make('pack.zip', issued.number)}
            >
              Pack of rev {issued.number}
            </Button>
            <Button variant="outlined" fullWidth disabled={pack.going} onClick={() => make('pack.pdf', issued.number)}>
              Its sheets, PDF
            </Button>
          </>
        ) : (
          <Typography variant="body2" sx={{ mb: 1 }}>
            Nothing is issued yet. Sheets printed now carry DRAFT.
          </Typography>
        )}
        <Button fullWidth variant={issued ? 'text' : 'contained'} sx={{ mt: 1 }} onClick={() => setHistory(true)}>
          Issue the job as it stands
        </Button>
      </Section>
      <Section title="As it stands now" note="marked DRAFT, to look at and to check">
        <Box sx={{ display: 'grid', gap: 1 }}>
          <Button variant="outlined" disabled={pack.going} onClick={() => make('pack.zip')}>
            Pack: PDF, DXF, SVG, CSV, JSON
          </Button>
          <Button variant="outlined" disabled={pack.going} onClick={() => make('pack.pdf')}>
            Sheets, PDF
          </Button>
          <Button variant="outlined" onClick={() => fetchIt.mutate('cut-list.csv')}>
            Cut list, CSV
          </Button>
          <Button variant="outlined" onClick={() => fetchIt.mutate('export')}>
            Design file, JSON
          </Button>
        </Box>
      </Section>
      <ChosenParts
        going={pack.going}
        issued={issued?.number ?? null}
        onMake={(what, parts) => make(what, issued?.number ?? null, parts)}
      />
      {fetchIt.error && <Problem error={fetchIt.error} />}
      <TaskBar going={pack.going} task={pack.task} trouble={pack.trouble} label="Making the pack" what="parts drawn" />
      {pack.going && <Button onClick={pack.stop}>Stop</Button>}
      {file && (
        <Typography variant="body2" sx={{ mt: 1 }}>
          Made: <Link href={file}>{pack.came?.file}</Link>
        </Typography>
      )}
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary' }}>
        Print at 100 %. Each 1:1 sheet has a 100 mm and a 4 in bar: measure them before you cut.
      </Typography>
      <Link component={RouterLink} to={`/bench/${jobId}`} variant="body2" sx={{ display: 'block', my: 1 }}>
        Cards for the bench, step by step
      </Link>
      <Printed version={`${version} ${pack.came?.id}`} />
      {history && <IssueDialog onClose={() => setHistory(false)} />}
    </Box>
  )
}
