import { Box, Typography } from '@mui/material'
import { useState } from 'react'
import type { SurveyEntry } from '../../api'
import { newId } from '../../app/session'
import { DrawingView } from '../../drawing'
import { Busy, Empty, Fold, Problem, SheetHead, StationLayout } from '../../ui'
import { Coordinates } from './Coordinates'
import { Doubts } from './Doubts'
import { Marks } from './Marks'
import { Means } from './Means'
import { Photographs } from './Photographs'
import { OwnSds } from './OwnSds'
import { Points } from './Points'
import { Readings } from './Readings'
import { TakeReading } from './TakeReading'
import { useSurvey } from './useSurvey'

/** Station 1: what was measured on the car, all of it at once: where the points are, how surely, and which reading does not fit. */
export function SurveyStation() {
  const { found, add } = useSurvey()
  const [selected, setSelected] = useState<string[]>([])
  const select = (ref: string) => setSelected((now) => (now.includes(ref) ? [] : [ref]))
  const give = (entry: SurveyEntry, done: () => void) => add.mutate([entry], { onSuccess: done })
  const survey = found.data
  return (
    <StationLayout
      sheet={
        <>
          <SheetHead
            title={<Typography variant="h1">Survey</Typography>}
            note="where the points on this car are, by all readings at once"
          />
          <Box
            tabIndex={0}
            role="region"
            aria-label="Points and readings"
            sx={{ flex: 1, minHeight: 0, overflowY: 'auto' }}
          >
            {found.error && <Problem error={found.error} retry={() => void found.refetch()} />}
            {found.isPending && <Busy what="Reading the survey" />}
            {survey && survey.points.length === 0 && (
              <Empty title="Nothing measured yet">
                Choose what the car is measured from: floor, middle, a cross line. Then put down every reading as it is
                taken, on the right: heights and offsets, distances, angles. Each is kept as it was read.
              </Empty>
            )}
            {survey && survey.points.length > 0 && (
              <>
                <Box sx={{ height: 430, px: 2, display: 'flex', justifyContent: 'center' }}>
                  <DrawingView drawing={survey.drawing} selected={selected} onSelect={select} />
                </Box>
                <Points survey={survey} selected={selected} onSelect={select} />
                <Means />
              </>
            )}
          </Box>
        </>
      }
      panel={
        <Box sx={{ p: 2.25, overflowY: 'auto' }}>
          {survey && (
            <>
              <Fold title="Take a reading" open>
                <TakeReading places={survey.places} onTake={give} busy={add.isPending} error={add.error} />
              </Fold>
              <Fold title="Coordinates from a table">
                <Coordinates
                  onTake={(entries, done) => add.mutate(entries, { onSuccess: done })}
                  busy={add.isPending}
                  error={add.error}
                />
              </Fold>
              <Fold title="From a photograph">
                <Photographs
                  survey={survey}
                  onTake={(entries, done) => add.mutate(entries, { onSuccess: done })}
                  busy={add.isPending}
                />
              </Fold>
              {survey.readings.length > 0 && <Doubts survey={survey} onSelect={select} />}
              <Fold title="Marks and datum" note={survey.datum?.stands}>
                <Marks
                  survey={survey}
                  onAdd={give}
                  onAll={(entries, done) => add.mutate(entries, { onSuccess: done })}
                  busy={add.isPending}
                />
              </Fold>
              <Fold
                title="How sure whose readings are"
                note={
                  survey.own.length
                    ? `${survey.own.length} said`
                    : survey.elsewhere.length
                      ? 'as usual; said in another job'
                      : 'as usual'
                }
              >
                <OwnSds survey={survey} onAdd={give} busy={add.isPending} />
              </Fold>
              <Fold title="Readings" note={`${survey.readings.length} kept`}>
                <Readings
                  survey={survey}
                  selected={selected}
                  onSelect={select}
                  busy={add.isPending}
                  onBack={(reading, why) => add.mutate([{ sort: 'back', id: newId(), entry: reading.taken.id, why }])}
                />
              </Fold>
            </>
          )}
        </Box>
      }
    />
  )
}
