import { Box, Button, Typography } from '@mui/material'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate, useSearchParams } from 'react-router'
import { answer, api, tiedTo } from '../../api'
import { useDesign, useSessionPart } from '../../app/session'
import { DrawingView } from '../../drawing'
import { useUnits } from '../../quantity'
import { Busy, Empty, PlusIcon, Problem, Segmented } from '../../ui'
import { useEnd } from '../../app/travel'
import { ArmPanel } from './ArmPanel'
import { Arms } from './Arms'
import { useArms } from './useArms'
import { SizeAll } from './SizeAll'
import { AlignmentPanel, NO_ALIGNMENT, TurnSheet, useTurnSheet } from './TurnSheet'
import { ScreenPanel, WhatGives, useWhatGives } from './WhatGives'
import { LinkList } from './LinkList'
import { NewLinkDialog } from './NewLinkDialog'
import { SheetHead, StationLayout } from './StationLayout'

type View = 'links' | 'arms' | 'turns' | 'gives'
const TITLE: Record<View, string> = {
  links: 'Links',
  arms: 'Arms',
  turns: 'Turn sheet',
  gives: 'What gives first',
}
const NOTE: Record<View, (end?: string) => string> = {
  links: () => 'to one scale; pick one to open it',
  arms: () => 'welded frames under every case; pick a tube',
  turns: (end) => `of ${end ?? 'the end'}; the strip below chooses which`,
  gives: () => 'times its worst load each part bears',
}

const ROWS = 8 // the core's sheet holds this many

/** All links of the job, drawn to one scale. */
export function LinksOverview() {
  const design = useDesign()
  const jobId = useSessionPart((state) => state.jobId)
  const { unit } = useUnits()
  const [adding, setAdding] = useState(false)
  const [first, setFirst] = useState(0)
  // what is shown stands in the address: a hold goes straight to an arm and its check, and back comes back
  const [search, setSearch] = useSearchParams()
  const view: View = search.has('arm') ? 'arms' : ((search.get('view') as View | null) ?? 'links')
  const setView = (next: View) => setSearch(next === 'links' ? {} : { view: next }, { replace: true })
  const [alignment, setAlignment] = useState(NO_ALIGNMENT)
  const go = useNavigate()
  const drawn = useQuery({
    queryKey: ['overview', unit, first, design.links, design.settings, tiedTo(design, design.links)],
    queryFn: ({ signal }) => answer(api.POST('/api/overview', { body: { design, first, unit }, signal })),
    enabled: design.links.length > 0,
    placeholderData: keepPreviousData,
  })
  const more = design.links.length > ROWS && view === 'links'
  const turns = useTurnSheet(alignment, view === 'turns')
  const gives = useWhatGives(view === 'gives')
  const arms = useArms(view === 'arms')
  const arm = design.arms.find((one) => one.id === search.get('arm'))?.id ?? design.arms[0]?.id ?? null
  const selection = search.get('show')
  const choose = (id: string) => setSearch({ arm: id }, { replace: true })
  const select = (ref: string | null) => arm && setSearch(ref ? { arm, show: ref } : { arm }, { replace: true })
  const hasArms = design.ends.length > 0
  const end = useEnd()
  return (
    <>
      <StationLayout
        sheet={
          <>
            <SheetHead
              title={
                <Typography variant="h1" noWrap>
                  {TITLE[view]}
                </Typography>
              }
              note={design.links.length > 0 && NOTE[view](end?.name)}
            >
              {(design.links.length > 0 || hasArms) && (
                <Segmented
                  label="What is shown"
                  value={view}
                  onChange={setView}
                  options={[
                    { value: 'links' as const, label: 'links' },
                    { value: 'arms' as const, label: 'arms' },
                    { value: 'turns' as const, label: 'turn sheet' },
                    { value: 'gives' as const, label: 'what gives first' },
                  ]}
                />
              )}
              {more && (
                <>
                  <Button size="small" disabled={first === 0} onClick={() => setFirst(Math.max(0, first - ROWS))}>
                    earlier
                  </Button>
                  <Button
                    size="small"
                    disabled={first + ROWS >= design.links.length}
                    onClick={() => setFirst(first + ROWS)}
                  >
                    more
                  </Button>
                </>
              )}
              <Button variant="contained" size="small" startIcon={<PlusIcon />} onClick={() => setAdding(true)}>
                New link
              </Button>
            </SheetHead>
            <Box sx={{ flex: 1, minHeight: 0, px: 2, pb: 1 }}>
              {design.links.length === 0 && view === 'links' && (
                <Empty title="No link yet">
                  Add the first from its two pivots, from a length, or from a link you bought and mean to shorten. Say
                  what it sees, press Size it, and its parts, saw length and checks are here.
                </Empty>
              )}
              {view === 'arms' && (
                <Arms query={arms} chosen={arm} onChoose={choose} selection={selection} onSelect={select} />
              )}
              {view === 'turns' && <TurnSheet query={turns} />}
              {view === 'gives' && <WhatGives query={gives} />}
              {drawn.error && <Problem error={drawn.error} retry={() => void drawn.refetch()} />}
              {drawn.isPending && design.links.length > 0 && <Busy what="Drawing the links" />}
              {drawn.data && view === 'links' && design.links.length > 0 && (
                <DrawingView
                  drawing={drawn.data}
                  onSelect={(ref) => ref.startsWith('link:') && void go(`/jobs/${jobId}/members/${ref.slice(5)}`)}
                />
              )}
            </Box>
          </>
        }
        panel={
          view === 'arms' ? (
            <Box sx={{ p: 2.25, overflowY: 'auto' }}>
              <ArmPanel query={arms} chosen={arm} selection={selection} onSelect={select} />
            </Box>
          ) : view === 'turns' ? (
            <Box sx={{ p: 2.25, overflowY: 'auto' }}>
              <AlignmentPanel query={turns} alignment={alignment} onChange={setAlignment} />
            </Box>
          ) : view === 'gives' ? (
            <Box sx={{ p: 2.25, overflowY: 'auto' }}>
              <ScreenPanel query={gives} />
            </Box>
          ) : (
            <Box sx={{ p: 2.25, overflowY: 'auto' }}>
              {design.links.length > 0 && <SizeAll />}
              <Typography variant="h2">Will they hold?</Typography>
              <Typography variant="body2" sx={{ color: 'text.secondary', mb: 1 }}>
                {design.links.length ? 'the weakest check of each; the mark is the limit' : 'nothing to check yet'}
              </Typography>
              <LinkList station="members" />
              {design.note && (
                <Typography variant="body2" sx={{ mt: 2, color: 'text.secondary' }}>
                  {design.note}
                </Typography>
              )}
            </Box>
          )
        }
      />
      {adding && <NewLinkDialog onClose={() => setAdding(false)} />}
    </>
  )
}
