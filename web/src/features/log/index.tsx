import { Box, Typography } from '@mui/material'
import { useState, type ReactNode } from 'react'
import type { BuiltEntry } from '../../api'
import { newId } from '../../app/session'
import { DrawingView } from '../../drawing'
import { Busy, Empty, Fold, Problem, Segmented, SheetHead, StationLayout } from '../../ui'
import { Angles } from './Angles'
import { TakeAngle } from './TakeAngle'
import { Heights } from './Heights'
import { PartTravels } from './PartTravels'
import { Travels } from './Travels'
import { useBuilt } from './useBuilt'
import { rowKey, useTraveller } from './useTraveller'
import { WhichOne } from './WhichOne'

type View = 'made' | 'stands'
const VIEWS: { value: View; label: string }[] = [
  { value: 'made', label: 'Traveller' },
  { value: 'stands', label: 'As it stands' },
]

/** Station 9: how far each part is made, and what the finished car shows beside what the model says. */
export function LogStation() {
  const [view, see] = useState<View>('made')
  const views = <Segmented label="View" value={view} onChange={see} options={VIEWS} />
  return view === 'made' ? <Made views={views} /> : <AsItStands views={views} />
}

function Made({ views }: { views: ReactNode }) {
  const found = useTraveller()
  const [wanted, select] = useState('')
  const traveller = found.data
  const row =
    traveller?.rows.find((one) => rowKey(one) === wanted) ??
    traveller?.rows.find((one) => one.done > 0 && one.next) ??
    traveller?.rows[0]
  return (
    <StationLayout
      sheet={
        <>
          <SheetHead
            title={<Typography variant="h1">Traveller</Typography>}
            note="how far each part is made, and who is waited for"
          >
            {views}
          </SheetHead>
          <Box
            tabIndex={0}
            role="region"
            aria-label="How far each part is made"
            sx={{ flex: 1, minHeight: 0, overflowY: 'auto' }}
          >
            {found.error && <Problem error={found.error} retry={() => void found.refetch()} />}
            {found.isPending && <Busy what="Reading what was ticked" />}
            {traveller && traveller.rows.length === 0 && (
              <Empty title="Nothing to make yet">Make a link, an arm or a bracket first, at stations 4 and 5.</Empty>
            )}
            {traveller && traveller.rows.length > 0 && (
              <Travels traveller={traveller} selected={row ? rowKey(row) : ''} onSelect={select} />
            )}
          </Box>
        </>
      }
      panel={
        <Box sx={{ p: 2.25, overflowY: 'auto' }}>
          {traveller && row && (
            <PartTravels
              key={rowKey(row)}
              row={row}
              number={traveller.draft ? null : (traveller.issued?.number ?? null)}
            />
          )}
        </Box>
      }
    />
  )
}

function AsItStands({ views }: { views: ReactNode }) {
  const { found, add } = useBuilt()
  const [wanted, show] = useState('')
  const [taking, take] = useState(false)
  const [selected, setSelected] = useState<string[]>([])
  const select = (ref: string) => setSelected((now) => (now.includes(ref) ? [] : [ref]))
  const built = found.data
  const groups = built?.read ?? []
  const key = (one: { end: string; wheel: string }) => `${one.end}:${one.wheel}`
  const read = groups.find((one) => key(one) === wanted) ?? groups[0]
  const give = (entry: BuiltEntry, done: () => void) => {
    take(true)
    add.mutate([entry], {
      onSuccess: (after) => {
        const own = after.read.find((one) => one.readings.some((reading) => reading.taken.id === entry.id))
        if (own) show(key(own))
        done()
      },
    })
  }
  return (
    <StationLayout
      sheet={
        <>
          <SheetHead
            title={<Typography variant="h1">As it stands</Typography>}
            note="what the car shows, beside what the model says"
          >
            {views}
            {read && groups.length > 1 && (
              <Segmented
                label="Which end"
                value={key(read)}
                onChange={show}
                options={groups.map((one) => ({
                  value: key(one),
                  label: `${one.name}${one.wheel && `, ${one.wheel}`}`,
                }))}
              />
            )}
          </SheetHead>
          <Box
            tabIndex={0}
            role="region"
            aria-label="Angles as read and as modelled"
            sx={{ flex: 1, minHeight: 0, overflowY: 'auto' }}
          >
            {found.error && <Problem error={found.error} retry={() => void found.refetch()} />}
            {found.isPending && <Busy what="Looking for what explains the readings" />}
            {built && !read && (
              <Empty title="Nothing read yet">
                {built.ends.length === 0
                  ? 'Lay out a suspension end at station 2 first.'
                  : 'Read camber, toe, caster or the pinion on the finished car at two heights or more, springs out and the car level on stands, and put every figure down on the right. Where the car and the model disagree, it says which length or place explains it.'}
              </Empty>
            )}
            {read && (
              <>
                <Box sx={{ height: 470, px: 2, display: 'flex', justifyContent: 'center' }}>
                  <DrawingView drawing={read.drawing} selected={selected} onSelect={select} />
                </Box>
                <Typography variant="body2" sx={{ px: 3, pb: 2, color: 'text.secondary' }}>
                  The car stands on stands, level, with its springs out, before a wheel is lifted to be read. Drawn are
                  the angles; ride heights stand beside, lengths and diagonals measured on the parts in the traveller.
                </Typography>
              </>
            )}
          </Box>
        </>
      }
      panel={
        <Box sx={{ p: 2.25, overflowY: 'auto' }}>
          {built && (
            <>
              <Fold title="Read an angle" open={taking || !read}>
                <TakeAngle ends={built.ends} onTake={give} busy={add.isPending} error={add.error} />
              </Fold>
              <Fold
                title="Ride height"
                note={built.heights.length ? `${built.heights.length} kept` : ''}
                wrong={built.heights.some((one) => one.stands && !one.inside)}
              >
                <Heights
                  built={built}
                  onTake={(entry, done) => add.mutate([entry], { onSuccess: done })}
                  onBack={(id, why) => add.mutate([{ sort: 'back', id: newId(), entry: id, why }])}
                  busy={add.isPending}
                  error={add.error}
                />
              </Fold>
              {read && (
                <Box sx={{ mt: 1.75 }}>
                  <WhichOne read={read} />
                </Box>
              )}
              {read && (
                <Fold title="Angles read" note={`${read.readings.length} kept`}>
                  <Angles
                    read={read}
                    selected={selected}
                    onSelect={select}
                    busy={add.isPending}
                    onBack={(id, why) => add.mutate([{ sort: 'back', id: newId(), entry: id, why }])}
                  />
                </Fold>
              )}
            </>
          )}
        </Box>
      }
    />
  )
}
