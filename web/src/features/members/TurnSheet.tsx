import { Box, Typography } from '@mui/material'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api, type TurnSheetOut } from '../../api'
import { useDesign } from '../../app/session'
import { useEnd } from '../../app/travel'
import { MmField, Told, NumberField, useUnits } from '../../quantity'
import { Busy, Empty, Fold, Problem, Repeats, Section } from '../../ui'

type Aim = { measured: number; wanted: number }
export interface Alignment {
  aims: Record<string, Aim>
  ranges: Record<string, number>
}
export const NO_ALIGNMENT: Alignment = { aims: {}, ranges: {} }

const isAngle = (measure: string) => measure.endsWith('_deg')
const within = (measure: string) => (isAngle(measure) ? 0.1 : 1)
const shown = (value: number, digits = 2) =>
  `${value > 0 ? '+' : value < 0 ? '−' : ''}${Math.abs(value).toFixed(digits)}`

export function useTurnSheet(alignment: Alignment, enabled: boolean) {
  const design = useDesign()
  const end = useEnd()
  const wanted = Object.entries(alignment.aims)
    .filter(([, aim]) => aim.measured !== aim.wanted)
    .map(([measure, aim]) => ({ measure, ...aim, within: within(measure) }))
  return useQuery({
    queryKey: [
      'turn-sheet',
      design.parts,
      design.joints,
      design.catalogue,
      end,
      design.car,
      design.settings,
      design.loads,
      wanted,
      alignment.ranges,
    ],
    queryFn: ({ signal }) =>
      answer(
        api.POST('/api/turn-sheet', {
          body: { design, end_id: end!.id, wanted, ranges: alignment.ranges },
          signal,
        }),
      ),
    enabled: enabled && end !== undefined,
    placeholderData: keepPreviousData,
  })
}

/** What one turn of each adjuster does, and what thread is left over the wanted range. */
export function TurnSheet({ query }: { query: ReturnType<typeof useTurnSheet> }) {
  const { data, error, isPending, refetch } = query
  if (error) return <Problem error={error} retry={() => void refetch()} />
  if (isPending) return <Busy what="Turning every adjuster" />
  if (!data) return null
  if (data.faults.length > 0)
    return (
      <Empty title="Nothing to turn">
        <Told>{data.faults[0]?.message}</Told>
      </Empty>
    )
  if (data.adjusters.length === 0)
    return (
      <Empty title="No adjuster yet">
        <p>
          Make this end’s links at Layout, under Lengths, and size them. Each that has a threaded end then stands here
          with what one turn does to the wheel.
        </p>
        {data.fixed.map((one) => (
          <div key={one}>{one}</div>
        ))}
      </Empty>
    )
  return (
    <Box sx={{ overflow: 'auto', height: '100%', px: 1 }}>
      <Effects data={data} />
      {data.budget.length > 0 && <Threads data={data} />}
    </Box>
  )
}

const TABLE = {
  borderCollapse: 'collapse', width: '100%', mb: 3, fontSize: 13.5,
  '& th, & td': { textAlign: 'right', py: 0.5, pr: 2, borderBottom: 1, borderColor: 'divider', whiteSpace: 'nowrap' },
  '& th:first-of-type, & td:first-of-type': { textAlign: 'left' },
} as const // prettier-ignore

function Effects({ data }: { data: TurnSheetOut }) {
  const { signed } = useUnits()
  const measures = Object.entries(data.measures)
  return (
    <Box component="table" sx={TABLE}>
      <Typography component="caption" variant="h3" sx={{ textAlign: 'left', py: 1 }}>
        One turn longer
      </Typography>
      <thead>
        <tr>
          <th>adjuster</th>
          <th>longer by</th>
          {measures.map(([key, name]) => (
            <th key={key}>{name}</th>
          ))}
          <th>room, in – out</th>
        </tr>
      </thead>
      <tbody>
        {data.adjusters.map((one) => (
          <tr key={one.name}>
            <td>
              {one.name}, a {one.unit}
            </td>
            <Figure>{signed(one.mm, false, 3).replace('+', '')}</Figure>
            {measures.map(([key]) => (
              <Figure key={key}>{signed(one.change[key] ?? 0, isAngle(key))}</Figure>
            ))}
            <Figure>
              {one.shorter.toFixed(1)} – {one.longer.toFixed(1)}
            </Figure>
          </tr>
        ))}
      </tbody>
    </Box>
  )
}

function Figure({ children }: { children: React.ReactNode }) {
  return (
    <Box component="td" sx={(theme) => ({ fontFamily: theme.tirante.mono })}>
      {children}
    </Box>
  )
}

function Threads({ data }: { data: TurnSheetOut }) {
  const { main } = useUnits()
  return (
    <Box component="table" sx={TABLE}>
      <Typography component="caption" variant="h3" sx={{ textAlign: 'left', py: 1 }}>
        Thread over the whole range
      </Typography>
      <thead>
        <tr>
          <th>adjuster</th>
          <th>turned</th>
          <th>end</th>
          <th>engaged</th>
          <th>needed</th>
          <th>showing</th>
          <th>depth left</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        {data.budget.flatMap((one) =>
          [
            { turns: one.shortest, ends: one.at_shortest },
            ...(one.longest === one.shortest ? [] : [{ turns: one.longest, ends: one.at_longest }]),
          ].flatMap(({ turns, ends }) =>
            ends.map((end) => (
              <tr key={`${one.name}${turns}${end.end}`}>
                <td>{one.name}</td>
                <Figure>
                  {shown(turns)} {one.unit}s
                </Figure>
                <td>{end.end}</td>
                <Figure>{main(end.engagement_mm)}</Figure>
                <Figure>{main(end.needed_mm)}</Figure>
                <Figure>{main(end.showing_mm)}</Figure>
                <Figure>{end.depth_left_mm === null ? '–' : main(end.depth_left_mm)}</Figure>
                <Box component="td" sx={{ color: end.ok ? 'text.secondary' : 'error.main' }}>
                  {end.ok ? '● holds' : '■ out of thread'}
                </Box>
              </tr>
            )),
          ),
        )}
      </tbody>
    </Box>
  )
}

/** From measured to wanted, and the range that is to be had. */
export function AlignmentPanel(props: {
  query: ReturnType<typeof useTurnSheet>
  alignment: Alignment
  onChange: (next: Alignment) => void
}) {
  const { alignment, onChange } = props
  const data = props.query.data
  const { unit } = useUnits()
  const [open, setOpen] = useState(false)
  const measures = Object.entries(data?.measures ?? {})
  if (measures.length === 0) return null
  const aim = (key: string, part: Partial<Aim>) => {
    const before = alignment.aims[key] ?? { measured: 0, wanted: 0 }
    onChange({ ...alignment, aims: { ...alignment.aims, [key]: { ...before, ...part } } })
  }
  const chosen = open
    ? measures
    : measures.filter(
        ([key]) =>
        [
          'camber_deg', 'toe_deg', 'right_toe_deg', 'total_toe_deg', 'straight_ahead_deg', 'caster_deg', 'pinion_change_deg', 'axle_steer_deg',
        ].includes(key), // prettier-ignore
      )
  return (
    <>
      <Section title="From measured to wanted" note="as read at ride height, this side">
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 76px 76px', columnGap: 1 }} aria-hidden>
          <span />
          {['measured', 'wanted'].map((head) => (
            <Typography key={head} variant="caption" sx={{ color: 'text.secondary', textAlign: 'right' }}>
              {head}
            </Typography>
          ))}
        </Box>
        {chosen.map(([key, name]) => (
          <Box
            key={key}
            sx={{ display: 'grid', gridTemplateColumns: '1fr 76px 76px', columnGap: 1, alignItems: 'baseline' }}
          >
            <Typography variant="body2">
              {name}, {isAngle(key) ? '°' : unit}
            </Typography>
            {(['measured', 'wanted'] as const).map((which) => (
              <Measured
                key={which}
                hideLabel
                signed
                angle={isAngle(key)}
                label={`${name}, ${which}`}
                value={alignment.aims[key]?.[which] ?? 0}
                onChange={(value) => value !== null && aim(key, { [which]: value })}
              />
            ))}
          </Box>
        ))}
        <Typography
          component="button"
          variant="caption"
          onClick={() => setOpen(!open)}
          sx={{ border: 0, bgcolor: 'transparent', color: 'primary.main', p: 0, cursor: 'pointer' }}
        >
          {open ? 'fewer measures' : 'all measures'}
        </Typography>
        {data?.reached !== null && data && <Answer data={data} />}
        {props.query.isFetching && <Busy what="Working out the turns" />}
      </Section>
      <Section title="Range to be had" note="plus and minus, from as built">
        {chosen.map(([key, name]) => (
          <Measured
            key={key}
            angle={isAngle(key)}
            label={`± ${name}`}
            min={0}
            value={alignment.ranges[key] ?? 0}
            onChange={(value) =>
              value !== null && onChange({ ...alignment, ranges: { ...alignment.ranges, [key]: value } })
            }
          />
        ))}
      </Section>
      {data && data.fixed.length > 0 && (
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary' }}>
          {data.fixed.join('; ')}
        </Typography>
      )}
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary' }}>
        The wheel’s height is held: on level stands, springs out or dummies in. Measure again after the first turns.
      </Typography>
      {data?.command && (
        <Fold title="Working" note="the mechanism solved anew, each length changed">
          <Repeats line={data.command} what="This line repeats the table:" />
        </Fold>
      )}
    </>
  )
}

/** An angle, or a length in either unit. */
function Measured(props: {
  angle: boolean
  label: string
  value: number
  onChange: (value: number | null) => void
  hideLabel?: boolean
  signed?: boolean
  min?: number
}) {
  const { angle, signed, ...rest } = props
  return angle ? <NumberField {...rest} unit="°" /> : <MmField {...rest} signed={signed} />
}

function Answer({ data }: { data: TurnSheetOut }) {
  const { signed } = useUnits()
  return (
    <Box
      data-testid="turns"
      sx={{
        border: 1,
        borderColor: data.reached ? 'primary.main' : 'warning.main',
        p: 1.25,
        mt: 1,
        bgcolor: 'background.paper',
      }}
    >
      <Typography variant="h3" component="p" sx={{ m: 0 }}>
        {data.reached ? 'Turn' : '▲ As near as it goes'}
      </Typography>
      {data.turns.map((one) => (
        <Box key={one.name} sx={{ display: 'flex', justifyContent: 'space-between' }}>
          <span>{one.name}</span>
          <Box component="span" sx={(theme) => ({ fontFamily: theme.tirante.mono, fontWeight: 700 })}>
            {Math.abs(one.turns).toFixed(one.unit === 'turn' ? 2 : 0)} {one.unit}
            {Math.abs(one.turns) === 1 ? '' : 's'} {one.turns > 0 ? 'longer' : 'shorter'}
          </Box>
        </Box>
      ))}
      {data.turns.length === 0 && <Typography variant="body2">Nothing: it is near enough.</Typography>}
      {Object.keys(data.also).length > 0 && (
        <Typography variant="caption" component="div" sx={{ mt: 0.5 }}>
          It changes too:{' '}
          {Object.entries(data.also)
            .map(([key, value]) => `${data.measures[key] ?? key} ${signed(value, isAngle(key))}`)
            .join(', ')}
        </Typography>
      )}
      {!data.reached &&
        Object.entries(data.misses).map(([key, value]) => (
          <Typography key={key} variant="caption" component="div">
            {data.measures[key] ?? key} still off by {signed(value, isAngle(key))}
          </Typography>
        ))}
    </Box>
  )
}
