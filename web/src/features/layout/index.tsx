import { Box, Button, Typography } from '@mui/material'
import { useCallback, useMemo, useState } from 'react'
import type { SuspensionEnd } from '../../api'
import { EndViews, useEnd, useEnds, useKind, usePointMoves, useRested, useStudy, useTravel } from '../../app/travel'
import { EndScene } from '../../scene3d'
import { Empty, PlusIcon, Segmented, sentence, SheetHead, StationLayout } from '../../ui'
import { EndPanel } from './EndPanel'
import { KindPanel } from './KindPanel'
import { KindSheet } from './KindSheet'
import { NewEnd } from './NewEnd'

/** Station 2: a suspension end from a template, its points typed or dragged, its lengths following. */
export function LayoutStation() {
  const ends = useEnds()
  const { move } = useTravel()
  const end = useEnd()
  const [adding, setAdding] = useState(false)
  const add = useCallback(() => setAdding(true), [])
  const choose = useCallback((id: string) => move({ endId: id }), [move])
  return (
    <>
      {end ? (
        <EndLayout key={end.id} end={end} onAdd={add} onChoose={choose} />
      ) : (
        <StationLayout
          sheet={
            <Empty title="No suspension end yet">
              <p>
                Start one from a template: its points stand where a sound example has them, and you move them to where
                your car has them.
              </p>
              <Button variant="contained" startIcon={<PlusIcon />} onClick={() => setAdding(true)}>
                New end
              </Button>
            </Empty>
          }
          panel={<Box />}
        />
      )}
      {adding && <NewEnd count={ends.length} onClose={() => setAdding(false)} />}
    </>
  )
}

const AT_RIDE = { travel: 0, roll: 0, steer: 0 }

function EndLayout({
  end,
  onAdd,
  onChoose,
}: {
  end: SuspensionEnd
  onAdd: () => void
  onChoose: (id: string) => void
}) {
  const ends = useEnds()
  const [view, setView] = useState<'views' | '3d' | 'kind'>(
    end.end.kind && end.end.kind.joints.length === 0 ? 'kind' : 'views',
  )
  const [chosen, setChosen] = useState<string | null>(null)
  const study = useStudy()
  const moves = usePointMoves(end)
  const views = (
    <EndViews endId={end.id} at={AT_RIDE} busy="Drawing the end" empty="This cannot be put together" moves={moves} />
  )
  // the picture before the panel and its many fields
  const rested = useRested(end)
  const kind = useKind(rested)
  const { id, name } = end
  const title = kind?.title
  // an edit leaves the head as it is: not drawn anew, the picture comes sooner
  const head = useMemo(
    () => (
      <SheetHead title={<Typography variant="h1">{name}</Typography>} note={title && sentence(title)}>
        {ends.length > 1 && (
          <Segmented
            label="Which end"
            value={id}
            onChange={onChoose}
            options={ends.map((one) => ({ value: one.id, label: one.name }))}
          />
        )}
        <Segmented
          label="How it is shown"
          value={view}
          onChange={setView}
          options={[
            { value: 'views', label: 'three views' },
            { value: '3d', label: '3D' },
            { value: 'kind', label: 'kind', title: 'what it is made of, and what still moves' },
          ]}
        />
        <Button variant="contained" size="small" startIcon={<PlusIcon />} onClick={onAdd}>
          New end
        </Button>
      </SheetHead>
    ),
    [id, name, title, ends, view, onAdd, onChoose],
  )
  return (
    <StationLayout
      sheet={
        <>
          {head}
          <Box sx={{ flex: 1, minHeight: 0, px: 2, pb: 1 }}>
            {view === 'kind' ? (
              <KindSheet end={rested} onPoint={setChosen} />
            ) : view === 'views' ? (
              views
            ) : (
              <EndScene end={end} chosen={chosen} onChoose={setChosen} moves={moves}>
                {views}
              </EndScene>
            )}
          </Box>
        </>
      }
      panel={
        kind && view === 'kind' ? (
          <KindPanel end={end} kind={kind} chosen={chosen} onChoose={setChosen} moves={moves} />
        ) : kind ? (
          <EndPanel end={rested} kind={kind} study={study.data} chosen={chosen} onChoose={setChosen} moves={moves} />
        ) : (
          <Box />
        )
      }
    />
  )
}
