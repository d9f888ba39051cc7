import { Box, Button, Menu, MenuItem, Typography } from '@mui/material'
import { Link as RouterLink } from 'react-router'
import { useEffect, useRef, useState } from 'react'
import type { BracketFamily } from '../../api'
import { useDesign, useSessionPart } from '../../app/session'
import { Told, useUnits } from '../../quantity'
import { Problem } from '../../ui'
import { EyeSizes } from './EyeSizes'
import { heldAt, useNewBracket, type Place } from '../parts'

/** Every joint of the job, numbered as on the sheet: where it is, how its bolt points, and what holds it. */
export function Joints({ places, ofEnd, chosen }: { places: Place[]; ofEnd?: string; chosen: number | null }) {
  const make = useNewBracket()
  const { parts } = useDesign()
  const endOf = (place: Place) => {
    const part = parts.find((one) => one.id === place.id)
    const between = part && 'between' in part ? part.between : null
    if (part && 'end_id' in part) return part.end_id
    return between && between.kind === 'end' ? between.end_id : part ? null : place.id
  }
  // a part whose ends are nowhere in the car has one pattern for both
  const alike = (place: Place) =>
    place.together && !place.at
      ? places.filter(
          (one) =>
            one.id === place.id &&
            one.by === null &&
            !one.elsewhere &&
            one.together &&
            !one.missing &&
            one.forked === place.forked,
        )
      : [place]
  // those of the end on the sheet stand first
  const order = places.map((_, i) => i)
  order.sort((a, b) => Number(endOf(places[b]!) === ofEnd) - Number(endOf(places[a]!) === ofEnd) || a - b)
  return (
    <Box component="ol" aria-label="Joints" sx={{ listStyle: 'none', p: 0, m: 0 }}>
      {order.map((i) => (
        <Joint
          key={heldAt(places[i]!.held)}
          place={places[i]!}
          number={i + 1}
          chosen={chosen === i + 1}
          busy={make.isPending}
          with={alike(places[i]!)}
          onMake={(family) => make.mutate({ free: alike(places[i]!), family })}
        />
      ))}
      {make.error && <Problem error={make.error} />}
    </Box>
  )
}

/** What a bracket may be in the place of a pair of tabs. */
const OTHERS: [BracketFamily, string][] = [
  ['folded_u', 'folded from one plate'],
  ['angle_bracket', 'two angles, bolted on'],
  ['lapped_plate', 'one plate on a face, its bolt square to that'],
  ['rail_sleeve', 'a sleeve through a box, its bolt right through it'],
  ['strap_tab', 'a strap over a tube, its bolt square to that'],
  ['split_clamp', 'a clamp in two halves round a tube, its bolt along that'],
]

function Joint(props: {
  place: Place
  number: number
  chosen: boolean
  busy: boolean
  with: Place[]
  onMake: (family: BracketFamily) => void
}) {
  const { place, number, chosen } = props
  const design = useDesign()
  const jobId = useSessionPart((state) => state.jobId)
  const { main } = useUnits()
  const row = useRef<HTMLLIElement>(null)
  useEffect(() => {
    if (chosen) row.current?.scrollIntoView({ block: 'center' })
  }, [chosen])
  const bracket = design.parts.find((one) => one.id === place.by)
  const signed = (mm: number) => `${mm < 0 ? '−' : ''}${main(Math.abs(mm))}`
  return (
    <Box
      component="li"
      ref={row}
      sx={{
        py: 0.75,
        borderTop: 1,
        borderColor: 'divider',
        pl: 1,
        borderLeft: 3,
        borderLeftColor: chosen ? 'warning.main' : 'transparent',
      }}
    >
      <Typography variant="body2">
        <Box component="span" sx={{ color: 'text.secondary', mr: 1 }}>
          {number}
        </Box>
        <Box component="span" sx={{ fontWeight: 600 }}>
          {place.of}, {place.name}
        </Box>
        {': '}
        {bracket ? (
          <Box component={RouterLink} to={`/jobs/${jobId}/brackets/${bracket.id}`} sx={{ color: 'primary.main' }}>
            {bracket.name}
          </Box>
        ) : place.elsewhere ? (
          `held by ${place.elsewhere}`
        ) : (
          'nothing here yet'
        )}
      </Typography>
      <Typography variant="caption" component="p" sx={{ m: 0, color: 'text.secondary' }}>
        {place.at
          ? place.at.map((mm, axis) => `${'xyz'[axis]} ${signed(mm)}`).join(', ')
          : 'where it is in the car is not known'}
        {place.bolt && `; bolt ${place.bolt}`}
        {place.where && (
          <>
            ; {!place.on && 'on '}
            <Told>{place.where}</Told>
          </>
        )}
      </Typography>
      {!bracket && !place.elsewhere && place.missing && (
        <Typography variant="caption" component="p" sx={{ m: 0 }}>
          {place.missing}
        </Typography>
      )}
      {place.sized && (!bracket || place.missing || place.sized.startsWith('eyes/')) && (
        <EyeSizes endId={place.id} path={place.sized} of={place.name} />
      )}
      {!bracket && !place.elsewhere && !place.missing && props.with[0] === place && (
        <Button
          size="small"
          disabled={props.busy}
          onClick={() => props.onMake('tab_pair')}
          sx={{ p: 0, textAlign: 'left' }}
        >
          {place.family !== 'tab_pair'
            ? `Add a ${place.makes} for the ${place.of}`
            : props.with.length > 1
              ? `Add a ${place.makes} for both ends of the ${place.of}`
              : `Add a ${place.makes} for the ${place.of}, ${place.name}`}
        </Button>
      )}
      {!bracket &&
        !place.elsewhere &&
        !place.missing &&
        props.with[0] === place &&
        place.family === 'tab_pair' &&
        !place.forked && <Others busy={props.busy} onMake={props.onMake} of={`${place.of}, ${place.name}`} />}
    </Box>
  )
}

/** What else may hold it, one below the other once it is asked for: seven at every joint are too many to read past. */
function Others({ busy, of, onMake }: { busy: boolean; of: string; onMake: (family: BracketFamily) => void }) {
  const [at, openAt] = useState<HTMLElement | null>(null)
  return (
    <>
      <Button
        size="small"
        disabled={busy}
        aria-haspopup="menu"
        aria-expanded={at !== null}
        onClick={(event) => openAt(event.currentTarget)}
        sx={{ p: 0, display: 'block', textAlign: 'left' }}
      >
        or another kind of bracket…
      </Button>
      <Menu
        anchorEl={at}
        open={at !== null}
        onClose={() => openAt(null)}
        slotProps={{ list: { 'aria-label': `Brackets for the ${of}` } }}
      >
        {OTHERS.map(([family, told]) => (
          <MenuItem
            key={family}
            dense
            onClick={() => {
              openAt(null)
              onMake(family)
            }}
          >
            {told}
          </MenuItem>
        ))}
      </Menu>
    </>
  )
}
