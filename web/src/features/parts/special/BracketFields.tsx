import { Box, Button, Checkbox, FormControlLabel, IconButton, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { Link as RouterLink } from 'react-router'
import { answer, api, type Design, type HeldJoint } from '../../../api'
import { newId, usePart, useSessionPart } from '../../../app/session'
import { MmField, Told } from '../../../quantity'
import { Choice, CrossIcon, Pick, Problem } from '../../../ui'
import { heldAt, samePlace, sayPlace, usePlaces } from '../places'
import type { Table } from '../useChosen'
import { FieldRows, Optional, useForms } from '../../../fields'
import type { OwnField } from '.'

/** The joints that a bracket holds, in the design's order. */
const heldBy = (design: Design, id: string) => design.joints.filter((joint) => joint.by === id)

/** Every joint that a bracket holds, changed alike: one bolt goes through both plates. */
function useJoints(id: string) {
  const { session, design } = usePart(id)
  const joints = heldBy(design, id)
  const change = (label: string, part: Partial<HeldJoint>) =>
    session.edit(`${id}:${label}`, (now) => ({
      ...now,
      joints: now.joints.map((joint) => (joint.by === id ? { ...joint, ...part } : joint)),
    }))
  return { joints, first: joints[0], change }
}

/** What the bracket holds: each joint may be let go, and any free end of the job taken in. */
export function Holds({ part }: OwnField) {
  const { session, design, problems } = usePart(part.id)
  const jobId = useSessionPart((state) => state.jobId)
  const places = usePlaces()
  const joints = heldBy(design, part.id)
  const free = places.filter((place) => place.by === null && !place.elsewhere)
  const letGo = (joint: HeldJoint) =>
    session.edit('let a joint go', (now) => ({ ...now, joints: now.joints.filter((one) => one.id !== joint.id) }))
  const take = (key: string) => {
    const held = free.find((place) => heldAt(place.held) === key)?.held
    if (!held) return
    const like = joints[0]
    session.edit('hold a joint', (now) => {
      const there = now.joints.find((one) => samePlace(one.held, held))
      const made: HeldJoint = {
        id: there?.id ?? newId(),
        held,
        by: part.id,
        bolt: like?.bolt ?? there?.bolt ?? null,
        spacer: like?.spacer ?? there?.spacer ?? null,
        shim_mm: like?.shim_mm ?? 0,
        bolt_axis: there?.bolt_axis ?? null,
        mount: there?.mount ?? null,
        thread_in_plane: like?.thread_in_plane ?? false,
      }
      return { ...now, joints: [...now.joints.filter((one) => one.id !== made.id), made] }
    })
  }
  return (
    <>
      {joints.map((joint) => (
        <Box key={joint.id} sx={{ display: 'flex', alignItems: 'center' }}>
          <Typography variant="body2" sx={{ flex: 1 }}>
            {'part' in joint.held ? (
              <Box
                component={RouterLink}
                to={`/jobs/${jobId}/members/${joint.held.part}`}
                sx={{ color: 'primary.main' }}
              >
                {sayPlace(places, joint.held)}
              </Box>
            ) : (
              sayPlace(places, joint.held)
            )}
          </Typography>
          <IconButton
            size="small"
            aria-label={`Let ${sayPlace(places, joint.held)} go`}
            onClick={() => letGo(joint)}
            sx={{ p: 0.25 }}
          >
            <CrossIcon sx={{ fontSize: 14 }} />
          </IconButton>
        </Box>
      ))}
      {problems.get('joints') && (
        <Typography role="alert" variant="caption" component="p" sx={{ color: 'error.main', m: 0 }}>
          {problems.get('joints')}
        </Typography>
      )}
      {free.length > 0 && (
        <Pick
          label="It holds also"
          value=""
          none="nothing else"
          options={free.map((place) => ({ value: heldAt(place.held), label: `${place.of}, ${place.name}` }))}
          onChange={take}
        />
      )}
    </>
  )
}

/** Spacer or bolt of what the bracket holds. */
export function BoltFields({ part, field, chosen }: OwnField) {
  const { problems } = usePart(part.id)
  const { first } = useJoints(part.id)
  const name = field.path as 'bolt' | 'spacer'
  const value = first?.[name] ?? null
  return (
    <Choice
      label={field.label}
      clearable={field.optional}
      value={value}
      options={chosen.options(name, field.table as Table, value)}
      onChange={(key) => chosen.choose(name, key)}
      empty={first ? undefined : 'It holds no joint yet.'}
      problem={problems.get(name)}
    />
  )
}

/** Shim at either side of the ball. */
export function Shim({ part, field }: OwnField) {
  const { problems } = usePart(part.id)
  const { first, change } = useJoints(part.id)
  const forms = useForms()
  if (!first) return null
  return (
    <MmField
      label={field.label}
      {...forms?.limits('shim', 'shim_mm')}
      value={first.shim_mm}
      onChange={(value) => value !== null && change('shim', { shim_mm: value })}
      problem={problems.get('shim_mm')}
    />
  )
}

/** Whether the bolt is sheared at its thread. */
export function ThreadInPlane({ part, field }: OwnField) {
  const { first, change } = useJoints(part.id)
  if (!first) return null
  return (
    <FormControlLabel
      control={
        <Checkbox
          size="small"
          checked={first.thread_in_plane}
          onChange={(event) => change('thread', { thread_in_plane: event.target.checked })}
        />
      }
      label={field.label}
    />
  )
}

/** The mount that it stands on: cut for it when it is chosen. */
export function OnMember({ part, field }: OwnField) {
  const { session, design, problems } = usePart(part.id)
  const { first } = useJoints(part.id)
  const places = usePlaces()
  const jobId = useSessionPart((state) => state.jobId)
  const stand = useMutation({
    mutationFn: (mount: string | null) =>
      answer(
        api.POST('/api/brackets/stand', {
          body: { design: session.state().design, part_id: part.id, mount_id: mount },
        }),
      ),
    onSuccess: (patch) => session.patch('stand a bracket on a mount', patch),
  })
  if (!first || places.some((place) => place.by === part.id && place.on)) return null
  if (design.mounts.length === 0)
    return (
      <Typography variant="body2" sx={{ color: 'text.secondary' }}>
        No mount is entered.{' '}
        <Box component={RouterLink} to={`/jobs/${jobId}/brackets`} sx={{ color: 'primary.main' }}>
          Enter what it stands on
        </Box>{' '}
        and it is cut for it.
      </Typography>
    )
  return (
    <>
      <Pick
        label={field.label}
        value={first.mount ?? ''}
        none="not said: its foot is as typed"
        options={design.mounts.map((mount) => ({ value: mount.id, label: mount.name }))}
        disabled={stand.isPending}
        problem={problems.get('mount')}
        onChange={(value) => stand.mutate(value || null)}
      />
      {stand.error && <Problem error={stand.error} />}
    </>
  )
}

/** The way its bolt points, where its end does not say so itself. */
export function BoltAxis({ part, field }: OwnField) {
  const { problems } = usePart(part.id)
  const { first, change } = useJoints(part.id)
  const places = usePlaces()
  const place = places.find((one) => one.by === part.id)
  if (!first || !place) return null
  return (
    <Box sx={{ my: 0.5 }}>
      {place.bolt && (
        <Typography variant="body2">
          Bolt <Told>{place.bolt}</Told>.
        </Typography>
      )}
      <Optional
        label="give the bolt’s direction here"
        present={first.bolt_axis !== null}
        onChange={(given) => change('bolt axis', { bolt_axis: given ? [1, 0, 0] : null })}
      >
        <FieldRows
          whole={first}
          fields={[{ kind: 'direction', path: 'bolt_axis', label: field.label }]}
          problems={problems}
          onChange={(_, value) => change('bolt axis', { bolt_axis: value as [number, number, number] })}
        />
      </Optional>
    </Box>
  )
}

/** What the bracket stands on, and cutting it for that anew. */
export function StandsOn({ part }: OwnField) {
  const { session, design } = usePart(part.id)
  const places = usePlaces()
  const stands = places.find((place) => place.by === part.id && (place.on || place.mount))
  const on = design.parts.find((one) => one.id === stands?.on) ?? design.mounts.find((one) => one.id === stands?.mount)
  const fit = useMutation({
    mutationFn: () =>
      answer(api.POST('/api/brackets/fit', { body: { design: session.state().design, part_id: part.id } })),
    onSuccess: (patch) => session.patch('fit a bracket', patch),
  })
  if (!stands || !on) return null
  return (
    <Box sx={{ my: 0.5 }}>
      <Typography variant="body2">It stands on {stands.on ? `${on.name}: ${stands.where}` : stands.where}.</Typography>
      <Button size="small" disabled={fit.isPending} onClick={() => fit.mutate()}>
        Fit it to what it stands on
      </Button>
      {fit.error && <Problem error={fit.error} />}
    </Box>
  )
}
