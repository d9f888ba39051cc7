import { Box, Button, Typography } from '@mui/material'
import { memo } from 'react'
import type { Car, End, EndKind, StudyOut, SuspensionEnd } from '../../api'
import { useEndEdit } from '../../app/session'
import { NotWatched, type PointMoves } from '../../app/travel'
import { MmField, useUnits } from '../../quantity'
import { Busy, Fold, Segmented, TextRow } from '../../ui'
import { Additions } from './Additions'
import { NotMade } from '../parts'
import { FieldRows, Optional, useForms, withValue, withoutValue, type Field, type Forms } from '../../fields'
import { FromScales } from './FromScales'
import { Lengths } from './Lengths'
import { choicesOf, pruned, withPlaces } from './places'
import { PointRows } from './PointRows'
import { PointsFile } from './PointsFile'
import { PointKeeps } from './PointKeeps'
import { FrontShare, Shares } from './Shares'
import { ThingsToClear } from './ThingsToClear'

interface Props {
  end: SuspensionEnd
  kind: EndKind
  study: StudyOut | undefined
  chosen: string | null
  onChoose: (name: string) => void
  moves: PointMoves
}

/** All that an end is: its points, how it stands, what it carries, what limits it, what it must miss. */
export const EndPanel = memo(function EndPanel(props: Props) {
  const forms = useForms()
  return forms ? <Panel {...props} forms={forms} /> : <Busy what="Asking what may be set" />
})

const SHAFT = 'drive shaft'

function Panel({ end, kind, study, chosen, onChoose, moves, forms }: Props & { forms: Forms }) {
  const { session, car, edit, editEnd, editCar, problems: refused } = useEndEdit(end.id)
  const { main } = useUnits()
  const problems = new Map(refused)
  for (const fault of study?.faults ?? []) if (!problems.has(fault.field)) problems.set(fault.field, fault.message)
  const wrong = (...starts: string[]) =>
    [...problems.keys()].some((path) => starts.some((start) => path === start || path.startsWith(`${start}.`)))
  const taken = choicesOf(kind, end.end)
  const rows = (form: string | Field[], names?: Record<string, string>) => (
    <FieldRows
      whole={end.end}
      fields={typeof form === 'string' ? forms.rows(form, names, taken) : form}
      problems={problems}
      onChange={(path, value) => editEnd(path, (now) => withValue(now, path, value))}
    />
  )
  const carRows = (form: string) => (
    <FieldRows
      whole={car}
      fields={forms.rows(form, { end: end.end.end })}
      problems={new Map([...problems].map(([path, message]) => [path.replace(/^car\./, ''), message]))}
      onChange={(path, value) => editCar(withValue(car, path, value))}
    />
  )
  const named = (of: 'bushes' | 'balls' | 'sliders', name: string, made: unknown) =>
    editEnd(`${of} ${name}`, (now) =>
      made === null ? withoutValue(now, `${of}/${name}`) : withValue(now, `${of}/${name}`, made),
    )
  const raised = car.front_rise_mm !== 0 || car.rear_rise_mm !== 0
  const signed = (mm: number) => `${mm > 0 ? '+' : mm < 0 ? '−' : ''}${main(Math.abs(mm))}`
  const place = (path: string, name: string, label: string) => (
    <>
      {rows('place', { place: path, label })}
      {rows([{ kind: 'at', path: `points/${name}`, label: `${label}, where` }])}
    </>
  )
  const unitRows = (unit: string, { a, b, eye_a, eye_b, stands }: NonNullable<End['damper']>) => (
    <>
      {place(`${unit}/a`, a.point, 'Upper eye')}
      {place(`${unit}/b`, b.point, 'Lower eye')}
      {rows('damper', { unit })}
      {Object.entries(stands === 'seats' ? {} : { eye_a, eye_b }).map(([eye, given]) => (
        <Optional
          key={eye}
          label={eye === 'eye_a' ? 'sizes of the upper eye, for a bracket' : 'sizes of the lower eye, for a bracket'}
          present={Boolean(given)}
          onChange={(on) =>
            editEnd(eye, (now) => withValue(now, `${unit}/${eye}`, on ? forms.begins('damper eye') : null))
          }
        >
          {rows('damper eye', { unit, eye })}
        </Optional>
      ))}
    </>
  )
  return (
    <Box sx={{ px: 2.25, py: 1, overflowY: 'auto' }}>
      <TextRow label="Name" value={end.name} onChange={(name) => edit('name', (now) => ({ ...now, name }))} />
      <Segmented
        label="Which end of the car"
        fullWidth
        value={end.end.end}
        onChange={(where) => editEnd('end', (now) => ({ ...now, end: where }))}
        options={[
          { value: 'front', label: 'front of the car' },
          { value: 'rear', label: 'rear of the car' },
        ]}
      />
      <Box sx={{ mt: 1.5 }}>
        <NotMade of={end.id} />
      </Box>
      <Fold title="Points" note="left side; x ahead, y left, z up" open wrong={wrong('points', 'right_points')}>
        <PointKeeps moves={moves} made={end.made} onMade={(made) => edit('made', (now) => ({ ...now, made }))} />
        <PointRows
          endId={end.id}
          end={end.end}
          points={kind.points}
          problems={problems}
          chosen={chosen}
          onChoose={onChoose}
          onChange={editEnd}
          moves={moves}
        />
        <PointsFile
          end={end}
          onRead={(read) => editEnd('points file', (now) => ({ ...now, points: { ...now.points, ...read } }))}
        />
      </Fold>
      <Fold title="Lengths" note="what is made after">
        <Lengths end={end} rows={study?.lengths ?? []} />
      </Fold>
      <Fold
        title="Ride height"
        note={
          raised ? `front ${signed(car.front_rise_mm)}, rear ${signed(car.rear_rise_mm)}` : 'as the points were taken'
        }
        wrong={wrong('ride', 'car.front_rise_mm', 'car.rear_rise_mm')}
      >
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary', mt: 0 }}>
          The body against how the points were taken. The whole car follows: wheels, dampers, steering axis.
        </Typography>
        {carRows('ride')}
        {problems.has('ride.rise_mm') && <Wrong message={problems.get('ride.rise_mm')} />}
      </Fold>
      <Fold title="Vehicle" note={`wheelbase ${main(car.wheelbase_mm)}`} wrong={wrong('car', 'vehicle')}>
        {carRows('car')}
        {car.corners === null && <FrontShare car={car} onChange={editCar} />}
        {carRows('torque')}
        <Optional
          label="corner weights"
          present={car.corners !== null}
          onChange={(on) => editCar({ corners: on ? forms.begins<Car['corners']>('corners') : null })}
        >
          <FromScales onRead={(corners) => editCar({ corners })} />
          {car.corners && <Shares corners={car.corners} onChange={(corners) => editCar({ corners })} />}
          {carRows('corners')}
        </Optional>
        {carRows('unsprung')}
      </Fold>
      <Fold title="Lean and tyres" note="of the whole car" wrong={wrong('car.roll', 'car.tyre', 'car.track')}>
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary', mt: 0 }}>
          How far the body leans in a corner is worked out of springs, bars and roll centres of both ends. Type what an
          end that is not in this job does, or what was measured.
        </Typography>
        {carRows('lean')}
        {carRows('tyres')}
      </Fold>
      <Fold title="Wheel" note={`radius ${main(end.end.wheel.loaded_radius_mm)}`} wrong={wrong('wheel')}>
        <Track end={end.end} onChange={editEnd} />
        {rows('wheel')}
        <Optional
          label="joints live inside the rim"
          present={end.end.wheel.rim !== null}
          onChange={(on) => editEnd('rim', (now) => withValue(now, 'wheel/rim', on ? forms.begins('rim') : null))}
        >
          {rows('rim')}
        </Optional>
      </Fold>
      <Fold title="Damper" note={end.end.damper ? '' : 'none'} wrong={wrong('damper')}>
        <Optional
          label="there is a damper"
          present={end.end.damper !== null}
          onChange={(on) =>
            editEnd('damper', (now) =>
              on
                ? withPlaces(now, 'damper', { a: 'damper_top', b: 'damper_low' }, kind, forms.begins('damper'))
                : pruned({ ...now, damper: null }, kind),
            )
          }
        >
          {end.end.damper && unitRows('damper', end.end.damper)}
        </Optional>
      </Fold>
      <Fold
        title="More dampers and springs"
        note={Object.keys(end.end.other_dampers).join(', ') || 'none'}
        wrong={wrong('other_dampers')}
      >
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary', mt: 0 }}>
          A second damper a side, or a spring that stands by itself: an air spring, a coil on an arm. What has a rate
          carries the car; several that have one share by their rates, as if all took up load together.
        </Typography>
        {Object.entries(end.end.other_dampers).map(([name, unit]) => (
          <Box key={name} sx={{ mb: 1.5 }}>
            <Typography variant="body2" sx={{ fontWeight: 600 }}>
              {name}
            </Typography>
            {unitRows(`other_dampers/${name}`, unit)}
            <Button
              size="small"
              onClick={() => editEnd('unit', (now) => pruned(withoutValue(now, `other_dampers/${name}`), kind))}
            >
              Take the {name} out
            </Button>
          </Box>
        ))}
        {(['second damper', 'spring by itself'] as const).map((name) => (
          <Button
            key={name}
            size="small"
            disabled={name in end.end.other_dampers}
            onClick={() =>
              editEnd('unit', (now) =>
                withPlaces(
                  now,
                  `other_dampers/${name}`,
                  { a: `${name.split(' ')[0]}_unit_top`, b: `${name.split(' ')[0]}_unit_low` },
                  kind,
                  forms.begins(name === 'second damper' ? 'damper' : 'spring'),
                ),
              )
            }
          >
            Add a {name}
          </Button>
        ))}
      </Fold>
      <Fold
        title="Stops"
        note={[end.end.bump_stop && 'bump stop', end.end.strap && 'strap'].filter(Boolean).join(', ') || 'none'}
        wrong={wrong('bump_stop', 'strap', 'sliders')}
      >
        <Optional
          label="bump stop"
          present={end.end.bump_stop !== null}
          onChange={(on) =>
            editEnd('bump stop', (now) =>
              on
                ? withPlaces(now, 'bump_stop', { tip: 'stop_tip', pad: 'stop_pad' }, kind, forms.begins('stop'))
                : pruned({ ...now, bump_stop: null }, kind),
            )
          }
        >
          {end.end.bump_stop && (
            <>
              {place('bump_stop/tip', end.end.bump_stop.tip.point, 'Its tip')}
              {place('bump_stop/pad', end.end.bump_stop.pad.point, 'Middle of the pad')}
              {rows('stop')}
            </>
          )}
        </Optional>
        <Optional
          label="droop strap"
          present={end.end.strap !== null}
          onChange={(on) =>
            editEnd('strap', (now) =>
              on
                ? withPlaces(now, 'strap', { a: 'strap_high', b: 'strap_low' }, kind, forms.begins('strap'))
                : pruned({ ...now, strap: null }, kind),
            )
          }
        >
          {end.end.strap && (
            <>
              {place('strap/a', end.end.strap.a.point, 'Upper end')}
              {place('strap/b', end.end.strap.b.point, 'Lower end')}
              {rows('strap')}
              {(['eye_a', 'eye_b'] as const).map((eye) => (
                <Optional
                  key={eye}
                  label={eye === 'eye_a' ? 'eye of its upper end' : 'eye of its lower end'}
                  present={end.end.strap?.[eye] != null}
                  onChange={(on) =>
                    editEnd(eye, (now) => withValue(now, `strap/${eye}`, on ? forms.begins('damper eye') : null))
                  }
                >
                  {rows('damper eye', { unit: 'strap', eye })}
                </Optional>
              ))}
            </>
          )}
        </Optional>
        {kind.sliders.map((name) => (
          <Optional
            key={name}
            label={`ends of the ${name}`}
            present={name in end.end.sliders}
            onChange={(on) => named('sliders', name, on ? forms.begins('slider') : null)}
          >
            {rows('slider', { name })}
          </Optional>
        ))}
      </Fold>
      <Fold
        title="Joints of the links"
        note={`${Object.keys(end.end.links).length} of ${kind.links.length} given`}
        wrong={wrong('links')}
      >
        <NotWatched endId={end.id} />
        {kind.links.map((name) => (
          <Box key={name} sx={{ mb: 1.5 }}>
            <Typography variant="body2" sx={{ fontWeight: 600 }}>
              {name}
            </Typography>
            {(['a', 'b'] as const).map((which) => (
              <Optional
                key={which}
                label={which === 'a' ? 'bolt of its inner end' : 'bolt of its outer end'}
                present={Boolean(end.end.links[name]?.[which])}
                onChange={(on) =>
                  editEnd(`joint ${name}${which}`, (now) => {
                    const link = now.links[name] ?? forms.begins<(typeof now.links)[string]>('link')
                    const changed = { ...link, [which]: on ? forms.begins('joint') : null }
                    return { ...now, links: { ...now.links, [name]: changed as (typeof now.links)[string] } }
                  })
                }
              >
                {rows('joint', { name, side: which })}
              </Optional>
            ))}
            {end.end.links[name] && rows('link', { name })}
          </Box>
        ))}
      </Fold>
      {kind.balls.length > 0 && (
        <Fold
          title="Bushes and ball joints"
          note={`${Object.keys(end.end.balls).length + Object.keys(end.end.bushes).length} given`}
          wrong={wrong('balls', 'bushes')}
        >
          {kind.bushes.map((name) => (
            <Optional
              key={name}
              label={`${name}: it gives`}
              present={name in end.end.bushes}
              onChange={(on) => named('bushes', name, on ? forms.begins('bush') : null)}
            >
              {rows('bush', { name })}
            </Optional>
          ))}
          {kind.balls.map((name) => (
            <Optional
              key={name}
              label={`${name}: how far it may lean`}
              present={name in end.end.balls}
              onChange={(on) => named('balls', name, on ? forms.begins('ball') : null)}
            >
              {rows('ball', { name })}
            </Optional>
          ))}
        </Fold>
      )}
      <Fold
        title="Shafts"
        note={Object.keys(end.end.shafts).join(', ') || 'none'}
        wrong={wrong('shafts', 'pinion_deg')}
      >
        {kind.axle === 'beam' && rows('pinion')}
        <Optional
          label="drive shaft"
          present={SHAFT in end.end.shafts}
          onChange={(on) =>
            editEnd('shaft', (now) =>
              on
                ? withPlaces(
                    now,
                    `shafts/${SHAFT}`,
                    { inner: 'shaft_in', outer: 'shaft_out' },
                    kind,
                    forms.begins('shaft'),
                  )
                : pruned(withoutValue(now, `shafts/${SHAFT}`), kind),
            )
          }
        >
          {end.end.shafts[SHAFT] && (
            <>
              {place(`shafts/${SHAFT}/inner`, end.end.shafts[SHAFT]!.inner.point, 'Inner joint')}
              {place(`shafts/${SHAFT}/outer`, end.end.shafts[SHAFT]!.outer.point, 'Outer joint')}
              {rows('shaft', { name: SHAFT })}
            </>
          )}
        </Optional>
      </Fold>
      <ThingsToClear
        end={end}
        kind={kind}
        forms={forms}
        problems={problems}
        editEnd={editEnd}
        wrong={wrong('obstacles', 'misses')}
      />
      <Additions end={end} kind={kind} forms={forms} wrong={wrong('additions', 'steering')} />
      <Fold title="How far to move it" wrong={wrong('box')}>
        <FieldRows
          whole={end.box}
          fields={boxForms(kind, end.end).flatMap((form) => forms.rows(form))}
          problems={new Map([...problems].map(([path, message]) => [path.replace(/^box\./, ''), message]))}
          onChange={(path, value) => edit(`box ${path}`, (now) => ({ ...now, box: withValue(now.box, path, value) }))}
        />
      </Fold>
      <Button
        color="error"
        size="small"
        sx={{ my: 1 }}
        onClick={() =>
          session.edit('remove an end', (now) => ({ ...now, ends: now.ends.filter((one) => one.id !== end.id) }))
        }
      >
        Remove this end (undo brings it back)
      </Button>
    </Box>
  )
}

/** How far an end of a kind is moved, by what. */
const boxForms = (kind: EndKind, end: End) => [
  ...(kind.rises ? ['travel'] : []),
  'roll',
  ...(kind.steered ? [end.steering ? 'steering arm' : 'rack'] : []),
]

function Wrong({ message }: { message: string | undefined }) {
  return (
    <Typography role="alert" variant="caption" component="p" sx={{ color: 'error.main', m: 0 }}>
      {message}
    </Typography>
  )
}

/** Between the wheel centres; typed, it moves the wheel and leaves the joints. */
function Track({ end, onChange }: { end: End; onChange: (label: string, change: (now: End) => End) => void }) {
  const left = end.points.wheel_centre
  if (!left) return null
  const right = end.right_points.wheel_centre
  return (
    <MmField
      label="Track, between wheel centres"
      value={(left[1] ?? 0) - (right ? (right[1] ?? 0) : -(left[1] ?? 0))}
      min={100}
      max={4000}
      onChange={(mm) =>
        mm !== null &&
        onChange('track', (now) => {
          const [x = 0, , z = 0] = now.points.wheel_centre ?? []
          const other = now.right_points.wheel_centre
          return {
            ...now,
            points: { ...now.points, wheel_centre: [x, mm / 2, z] },
            right_points: other
              ? { ...now.right_points, wheel_centre: [other[0] ?? 0, -mm / 2, other[2] ?? 0] }
              : now.right_points,
          }
        })
      }
    />
  )
}
