import { Box, Button, Typography } from '@mui/material'
import { useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import type { SuspensionEnd } from '../../api'
import { useSessionPart } from '../../app/session'
import { EndViews, USUAL, steering, useEnd, useKind, useTravel } from '../../app/travel'
import { Drawn } from '../../drawing'
import { useUnits } from '../../quantity'
import { EndScene } from '../../scene3d'
import { Empty, Segmented, sentence, SheetHead, StationLayout } from '../../ui'
import { BindPanel, useBindMap } from './BindMap'
import { MotionPanel, useOther } from './MotionPanel'
import { NOTHING, StillPanel, useStillMoves } from './StillMoves'

type View = 'views' | '3d' | 'bind' | 'still'

/** Station 3: the suspension moved, what stops it, what binds, what still moves, and its measures. */
export function CycleStation() {
  const jobId = useSessionPart((state) => state.jobId)
  const go = useNavigate()
  const end = useEnd()
  if (!end)
    return (
      <StationLayout
        sheet={
          <Empty title="Nothing to move yet">
            <p>Lay out a suspension end at station 2 first.</p>
            <Button variant="contained" onClick={() => void go(`/jobs/${jobId}/layout`)}>
              To the layout
            </Button>
          </Empty>
        }
        panel={<Box />}
      />
    )
  return <Moved key={end.id} end={end} />
}

function Moved({ end }: { end: SuspensionEnd }) {
  const { travel, roll, steer } = useTravel()
  const { main } = useUnits()
  const kind = useKind(end)
  const [view, setView] = useState<View>('views')
  const [revision, setRevision] = useState<number | null>(null)
  const [joint, setJoint] = useState<string | null>(null)
  const [mocked, setMocked] = useState(NOTHING)
  const [chosen, setChosen] = useState<string | null>(null)
  const [plots, setPlots] = useState(USUAL)
  const other = useOther(revision)
  const at = useMemo(() => ({ travel, roll, steer }), [travel, roll, steer])
  const bind = useBindMap(end, joint, view === 'bind')
  const still = useStillMoves(end, mocked, view === 'still')
  const views = (
    <EndViews
      endId={end.id}
      at={at}
      other={other}
      plots={plots}
      busy="Solving the suspension"
      empty="Not at this position"
    />
  )
  const signed = (mm: number) => `${mm > 0 ? '+' : mm < 0 ? '−' : ''}${main(Math.abs(mm))}`
  const turned = steering(end).unit === 'mm' ? signed(steer) : `${steer}°`
  const place =
    travel === 0 ? 'at ride height' : `${signed(travel)} of ${main(travel > 0 ? end.box.bump_mm : end.box.droop_mm)}`
  const note = [
    kind && sentence(kind.title),
    place,
    roll && `roll ${roll < 0 ? '−' : '+'}${Math.abs(roll).toFixed(roll % 0.5 ? 2 : 1)}°`,
    steer && `steer ${turned}`,
  ]
  return (
    <StationLayout
      sheet={
        <>
          <SheetHead
            title={<Typography variant="h1">{end.name}</Typography>}
            note={
              view === 'still'
                ? 'being put together'
                : view === 'bind'
                  ? 'the whole box'
                  : note.filter(Boolean).join(' · ')
            }
          >
            <Segmented
              label="What is shown"
              value={view}
              onChange={setView}
              options={[
                { value: 'views', label: 'three views' },
                { value: '3d', label: '3D' },
                { value: 'bind', label: 'bind map' },
                { value: 'still', label: 'what still moves' },
              ]}
            />
          </SheetHead>
          <Box sx={{ flex: 1, minHeight: 0, px: 2, pb: 1 }}>
            {view === 'views' && views}
            {view === '3d' && (
              <EndScene end={end} chosen={chosen} onChoose={setChosen}>
                {views}
              </EndScene>
            )}
            {view === 'bind' && (bind.data?.drawing || bind.isPending) && (
              <Drawn query={bind} busy="Moving it through the whole box" empty="Nothing to map" />
            )}
            {view === 'still' &&
              (still.data && !still.data.drawing ? (
                <Empty title="Nothing is in place">
                  Tick on the right what is on the car. What those parts leave free is drawn here and can be moved.
                </Empty>
              ) : (
                <Drawn query={still} busy="Counting what holds it" empty="This cannot be put together" />
              ))}
          </Box>
        </>
      }
      panel={
        view === 'bind' ? (
          <BindPanel end={end} query={bind} onChoose={setJoint} />
        ) : view === 'still' ? (
          <StillPanel query={still} mocked={mocked} onChange={setMocked} />
        ) : (
          <MotionPanel end={end} compare={{ number: revision, choose: setRevision }} plots={plots} onPlots={setPlots} />
        )
      }
    />
  )
}
