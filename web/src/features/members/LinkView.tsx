import { Box, Button, Tab, Tabs, Typography } from '@mui/material'
import { useState } from 'react'
import { useNavigate, useSearchParams } from 'react-router'
import { useLink, useDesign } from '../../app/session'
import { DrawingView, useDrawing } from '../../drawing'
import { useUnits } from '../../quantity'
import { Busy, Problem, Segmented } from '../../ui'
import { AdjusterSteps } from './AdjusterSteps'
import { ChecksPanel } from './ChecksPanel'
import { NotYet } from './NotYet'
import { SetPanel } from './SetPanel'
import { SheetHead, StationLayout } from './StationLayout'
import { SizePanel } from './SizePanel'
import { fieldOf, refsOf } from './selection'
import { SCHOOLS } from './schools'

const SIDES = { pair: 'pair · left shown, right is the same part', left: 'left', right: 'right', centre: 'centre' }
type PanelName = 'hold' | 'set' | 'size'

/** One link: drawn to scale on the sheet; what holds, what is set and sizing in the panel. */
export function LinkView({ linkId }: { linkId: string }) {
  const design = useDesign()
  const { link, result, edit } = useLink(linkId)
  const { unit } = useUnits()
  const [search, setSearch] = useSearchParams()
  const go = useNavigate()
  const [end, setEnd] = useState(1)
  const [turns, setTurns] = useState(0)
  const selection = search.get('show')
  const panel =
    (search.get('panel') as PanelName | null) ?? panelFor(selection, result?.status === 'incomplete' && !result.stack)
  const drawn = useDrawing({ design, linkId, view: 'link', unit, end, turns })
  if (!link) return null

  const show = (ref: string | null, where?: PanelName) =>
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
  const pick = (ref: string) => {
    if (ref === 'end:a' || ref === 'end:b') setEnd(ref === 'end:a' ? 0 : 1)
    show(ref, ref.startsWith('check:') ? 'hold' : fieldOf(ref) ? 'set' : undefined)
  }
  const school = link.school ?? design.settings.school
  const drawing = drawn.data?.drawing
  return (
    <StationLayout
      sheet={
        <>
          <SheetHead
            title={
              <Typography variant="h1" noWrap sx={{ maxWidth: 280 }} title={link.name}>
                {link.name}
              </Typography>
            }
            note={SIDES[link.side]}
          >
            {!link.boxed && (
              <Segmented
                label="How much thread shows"
                value={school}
                onChange={(value) =>
                  edit('school', (now) => ({
                    ...now,
                    school: value,
                    showing: value === 'exposure' ? (now.showing ?? { mm: 5, typed: null }) : null,
                  }))
                }
                options={SCHOOLS.map((one) => ({ value: one.key, label: one.label, title: one.trade }))}
              />
            )}
            {!link.boxed && (
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
          </SheetHead>
          <Box sx={{ flex: 1, minHeight: 0, px: 2, position: 'relative' }}>
            {drawn.error && <Problem error={drawn.error} retry={() => void drawn.refetch()} />}
            {drawn.isPending && <Busy what="Drawing the link" />}
            {drawing && (
              <DrawingView drawing={drawing} selected={refsOf(selection, result?.checks ?? [])} onSelect={pick} />
            )}
            {drawn.data && !drawing && (
              <NotYet result={result} onSize={() => show(null, 'size')} onSet={() => show('field:tube', 'set')} />
            )}
          </Box>
          {drawn.data?.adjuster && <AdjusterSteps adjuster={drawn.data.adjuster} turns={turns} onTurn={setTurns} />}
        </>
      }
      panel={
        <>
          <Tabs
            value={panel}
            onChange={(_, value: PanelName) => show(selection, value)}
            variant="fullWidth"
            sx={{
              minHeight: 42,
              borderBottom: 1,
              borderColor: 'divider',
              '& .MuiTab-root': { minHeight: 42, textTransform: 'none', minWidth: 0, px: 0.5 },
            }}
          >
            <Tab value="hold" label="Will it hold?" />
            <Tab value="set" label="What it is" />
            <Tab value="size" label="Size it" />
          </Tabs>
          <Box sx={{ flex: 1, overflowY: 'auto', p: 2.25, minHeight: 0 }} role="tabpanel">
            {panel === 'hold' && (
              <ChecksPanel linkId={linkId} selection={selection} onSelect={(ref) => show(ref, 'hold')} />
            )}
            {panel === 'set' && (
              <SetPanel linkId={linkId} selection={selection} onRemoved={() => void go('..', { relative: 'path' })} />
            )}
            {panel === 'size' && <SizePanel linkId={linkId} onUsed={() => show(null, 'hold')} />}
            {panel === 'hold' && result && !result.stack && !link.boxed && (
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

function panelFor(selection: string | null, incomplete: boolean): PanelName {
  if (selection?.startsWith('check:')) return 'hold'
  if (selection && fieldOf(selection)) return 'set'
  return incomplete ? 'set' : 'hold'
}
