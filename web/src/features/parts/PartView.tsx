import { Box, Button, Typography } from '@mui/material'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate, useSearchParams } from 'react-router'
import { type Design } from '../../api'
import { useDesign, useKinds, usePart } from '../../app/session'
import { useEarly } from '../../app/travel'
import { DrawingView, drawingOf, useDrawing } from '../../drawing'
import { useUnits } from '../../quantity'
import { Busy, PanelTabs, Pick, Problem, Segmented, SheetHead, StationLayout } from '../../ui'
import { AdjusterSteps } from './AdjusterSteps'
import { ChecksPanel } from './ChecksPanel'
import { HolesPanel, ShimsPanel } from './HolesPanel'
import { JigChecks } from './JigChecks'
import { MadePanel } from './MadePanel'
import { NotYet } from './NotYet'
import { PartPanel } from './PartPanel'
import { RoomPanel } from './RoomPanel'
import { SizePanel } from './SizePanel'
import { fieldOf, refsOf } from './refs'
import { useSchool } from './useSchool'

const MOST_BESIDE = 5 // views that stand beside each other: more are chosen from a list

const SIDES = { pair: 'pair · make 2', left: 'left', right: 'right', centre: 'centre' }
/** What of a design the drawing of a part may hang on. */
const SHOWN = ({ parts, joints, mounts, settings, catalogue, ends, car, loads }: Design): unknown[] => [
  parts,
  joints,
  mounts,
  settings,
  catalogue,
  ends,
  car,
  loads,
]
type PanelName = 'hold' | 'set' | 'size' | 'made' | 'holes' | 'room'

/** One part, whatever its kind: drawn to scale on the sheet; what holds, what is set and sizing in the panel. */
export function PartView({ partId }: { partId: string }) {
  const design = useDesign()
  const { part, result } = usePart(partId)
  const kind = useKinds()?.find((one) => one.key === part?.kind)
  const { unit } = useUnits()
  const [search, setSearch] = useSearchParams()
  const go = useNavigate()
  const [end, setEnd] = useState(1)
  const [turns, setTurns] = useState(0)
  const [chosenView, setView] = useState<string | null>(null)
  const selection = search.get('show')
  const unfinished = result?.status === 'incomplete' && !result.complete
  // what was begun by hand stays there when the last field makes it whole: nobody's field is taken from under the cursor
  const [begun, setBegun] = useState(false)
  const holed = part !== undefined && 'holes' in part && Boolean(part.holes)
  const roomy = kind?.has_room ?? false
  // of a pick-up on the car's own body: what its shims make of the end
  const shimmed = design.joints.some(
    (one) =>
      one.by === partId &&
      one.held.kind !== 'point' &&
      design.mounts.some((mount) => mount.id === one.mount && mount.body === 'ground'),
  )
  const wished =
    (search.get('panel') as PanelName | null) ?? panelFor(selection, fieldOf(selection, kind), unfinished || begun)
  const lacking =
    (wished === 'size' && !kind?.searched) ||
    (wished === 'holes' && !holed && !shimmed) ||
    (wished === 'room' && !roomy)
  const panel = lacking ? 'hold' : wished
  const tool = kind?.station === 'jigs'
  // how it is held while it is welded stands at a station of its own
  const views = result?.views.filter((one) => one.name !== result.jig?.view) ?? []
  const view = views.find((one) => one.name === chosenView)?.name ?? views[0]?.name ?? 'drawing'
  const wanted = { design, partId, view: result ? view : undefined, unit, end, turns }
  const drawn = useDrawing(wanted)
  const queries = useQueryClient()
  useEarly((now) => void queries.prefetchQuery(drawingOf({ ...wanted, design: now })), wanted.view !== undefined, SHOWN)
  if (!part) return null

  const show = (ref: string | null, where?: PanelName) => {
    setBegun(false)
    setSearch(
      (now) => {
        now.delete('panel')
        if (ref) now.set('show', ref)
        else now.delete('show')
        if (where) now.set('panel', where)
        return now
      },
      { replace: true },
    )
  }
  const pick = (ref: string) => {
    if (ref === 'end:a' || ref === 'end:b') setEnd(ref === 'end:a' ? 0 : 1)
    show(ref, ref.startsWith('check:') ? 'hold' : fieldOf(ref, kind) ? 'set' : undefined)
  }
  const drawing = drawn.data?.drawing
  const unlike = result ? !result.own_mirror : false
  return (
    <StationLayout
      sheet={
        <>
          <SheetHead
            title={
              <Typography variant="h1" noWrap sx={{ maxWidth: 280 }} title={part.name}>
                {part.name}
              </Typography>
            }
            note={
              tool
                ? (kind?.word ?? '')
                : `${kind?.word ?? ''} · ${SIDES[part.side]}${part.side !== 'pair' ? '' : unlike ? ', left and right differ' : ', both alike'}`
            }
          >
            {part.kind === 'link' && <SchoolHere partId={partId} />}
            {part.kind === 'link' && (
              <Segmented
                label="End in section"
                value={String(end)}
                onChange={(value) => setEnd(Number(value))}
                options={[
                  { value: '0', label: 'end A' },
                  { value: '1', label: 'end B' },
                ]}
              />
            )}
            {views.length > MOST_BESIDE && (
              <Box sx={{ width: 300 }}>
                <Pick
                  label="View"
                  value={view}
                  onChange={setView}
                  options={views.map((one) => ({ value: one.name, label: one.title }))}
                />
              </Box>
            )}
            {views.length > 1 && views.length <= MOST_BESIDE && (
              <Segmented
                label="View"
                value={view}
                onChange={setView}
                options={views.map((one) => ({ value: one.name, label: one.title }))}
              />
            )}
          </SheetHead>
          <Box sx={{ flex: 1, minHeight: 0, px: 2, position: 'relative' }}>
            {drawn.error && <Problem error={drawn.error} retry={() => void drawn.refetch()} />}
            {drawn.isPending && <Busy what="Drawing it" />}
            {drawing && (
              <DrawingView drawing={drawing} selected={refsOf(selection, result?.checks ?? [])} onSelect={pick} />
            )}
            {drawn.data && !drawing && (
              <NotYet
                result={result}
                onSize={kind?.searched ? () => show(null, 'size') : undefined}
                onSet={() => show(null, 'set')}
              />
            )}
          </Box>
          {panel !== 'hold' && result && result.notes.length > 0 && (
            <Box sx={{ px: 3, pb: 1.5, color: 'warning.main', fontSize: 13.5 }} role="status">
              {result.notes.map((note) => (
                <Box key={note}>▲ {note}</Box>
              ))}
            </Box>
          )}
          {drawn.data?.adjuster && <AdjusterSteps adjuster={drawn.data.adjuster} turns={turns} onTurn={setTurns} />}
        </>
      }
      panel={
        <>
          <PanelTabs
            value={panel}
            onChange={(value) => show(selection, value)}
            tabs={[
              { value: 'hold', label: tool ? 'Check list' : 'Will it hold?' },
              { value: 'set', label: 'What it is' },
              ...(kind?.searched ? [{ value: 'size' as const, label: 'Size it' }] : []),
              { value: 'made', label: 'How it is made' },
              ...(holed || shimmed ? [{ value: 'holes' as const, label: holed ? 'Holes' : 'Shims' }] : []),
              ...(roomy ? [{ value: 'room' as const, label: 'Room' }] : []),
            ]}
          />
          <Box
            sx={{ flex: 1, overflowY: 'auto', p: 2.25, minHeight: 0 }}
            role="tabpanel"
            tabIndex={0}
            aria-label="The part"
            onFocus={() => unfinished && panel === 'set' && setBegun(true)}
          >
            {panel === 'hold' && tool && <JigChecks partId={partId} />}
            {panel === 'hold' && !tool && (
              <ChecksPanel partId={partId} selection={selection} onSelect={(ref) => show(ref, 'hold')} />
            )}
            {panel === 'set' && (
              <PartPanel
                part={part}
                field={fieldOf(selection, kind)}
                onRemoved={() => void go('..', { relative: 'path' })}
              />
            )}
            {panel === 'size' && <SizePanel partId={partId} onUsed={() => show(null, 'hold')} />}
            {panel === 'made' && result && <MadePanel part={result} />}
            {panel === 'holes' && holed && <HolesPanel partId={partId} />}
            {panel === 'holes' && shimmed && <ShimsPanel partId={partId} />}
            {panel === 'room' && <RoomPanel partId={partId} />}
            {panel === 'hold' && result && !result.complete && kind?.searched && (
              <Button variant="contained" onClick={() => show(null, 'size')}>
                Size it
              </Button>
            )}
          </Box>
        </>
      }
    />
  )
}

/** How much thread shows, where it is changed while the drawing is looked at. */
function SchoolHere({ partId }: { partId: string }) {
  const { part } = usePart(partId)
  const field = useKinds()
    ?.find((one) => one.key === part?.kind)
    ?.fields.flatMap((group) => group.fields)
    .find((one) => one.path === 'school')
  const { school, choose, waits } = useSchool(part!)
  if (!field) return null
  return (
    <Segmented
      label="How much thread shows"
      disabled={waits}
      value={school}
      onChange={choose}
      options={field.choices.map((one) => ({ value: one.value, label: one.label, title: one.why }))}
    />
  )
}

function panelFor(selection: string | null, field: string | null, unfinished = false): PanelName {
  if (selection?.startsWith('check:')) return 'hold'
  return field || unfinished ? 'set' : 'hold'
}
