import { Box, Button, Typography } from '@mui/material'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { answer, api, tiedTo } from '../../api'
import { useDesign, useSessionPart } from '../../app/session'
import { DrawingView } from '../../drawing'
import { useUnits } from '../../quantity'
import { Busy, Empty, PlusIcon, Problem } from '../../ui'
import { LinkList } from './LinkList'
import { NewLinkDialog } from './NewLinkDialog'
import { SheetHead, StationLayout } from './StationLayout'

const ROWS = 8 // the core's sheet holds this many

/** All links of the job, drawn to one scale. */
export function LinksOverview() {
  const design = useDesign()
  const jobId = useSessionPart((state) => state.jobId)
  const { unit } = useUnits()
  const [adding, setAdding] = useState(false)
  const [first, setFirst] = useState(0)
  const go = useNavigate()
  const drawn = useQuery({
    queryKey: ['overview', unit, first, design.links, design.settings, tiedTo(design, design.links)],
    queryFn: ({ signal }) => answer(api.POST('/api/overview', { body: { design, first, unit }, signal })),
    enabled: design.links.length > 0,
    placeholderData: keepPreviousData,
  })
  const more = design.links.length > ROWS
  return (
    <>
      <StationLayout
        sheet={
          <>
            <SheetHead
              title={
                <Typography variant="h1" noWrap>
                  Links
                </Typography>
              }
              note={design.links.length > 0 && 'to one scale; pick one to open it'}
            >
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
              {design.links.length === 0 && (
                <Empty title="No link yet">
                  Add the first from its two pivots, from a length, or from a link you bought and mean to shorten. Say
                  what it sees, press Size it, and its parts, saw length and checks are here.
                </Empty>
              )}
              {drawn.error && <Problem error={drawn.error} retry={() => void drawn.refetch()} />}
              {drawn.isPending && design.links.length > 0 && <Busy what="Drawing the links" />}
              {drawn.data && design.links.length > 0 && (
                <DrawingView
                  drawing={drawn.data}
                  onSelect={(ref) => ref.startsWith('link:') && void go(`/jobs/${jobId}/members/${ref.slice(5)}`)}
                />
              )}
            </Box>
          </>
        }
        panel={
          <Box sx={{ p: 2.25, overflowY: 'auto' }}>
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
        }
      />
      {adding && <NewLinkDialog onClose={() => setAdding(false)} />}
    </>
  )
}
