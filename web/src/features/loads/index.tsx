import { Box, Button, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { answer, api, type LoadsOut } from '../../api'
import { useDesign, useSessionPart, useTheSession } from '../../app/session'
import { studied, useEnd, useEnds, useTravel } from '../../app/travel'
import { Drawn } from '../../drawing'
import { Busy, Empty, Fold, Problem, Repeats, Section, Segmented, saveText, SheetHead, StationLayout } from '../../ui'
import { CaseEditor } from './CaseEditor'
import { CaseList } from './CaseList'
import { WorstTable } from './WorstTable'
import { force, useLoadSets, useLoads } from './useLoads'

type Shown = 'forces' | 'worst'

/** Station 4: what every load case puts through the suspension, drawn on it, and the worst of every part. */
export function LoadsStation() {
  const jobId = useSessionPart((state) => state.jobId)
  const cases = useSessionPart((state) => state.design.loads.cases.length)
  const go = useNavigate()
  const end = useEnd()
  if (!end)
    return (
      <StationLayout
        sheet={
          <Empty title="Nothing to load yet">
            <p>Forces come from a suspension end. Lay one out at station 2 first.</p>
            <Button variant="contained" onClick={() => void go(`/jobs/${jobId}/layout`)}>
              To the layout
            </Button>
          </Empty>
        }
        panel={<Box />}
      />
    )
  if (cases === 0) return <NoSet />
  return <Loaded key={end.id} endId={end.id} name={end.name} />
}

const FOR: Record<string, string> = {
  road: 'potholes, kerbs, a panic stop',
  circuit: 'harder corners and brakes, kerbs ridden',
  'off-road': 'rocks, landings, long droop',
}

function SetChoice() {
  const session = useTheSession()
  const sets = useLoadSets()
  const name = useSessionPart((state) => state.design.loads.name)
  if (sets.error) return <Problem error={sets.error} retry={() => void sets.refetch()} />
  return (
    <>
      <Segmented
        label="Load set"
        fullWidth
        value={name}
        onChange={(chosen) => {
          const found = sets.data?.sets.find((one) => one.name === chosen)
          if (found) session.edit('load set', (now) => ({ ...now, loads: found }))
        }}
        options={(sets.data?.sets ?? []).map((one) => ({ value: one.name, label: one.name, title: FOR[one.name] }))}
      />
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary', mt: 0.5 }}>
        {name.endsWith('(changed)')
          ? `Was ${name.replace(' (changed)', '')}; changed here. Choosing a set puts its own cases back.`
          : (FOR[name] ?? 'Choose what the car is for; every factor is common practice and can be changed.')}
      </Typography>
    </>
  )
}

function NoSet() {
  return (
    <StationLayout
      sheet={
        <Empty title="What must it stand?">
          <p>
            Choose a set of load cases on the right. Each is common practice for its use, not a rule: look through them
            and change what your car sees. Then every link, joint, spring and stop has its forces here, and station 5
            sizes the links for them.
          </p>
        </Empty>
      }
      panel={
        <Box sx={{ p: 2.25 }}>
          <Section title="Load set">
            <SetChoice />
          </Section>
        </Box>
      }
    />
  )
}

function Loaded({ endId, name }: { endId: string; name: string }) {
  const design = useDesign()
  const ends = useEnds()
  const { move } = useTravel()
  const [chosen, setChosen] = useState<string | null>(null)
  const [view, setView] = useState<Shown>('forces')
  const [editing, setEditing] = useState(false)
  const [open, setOpen] = useState<string | null>(null)
  const found = useLoads(chosen)
  const csv = useMutation({
    mutationFn: () => answer(api.POST('/api/loads/pick-ups', { body: { design: studied(design), end_id: endId } })),
    onSuccess: (file) => saveText(file.text, 'pick-up-loads.csv'),
  })
  const choose = (one: string) => {
    setChosen(one)
    setView('forces')
  }
  const data = found.data
  const shown = data?.cases.find((one) => one.name === data.shown)
  return (
    <StationLayout
      sheet={
        <>
          <SheetHead
            title={<Typography variant="h1">{name}</Typography>}
            note={view === 'forces' ? shown?.name : 'the worst of every part'}
          >
            {ends.length > 1 && (
              <Segmented
                label="Which end"
                value={endId}
                onChange={(id) => move({ endId: id })}
                options={ends.map((one) => ({ value: one.id, label: one.name }))}
              />
            )}
            <Segmented
              label="What is shown"
              value={view}
              onChange={setView}
              options={[
                { value: 'forces', label: 'forces' },
                { value: 'worst', label: 'worst of each part' },
              ]}
            />
          </SheetHead>
          <Box sx={{ flex: 1, minHeight: 0, px: view === 'worst' ? 3 : 2, pb: 1 }}>
            {view === 'worst' && data && data.faults.length === 0 ? (
              <WorstTable found={data} onChoose={choose} />
            ) : data && data.faults.length === 0 && !data.drawing ? (
              <Empty title="No case could be worked out">What stands in the way is named beside each case.</Empty>
            ) : (
              <Drawn query={found} busy="Working out every case" empty="This cannot be put together" />
            )}
          </Box>
        </>
      }
      panel={
        <Box sx={{ p: 2.25, overflowY: 'auto' }}>
          <Section title="Load set">
            <SetChoice />
            <Button size="small" onClick={() => setEditing(!editing)} aria-expanded={editing}>
              {editing ? 'Back to the cases' : 'Change the cases'}
            </Button>
          </Section>
          {editing && <CaseEditor open={open} onOpen={setOpen} />}
          {!editing && !data && <Busy what="Working out every case" />}
          {!editing && data && (
            <>
              <CaseList found={data} onChoose={choose} />
              <Balance data={data} />
              <Button size="small" onClick={() => csv.mutate()} disabled={csv.isPending}>
                Pick-up points’ loads, CSV
              </Button>
              {csv.error && <Problem error={csv.error} />}
            </>
          )}
        </Box>
      }
    />
  )
}

const KIND: Record<string, string> = {
  spring: 'compressed',
  stop: 'compressed',
  strap: 'pulled',
  held: 'held',
  bar: 'twisted',
}

/** Springs, stops and what is held in the case shown; how well it all balances, and what is not covered. */
function Balance({ data }: { data: LoadsOut }) {
  const shown = data.cases.find((one) => one.name === data.shown)
  if (!shown) return null
  const rows = data.parts.filter((part) => part.kind in KIND && (part.force_n !== 0 || part.kind !== 'bar'))
  return (
    <Section title="In this case" note={`${data.bump}; ${data.droop}`}>
      {rows.map((part) => (
        <Box key={part.part} sx={{ display: 'flex', justifyContent: 'space-between', fontSize: 13.5 }}>
          <span>
            {part.part}, {KIND[part.kind]}
          </span>
          <Box component="span" sx={(theme) => ({ fontFamily: theme.tirante.mono })}>
            {part.kind === 'bar' || part.part.includes('turn') || part.part.includes('roll')
              ? `${(part.force_n / 1000).toFixed(1)} N·m`
              : force(part.force_n)}
          </Box>
        </Box>
      ))}
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary', mb: 0 }}>
        {shown.residual !== null && `All forces balance to ${shown.residual.toExponential(0)} of the load. `}
        {data.stiffness && `${data.stiffness[0]?.toUpperCase()}${data.stiffness.slice(1)}. `}
        Not in these figures: what the unsprung parts’ own weight takes off, and pitch and heave under braking. Steering
        arms, stub axles and uprights are not checked.
      </Typography>
      {data.command && (
        <Fold title="Working" note="Jᵀ f = w; docs/methods.md">
          <Repeats line={data.command} what="This line repeats the case:" />
        </Fold>
      )}
    </Section>
  )
}
