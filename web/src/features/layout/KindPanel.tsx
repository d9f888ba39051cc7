import { Box, Button, Checkbox, FormControlLabel, InputBase, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api, type EndKind, type KindJoint, type OwnKind, type SuspensionEnd } from '../../api'
import { useEndEdit, useSessionPart } from '../../app/session'
import { studied, type PointMoves } from '../../app/travel'
import { FieldRows, Optional, plain, useForms, withValue, type Forms, type Taken } from '../../fields'
import { Busy, Fold, Problem, saveText } from '../../ui'
import { KindJoints } from './KindJoints'
import { PointRows } from './PointRows'

interface Props {
  end: SuspensionEnd
  kind: EndKind
  chosen: string | null
  onChoose: (name: string) => void
  moves: PointMoves
}

/** What an end's kind is made of; of its own kind all of it may be changed. */
export function KindPanel(props: Props) {
  const forms = useForms()
  const { end } = props
  if (!forms) return <Busy what="Asking what may be set" />
  return (
    <Box sx={{ px: 2.25, py: 1, overflowY: 'auto' }}>
      {end.end.kind ? <Own {...props} own={end.end.kind} forms={forms} /> : <Shipped {...props} />}
    </Box>
  )
}

/** What the server makes of the end, taken into the design. */
function useMade(end: SuspensionEnd) {
  const { session, editEnd } = useEndEdit(end.id)
  const taken = (changed: { end: SuspensionEnd }) => editEnd('kind', () => changed.end.end)
  const asked = () => ({ design: studied(session.state().design), end_id: end.id })
  return { taken, asked }
}

function Shipped({ end, kind }: Props) {
  const { taken, asked } = useMade(end)
  const make = useMutation({
    mutationFn: () => answer(api.POST('/api/ends/own', { body: asked() })),
    onSuccess: taken,
  })
  return (
    <>
      <Typography variant="h2" sx={{ my: 1 }}>
        {kind.title}
      </Typography>
      <Typography variant="body2" sx={{ mb: 1.5 }}>
        This kind ships with the application. Make it this end’s own to put points, bodies and joints in or take them
        out; its points, parts and loads stay what they are until you do.
      </Typography>
      <Button variant="contained" size="small" disabled={make.isPending} onClick={() => make.mutate()}>
        Make it this end’s own
      </Button>
      <TakeAway end={end} />
      {make.error && <Problem error={make.error} />}
    </>
  )
}

function TakeAway({ end }: { end: SuspensionEnd }) {
  const { asked } = useMade(end)
  const write = useMutation({
    mutationFn: () => answer(api.POST('/api/ends/kind/file', { body: asked() })),
    onSuccess: (found) => saveText(found.text, `${found.name}.json`, 'application/json'),
  })
  return (
    <Box sx={{ my: 1 }}>
      <Button size="small" onClick={() => write.mutate()}>
        Take away as a template file
      </Button>
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
        Points, bodies, joints and roles. Damper, stops, wheel and additions are the end’s, and do not go with it.
      </Typography>
      {write.error && <Problem error={write.error} />}
    </Box>
  )
}

function Own({ end, kind, own, forms, chosen, onChoose, moves }: Props & { own: OwnKind; forms: Forms }) {
  const { session, editEnd, problems } = useEndEdit(end.id)
  const { taken: put, asked } = useMade(end)
  const made = useSessionPart(({ design }) => design.parts.some((part) => 'end_id' in part && part.end_id === end.id))
  const add = useMutation({
    mutationFn: (what: { sort: 'point' | 'body'; what: string }) =>
      answer(api.POST('/api/ends/kind/add', { body: { ...asked(), ...what } })),
    onSuccess: (changed) => put(changed),
  })
  const change = (label: string, next: (now: OwnKind) => OwnKind) =>
    editEnd(`kind ${label}`, (now) => (now.kind ? { ...now, kind: next(now.kind) } : now))
  const joints = (label: string, next: (now: KindJoint[]) => KindJoint[]) =>
    change(label, (now) => ({ ...now, joints: next(now.joints) }))
  // with what was said of it at the other stations
  const takeOut = (name: string) =>
    editEnd('take a joint out', (now) => ({
      ...now,
      kind: now.kind && { ...now.kind, joints: now.kind.joints.filter((joint) => joint.name !== name) },
      links: without(now.links, name),
      balls: without(now.balls, name),
      bushes: without(now.bushes, name),
      sliders: without(now.sliders, name),
    }))
  const points = own.points.map((point) => ({ ...point, measure: point.measure ?? '', pair: point.pair ?? true }))
  const takenOf = (of: EndKind['points']): Taken => ({
    bodies: own.bodies.map((value) => ({ value, label: plain(value) })),
    points: of.map((point) => ({ value: point.name, label: point.what })),
  })
  const free = points.filter((point) => !usesPoint(own, end, point.name))
  const idle = own.bodies.filter((body) => !usesBody(own, end, body))
  const wrong = problems.get('kind') ?? problems.get('kind.bodies') ?? problems.get('kind.joints')
  return (
    <>
      {wrong && (
        <Typography role="alert" variant="body2" sx={{ color: 'error.main', mb: 1 }}>
          {wrong}
        </Typography>
      )}
      <FieldRows
        whole={end.end}
        fields={[...forms.rows('own kind'), ...(own.axle === 'beam' ? forms.rows('own beam') : [])]}
        problems={problems}
        onChange={(path, value) => editEnd(path, (now) => withValue(now, path, value))}
      />
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary', mt: 0 }}>
        {own.axle === 'beam'
          ? 'A beam axle: both wheels on one body.'
          : 'Independent: the left corner; the right is its mirror image.'}
        {made && ' Parts stand for its joints and bodies by their names: one that is taken out leaves its part behind.'}
      </Typography>
      <Fold title="Points" note={`${points.length}; left side, x ahead, y left, z up`} open>
        <PointRows
          endId={end.id}
          end={end.end}
          points={points}
          problems={problems}
          chosen={chosen}
          onChoose={onChoose}
          onChange={editEnd}
          moves={moves}
        />
        {own.axle === 'beam' && (
          <Ticks
            label="In the middle of the car, once"
            names={points.map((point) => ({ name: point.name, label: point.what, on: !point.pair }))}
            onTick={(name, on) =>
              change(`once ${name}`, (now) => ({
                ...now,
                points: now.points.map((point) => (point.name === name ? { ...point, pair: !on } : point)),
              }))
            }
          />
        )}
        <Add what="point" busy={add.isPending} onAdd={(what) => add.mutate({ sort: 'point', what })} />
        <TakeOut
          names={free.map((point) => ({ name: point.name, label: point.what }))}
          onTake={(name) =>
            editEnd('take a point out', (now) => ({
              ...now,
              kind: now.kind && { ...now.kind, points: now.kind.points.filter((point) => point.name !== name) },
              points: without(now.points, name),
              right_points: without(now.right_points, name),
            }))
          }
        />
      </Fold>
      <Fold title="Bodies" note={own.bodies.map(plain).join(', ')} open>
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary', mt: 0 }}>
          What moves and is no link: an upright, an arm, a rocker, a link that carries a spring. The chassis and the
          rack are there by themselves.
        </Typography>
        <Ticks
          label="Carries the wheel, not made here"
          names={own.bodies.map((body) => ({
            name: body,
            label: plain(body),
            on: (own.carriers ?? []).includes(body),
          }))}
          onTick={(body, on) =>
            change(`carries ${body}`, (now) => ({
              ...now,
              carriers: on ? [...(now.carriers ?? []), body] : (now.carriers ?? []).filter((one) => one !== body),
              bought: now.bought.filter((one) => one !== body),
            }))
          }
        />
        <Ticks
          label="Bought whole, not judged here"
          names={own.bodies
            .filter((body) => !(own.carriers ?? []).includes(body))
            .map((body) => ({ name: body, label: `${plain(body)}, bought`, on: own.bought.includes(body) }))}
          onTick={(body, on) =>
            change(`bought ${body}`, (now) => ({
              ...now,
              bought: on ? [...now.bought, body] : now.bought.filter((one) => one !== body),
            }))
          }
        />
        <Add what="body" busy={add.isPending} onAdd={(what) => add.mutate({ sort: 'body', what })} />
        <TakeOut
          names={idle.map((body) => ({ name: body, label: plain(body) }))}
          onTake={(body) =>
            change('take a body out', (now) => ({
              ...now,
              bodies: now.bodies.filter((one) => one !== body),
              carriers: (now.carriers ?? []).filter((one) => one !== body),
              bought: now.bought.filter((one) => one !== body),
            }))
          }
        />
        {add.error && <Problem error={add.error} />}
      </Fold>
      <Fold title="Joints" note={`${own.joints.length}`} open>
        <KindJoints
          kind={own}
          points={points}
          forms={forms}
          problems={problems}
          onChange={joints}
          onTakeOut={takeOut}
        />
      </Fold>
      <Fold
        title="What it is measured by"
        note="roles"
        wrong={[...problems.keys()].some((p) => p.startsWith('kind.roles'))}
      >
        <Roles
          end={end}
          own={own}
          forms={forms}
          problems={problems}
          taken={takenOf(points)}
          joined={takenOf(points.filter((point) => joined(own, point.name)))}
        />
      </Fold>
      <TakeAway end={end} />
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary' }}>
        {kind.title}: saved with the job {session.state().design.name}.
      </Typography>
    </>
  )
}

const without = <T,>(of: Record<string, T>, name: string): Record<string, T> =>
  Object.fromEntries(Object.entries(of).filter(([one]) => one !== name))

/** Whether a joint holds a point. */
const joined = (kind: OwnKind, name: string) => JSON.stringify(kind.joints).includes(`"${name}"`)

/** Whether anything of the end needs a point. */
function usesPoint({ joints, roles }: OwnKind, { end }: SuspensionEnd, name: string) {
  const rest = [joints, roles, end.damper, end.other_dampers, end.bump_stop, end.strap, end.shafts, end.steering]
  return JSON.stringify(rest).includes(`"${name}"`)
}

/** Whether anything of the end needs a body. */
function usesBody({ joints, roles }: OwnKind, { end }: SuspensionEnd, name: string) {
  const rest = [
    joints,
    roles,
    end.damper,
    end.other_dampers,
    end.bump_stop,
    end.strap,
    end.shafts,
    end.obstacles,
    end.additions,
    end.member_od_mm,
  ]
  return JSON.stringify(rest).includes(`"${name}"`)
}

function Ticks(props: {
  label: string
  names: { name: string; label: string; on: boolean }[]
  onTick: (name: string, on: boolean) => void
}) {
  return (
    <Box component="fieldset" sx={{ border: 0, p: 0, m: 0, mb: 1 }}>
      <Typography component="legend" variant="body2" sx={{ color: 'text.secondary' }}>
        {props.label}
      </Typography>
      {props.names.map((one) => (
        <FormControlLabel
          key={one.name}
          control={
            <Checkbox
              size="small"
              sx={{ py: 0.25 }}
              checked={one.on}
              onChange={(event) => props.onTick(one.name, event.target.checked)}
            />
          }
          label={<Typography variant="body2">{one.label}</Typography>}
        />
      ))}
    </Box>
  )
}

function Add({ what, busy, onAdd }: { what: 'point' | 'body'; busy: boolean; onAdd: (name: string) => void }) {
  const [name, setName] = useState('')
  const add = () => {
    if (!name.trim()) return
    onAdd(name.trim())
    setName('')
  }
  return (
    <Box sx={{ display: 'flex', gap: 1, my: 0.5 }}>
      <InputBase
        value={name}
        placeholder={what === 'point' ? 'what the point is' : 'what it is, as “lower arm”'}
        onChange={(event) => setName(event.target.value)}
        onKeyDown={(event) => event.key === 'Enter' && add()}
        inputProps={{ 'aria-label': `New ${what}`, maxLength: 80 }}
        sx={{ flex: 1, fontSize: 13.5, borderBottom: 1, borderColor: 'divider' }}
      />
      <Button size="small" disabled={!name.trim() || busy} onClick={add}>
        Add the {what}
      </Button>
    </Box>
  )
}

/** What nothing needs may be taken out again. */
function TakeOut({ names, onTake }: { names: { name: string; label: string }[]; onTake: (name: string) => void }) {
  return (
    <>
      {names.map((one) => (
        <Button key={one.name} size="small" onClick={() => onTake(one.name)}>
          Take out: {one.label}
        </Button>
      ))}
    </>
  )
}

/** Which bodies and points the measures are taken from; those that are not given, are not told. */
function Roles(props: {
  end: SuspensionEnd
  own: OwnKind
  forms: Forms
  problems: Map<string, string>
  taken: Taken
  joined: Taken
}) {
  const { end, own, forms, problems, taken, joined } = props
  const { editEnd } = useEndEdit(end.id)
  const rows = (form: string, of: Taken) => (
    <FieldRows
      whole={end.end}
      fields={forms.rows(form, {}, of)}
      problems={problems}
      onChange={(path, value) => editEnd(path, (now) => withValue(now, path, value))}
    />
  )
  const first = joined.points?.[0]?.value
  const role = (
    key: 'steer_axis' | 'upper_plane' | 'lower_plane' | 'upper_line' | 'lower_line',
    form: string,
    label: string,
    count: number,
  ) => (
    <Optional
      label={label}
      present={own.roles[key] !== null}
      onChange={(on) =>
        first &&
        editEnd(form, (now) => withValue(now, `kind/roles/${key}`, on ? Array<string>(count).fill(first) : null))
      }
    >
      {rows(form, joined)}
    </Optional>
  )
  return (
    <>
      {rows('roles', taken)}
      {own.axle === 'beam' && rows('roles of a beam', taken)}
      {role('steer_axis', 'steering axis', 'a steering axis: kingpin, scrub, trail', 2)}
      {own.axle === 'independent' ? (
        <>
          {role('upper_plane', 'upper plane', 'an upper plane: roll centre and anti-dive by planes', 3)}
          {role('lower_plane', 'lower plane', 'a lower plane', 3)}
        </>
      ) : (
        <>
          {role('upper_line', 'upper line', 'an upper link in the side view: anti-squat', 2)}
          {role('lower_line', 'lower line', 'a lower link in the side view', 2)}
        </>
      )}
    </>
  )
}
