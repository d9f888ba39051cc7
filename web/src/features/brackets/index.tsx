import { Box, Button, Typography } from '@mui/material'
import { useState } from 'react'
import { Navigate, Link as RouterLink, useNavigate, useParams } from 'react-router'
import { usePartsOf, useSessionPart } from '../../app/session'
import { useEnd, useEnds, useTravel } from '../../app/travel'
import { PlacedScene } from '../../scene3d'
import { Busy, Empty, PanelTabs, Segmented, SheetHead, StationLayout } from '../../ui'
import { PartList, PartView, usePlaces } from '../parts'
import { JointMap } from './JointMap'
import { Joints } from './Joints'
import { Mounts } from './Mounts'
import { ProposeAll } from './ProposeAll'
import { RoomOfAll } from './RoomOfAll'

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

type Shown = 'views' | '3d'
type Panel = 'joints' | 'mounts' | 'hold'

function BracketsOverview({ count }: { count: number }) {
  const jobId = useSessionPart((state) => state.jobId)
  const places = usePlaces()
  // before it is worked out nothing is known of any joint: that is not said to be none
  const known = useSessionPart((state) => state.evaluation !== null)
  const ends = useEnds()
  const end = useEnd()
  const { move } = useTravel()
  const go = useNavigate()
  const [shown, show] = useState<Shown>('views')
  const [panel, open] = useState<Panel>('joints')
  const [chosen, choose] = useState<number | null>(null)
  const free = places.filter((place) => place.by === null && !place.elsewhere).length
  const pick = (number: number) => {
    const place = places[number - 1]
    if (place?.by) void go(`/jobs/${jobId}/brackets/${place.by}`)
    else {
      open('joints')
      choose(number)
    }
  }
  return (
    <StationLayout
      sheet={
        <>
          <SheetHead
            title={<Typography variant="h1">Brackets</Typography>}
            note={
              places.length === 0 || !known
                ? 'what holds each joint'
                : free === 0
                  ? 'every joint is held'
                  : `${free} of ${places.length} joints with nothing yet that holds them`
            }
          >
            {ends.length > 1 && end && (
              <Segmented
                label="Which end"
                value={end.id}
                onChange={(id) => move({ endId: id })}
                options={ends.map((one) => ({ value: one.id, label: one.name }))}
              />
            )}
            {end && (
              <Segmented
                label="How it is shown"
                value={shown}
                onChange={show}
                options={[
                  { value: 'views', label: 'three views' },
                  { value: '3d', label: '3D' },
                ]}
              />
            )}
          </SheetHead>
          <Box sx={{ flex: 1, minHeight: 0, px: 2, pb: 1 }}>
            {!known && <Busy what="Working out the joints" />}
            {known && places.length === 0 && (
              <Empty title="Nothing to hold yet">
                <p>
                  A bracket holds a joint of a link or an arm, or a damper’s eye. Members come first, with their joints.
                </p>
                <Button variant="contained" component={RouterLink} to={`/jobs/${jobId}/members`}>
                  To the members
                </Button>
              </Empty>
            )}
            {places.length > 0 && !end && (
              <Empty title="No suspension end yet">
                <p>
                  Where the joints are in the car follows from an end’s points. The list beside has them all the same.
                </p>
              </Empty>
            )}
            {places.length > 0 && end && shown === 'views' && <JointMap end={end} onPick={pick} chosen={chosen} />}
            {places.length > 0 && end && shown === '3d' && <PlacedScene end={end} />}
          </Box>
        </>
      }
      panel={
        <>
          <PanelTabs
            value={panel}
            onChange={open}
            tabs={[
              { value: 'joints', label: 'Joints' },
              { value: 'mounts', label: 'Mounts' },
              { value: 'hold', label: 'Will they hold?' },
            ]}
          />
          <Box
            role="tabpanel"
            tabIndex={0}
            aria-label="Brackets"
            sx={{ p: 2.25, overflowY: 'auto', flex: 1, minHeight: 0 }}
          >
            {panel === 'joints' && known && (
              <>
                <ProposeAll free={free} any={places.length > 0} onMounts={() => open('mounts')} />
                <Joints places={places} ofEnd={end?.id} chosen={chosen} />
              </>
            )}
            {panel === 'mounts' && <Mounts />}
            {panel === 'hold' && (
              <>
                <Typography variant="body2" sx={{ color: 'text.secondary', mb: 1 }}>
                  {count ? 'the weakest check of each; the mark is the limit' : 'no bracket yet'}
                </Typography>
                <PartList of="brackets" />
                <RoomOfAll />
              </>
            )}
          </Box>
        </>
      }
    />
  )
}
