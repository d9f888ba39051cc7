import { Box, Button, Typography } from '@mui/material'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate, useSearchParams } from 'react-router'
import { answer, api, dependsOn } from '../../api'
import { useDesign, usePartsOf, useSessionPart } from '../../app/session'
import { useEnd } from '../../app/travel'
import { DrawingView } from '../../drawing'
import { useUnits } from '../../quantity'
import { Busy, Empty, PlusIcon, Problem, Segmented, SheetHead, StationLayout } from '../../ui'
import { NotMade, PartList } from '../parts'
import { NewLinkDialog } from './NewLinkDialog'
import { SizeAll } from './SizeAll'
import { AlignmentPanel, NO_ALIGNMENT, TurnSheet, useTurnSheet } from './TurnSheet'
import { ScreenPanel, WhatGives, useWhatGives } from './WhatGives'

type View = 'members' | 'turns' | 'gives'
const TITLE: Record<View, string> = {
  members: 'Members',
  turns: 'Turn sheet',
  gives: 'What gives first',
}
const NOTE: Record<View, (end?: string) => string> = {
  members: () => 'to one scale; pick one to open it',
  turns: (end) => `of ${end ?? 'the end'}; the strip below chooses which`,
  gives: () => 'times its worst load each part bears',
}

const ROWS = 8 // the core's sheet holds this many

/** All members of the job: links, arms and what else is made, drawn to one scale. */
export function MembersOverview() {
  const design = useDesign()
  const members = usePartsOf('members')
  const jobId = useSessionPart((state) => state.jobId)
  const { unit } = useUnits()
  const [adding, setAdding] = useState(false)
  const [first, setFirst] = useState(0)
  // what is shown stands in the address, so that back comes back
  const [search, setSearch] = useSearchParams()
  const asked = search.get('view')
  const view: View = asked === 'turns' || asked === 'gives' ? asked : 'members'
  const setView = (next: View) => setSearch(next === 'members' ? {} : { view: next }, { replace: true })
  const [alignment, setAlignment] = useState(NO_ALIGNMENT)
  const go = useNavigate()
  const ids = members.map((part) => part.id)
  const drawn = useQuery({
    queryKey: ['overview', unit, first, dependsOn(design, ids)],
    queryFn: ({ signal }) => answer(api.POST('/api/overview', { body: { design, first, unit }, signal })),
    enabled: members.length > 0,
    placeholderData: keepPreviousData,
  })
  const more = members.length > ROWS && view === 'members'
  const turns = useTurnSheet(alignment, view === 'turns')
  const gives = useWhatGives(view === 'gives')
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
              note={members.length > 0 && NOTE[view](end?.name)}
            >
              {members.length > 0 && (
                <Segmented
                  label="What is shown"
                  value={view}
                  onChange={setView}
                  options={[
                    { value: 'members' as const, label: 'members' },
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
                  <Button size="small" disabled={first + ROWS >= members.length} onClick={() => setFirst(first + ROWS)}>
                    more
                  </Button>
                </>
              )}
              <Button variant="contained" size="small" startIcon={<PlusIcon />} onClick={() => setAdding(true)}>
                New link
              </Button>
            </SheetHead>
            <Box sx={{ flex: 1, minHeight: 0, px: 2, pb: 1 }}>
              {members.length === 0 && view === 'members' && (
                <Empty title="No member yet">
                  <p>
                    {end
                      ? 'Make the links and arms of the suspension that is laid out, on the right: each follows its points.'
                      : 'Lay out a suspension end, and its links and arms are made in one press; or add a link by itself from its two pivots, from a length, or from one you bought and mean to shorten.'}{' '}
                    Then press Size it: parts, saw lengths and checks are here.
                  </p>
                  {!end && (
                    <Button variant="contained" onClick={() => void go(`/jobs/${jobId}/layout`)} sx={{ mr: 1 }}>
                      Lay out an end
                    </Button>
                  )}
                  <Button variant="outlined" onClick={() => setAdding(true)}>
                    A link by itself
                  </Button>
                </Empty>
              )}
              {view === 'turns' && <TurnSheet query={turns} />}
              {view === 'gives' && <WhatGives query={gives} />}
              {drawn.error && <Problem error={drawn.error} retry={() => void drawn.refetch()} />}
              {drawn.isPending && members.length > 0 && <Busy what="Drawing the members" />}
              {drawn.data && view === 'members' && members.length > 0 && (
                <DrawingView
                  drawing={drawn.data}
                  onSelect={(ref) => ref.startsWith('part:') && void go(`/jobs/${jobId}/members/${ref.slice(5)}`)}
                />
              )}
            </Box>
          </>
        }
        panel={
          <Box sx={{ p: 2.25, overflowY: 'auto' }}>
            {view === 'turns' ? (
              <AlignmentPanel query={turns} alignment={alignment} onChange={setAlignment} />
            ) : view === 'gives' ? (
              <ScreenPanel query={gives} />
            ) : (
              <>
                {members.length > 0 && <SizeAll />}
                <Typography variant="h2">Will they hold?</Typography>
                <Typography variant="body2" sx={{ color: 'text.secondary', mb: 1 }}>
                  {members.length ? 'the weakest check of each; the mark is the limit' : 'nothing to check yet'}
                </Typography>
                <PartList of="members" />
                <NotMade />
                {design.note && (
                  <Typography variant="body2" sx={{ mt: 2, color: 'text.secondary' }}>
                    {design.note}
                  </Typography>
                )}
              </>
            )}
          </Box>
        }
      />
      {adding && <NewLinkDialog onClose={() => setAdding(false)} />}
    </>
  )
}
