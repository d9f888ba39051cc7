import { Box, Button, Typography } from '@mui/material'
import { Navigate, useParams } from 'react-router'
import type { AnyPart } from '../../api'
import { useDesign, usePartsOf, useSessionPart } from '../../app/session'
import { Empty, Problem, Section, SheetHead, StationLayout } from '../../ui'
import { PartList, PartView, placesOf, sayPlace, useNewBracket } from '../parts'

/** Station 6: brackets, each a part of its own that holds joints of members. */
export function BracketsStation() {
  const { partId } = useParams()
  const jobId = useSessionPart((state) => state.jobId)
  const brackets = usePartsOf('brackets')
  // come from a member: to what holds it
  const by = useSessionPart(
    ({ design }) => design.joints.find((one) => 'part' in one.held && one.held.part === partId && one.by)?.by,
  )
  if (partId && brackets.some((one) => one.id === partId)) return <PartView key={partId} partId={partId} />
  if (by) return <Navigate to={`/jobs/${jobId}/brackets/${by}`} replace />
  return <BracketsOverview count={brackets.length} />
}

function BracketsOverview({ count }: { count: number }) {
  const parts = useSessionPart((state) => state.design.parts)
  const holders = parts.filter((part) => placesOf(part).length > 0)
  return (
    <StationLayout
      sheet={
        <>
          <SheetHead
            title={<Typography variant="h1">Brackets</Typography>}
            note="what holds each end, and what does not"
          />
          <Box sx={{ flex: 1, minHeight: 0, overflowY: 'auto', px: 3, pb: 2 }}>
            {holders.length === 0 && (
              <Empty title="Nothing to hold yet">
                A bracket holds a joint of a link or an arm. Add a member at station 5 and choose its joints.
              </Empty>
            )}
            {holders.map((part) => (
              <Ends key={part.id} part={part} />
            ))}
          </Box>
        </>
      }
      panel={
        <Box sx={{ p: 2.25, overflowY: 'auto' }}>
          <Typography variant="h2">Will they hold?</Typography>
          <Typography variant="body2" sx={{ color: 'text.secondary', mb: 1 }}>
            {count ? 'the weakest check of each; the mark is the limit' : 'no bracket yet'}
          </Typography>
          <PartList of="brackets" />
        </Box>
      }
    />
  )
}

/** The ends of a member: which bracket holds each, and one for those that none does. */
function Ends({ part }: { part: AnyPart }) {
  const design = useDesign()
  const { free, make } = useNewBracket(part)
  const held = placesOf(part).length - free.length
  return (
    <Section title={part.name}>
      <Typography variant="body2" sx={{ color: 'text.secondary' }}>
        {held > 0 && `${held} of its ends ${held === 1 ? 'is' : 'are'} held. `}
        {free.length > 0 &&
          `Nothing in this job holds ${free.map((place) => sayPlace(design, place).split(', ').at(-1)).join(' and ')}.`}
      </Typography>
      {free.length > 0 && (
        <Button size="small" onClick={() => make.mutate()} disabled={make.isPending}>
          Add a tab pair
        </Button>
      )}
      {make.error && <Problem error={make.error} />}
    </Section>
  )
}
