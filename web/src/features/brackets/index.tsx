import { Box, Button, Typography } from '@mui/material'
import { Navigate, Link as RouterLink, useParams } from 'react-router'
import { usePartsOf, useSessionPart } from '../../app/session'
import { Empty, SheetHead, StationLayout } from '../../ui'
import { HeldBy, PartList, PartView, usePlaces } from '../parts'

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
  const jobId = useSessionPart((state) => state.jobId)
  const places = usePlaces()
  const groups = [...new Map(places.map((place) => [`${place.id}:${place.of}`, place.of])).entries()]
  return (
    <StationLayout
      sheet={
        <>
          <SheetHead
            title={<Typography variant="h1">Brackets</Typography>}
            note="what holds each end, and what does not"
          />
          <Box sx={{ flex: 1, minHeight: 0, overflowY: 'auto', px: 3, pb: 2 }}>
            {groups.length === 0 && (
              <Empty title="Nothing to hold yet">
                <p>
                  A bracket holds a joint of a link or an arm, or a damper’s eye. Members come first, with their joints.
                </p>
                <Button variant="contained" component={RouterLink} to={`/jobs/${jobId}/members`}>
                  To the members
                </Button>
              </Empty>
            )}
            {groups.map(([key, title]) => (
              <HeldBy key={key} title={title} places={places.filter((place) => `${place.id}:${place.of}` === key)} />
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
