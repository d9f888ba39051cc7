import { Box, Button, Typography } from '@mui/material'
import { useState } from 'react'
import type { EndKind, KindJoint, OwnKind } from '../../api'
import { FieldRows, plain, withValue, type Forms, type Taken } from '../../fields'
import { Fold } from '../../ui'

interface Props {
  kind: OwnKind
  points: EndKind['points']
  forms: Forms
  problems: Map<string, string>
  onChange: (label: string, change: (joints: KindJoint[]) => KindJoint[]) => void
  onTakeOut: (name: string) => void
}

/** The joints of an end's own kind: each opened to be changed, a new one made when all of it is said. */
export function KindJoints({ kind, points, forms, problems, onChange, onTakeOut }: Props) {
  const taken: Taken = {
    bodies: ['ground', 'rack', ...kind.bodies].map((value) => ({ value, label: plain(value) })),
    points: points.map((point) => ({ value: point.name, label: point.what })),
  }
  return (
    <>
      {kind.joints.map((joint, i) => (
        <Fold key={`${i} ${joint.kind}`} title={joint.name || '(no name)'} note={between(joint)}>
          <JointRows
            joint={joint}
            at={i}
            beam={kind.axle === 'beam'}
            named
            forms={forms}
            taken={taken}
            problems={problems}
            onChange={(next) => onChange(`joint ${i}`, (joints) => joints.map((old, j) => (j === i ? next(old) : old)))}
          />
          <Button size="small" onClick={() => onTakeOut(joint.name)}>
            Take {joint.name} out
          </Button>
        </Fold>
      ))}
      <NewJoint
        kind={kind}
        forms={forms}
        taken={taken}
        onAdd={(joint) => onChange('add a joint', (joints) => [...joints, joint])}
      />
    </>
  )
}

/** Which bodies a joint ties, in a few words. */
function between(joint: KindJoint): string {
  const bodies =
    joint.kind === 'link'
      ? [joint.a.body, joint.b.body]
      : joint.kind === 'ball' || joint.kind === 'bush'
        ? joint.bodies
        : [joint.kind === 'slider' ? joint.place.body : joint.body, joint.on]
  return `${joint.kind === 'pivot' ? 'pivot' : joint.kind}: ${bodies.map(plain).join(' – ')}`
}

/** Everything that a joint asks. */
function JointRows(props: {
  joint: KindJoint
  at: number
  beam: boolean
  /** Parts and loads know it by its name: that stays. */
  named?: boolean
  forms: Forms
  taken: Taken
  problems: Map<string, string>
  onChange: (next: (old: KindJoint) => KindJoint) => void
}) {
  const { joint, at, beam, named, forms, taken, problems, onChange } = props
  // only the end of a link goes with the rack
  const offered =
    joint.kind === 'link' ? taken : { ...taken, bodies: taken.bodies?.filter((one) => one.value !== 'rack') }
  const toward = 'toward' in joint && joint.toward !== null
  const rows = [
    ...forms.rows(`joint: ${joint.kind}`, { i: String(at) }, offered),
    ...(beam ? forms.rows('joint: both sides', { i: String(at) }) : []),
    ...(beam && !joint.pair && (joint.kind === 'link' || joint.kind === 'slider')
      ? forms.rows(`joint: one ${joint.kind}`, { i: String(at) })
      : []),
  ].filter((row) => !(toward && row.path.endsWith('/direction')) && !(named && row.path.endsWith('/name')))
  const put = (path: string, value: unknown) =>
    onChange((old) => {
      const next = withValue(old, path, value)
      if (path !== 'toward') return next
      // its line runs toward a point, or along a direction: never both
      return withValue(next, 'direction', value === null ? [1, 0, 0] : null)
    })
  const start = `kind/joints/${at}/`
  return (
    <FieldRows
      whole={joint}
      fields={rows.map((row) => ({ ...row, path: row.path.slice(start.length) }))}
      problems={jointProblems(problems, at)}
      onChange={put}
    />
  )
}

/** What is wrong with a joint, by its own fields: the core names the sort of joint on the way to them. */
function jointProblems(problems: Map<string, string>, at: number): Map<string, string> {
  const start = `kind.joints.${at}.`
  return new Map(
    [...problems]
      .filter(([path]) => path.startsWith(start))
      .map(([path, message]) => [path.slice(start.length).replace(/^[a-z]+\.(?=.)/, ''), message]),
  )
}

/** What is said nowhere yet: an empty text anywhere in it. */
const unsaid = (value: unknown): boolean =>
  value === '' || (value !== null && typeof value === 'object' && Object.values(value).some(unsaid))

function NewJoint(props: { kind: OwnKind; forms: Forms; taken: Taken; onAdd: (joint: KindJoint) => void }) {
  const { kind, forms, taken, onAdd } = props
  const [draft, setDraft] = useState<KindJoint | null>(null)
  const begin = (sort: string) => setDraft(forms.begins<KindJoint>(`joint: ${sort}`))
  const twice = draft !== null && kind.joints.some((joint) => joint.name === draft.name.trim())
  return (
    <Box sx={{ my: 1.5, p: 1, border: 1, borderColor: 'divider', borderRadius: 1 }}>
      <Typography variant="h3" component="h4" sx={{ mb: 1 }}>
        New joint
      </Typography>
      <FieldRows
        whole={{ sort: draft?.kind ?? '' }}
        fields={forms.rows('sort of joint')}
        problems={new Map()}
        onChange={(_, sort) => begin(sort as string)}
      />
      {draft && (
        <>
          <JointRows
            joint={draft}
            at={kind.joints.length}
            beam={kind.axle === 'beam'}
            forms={forms}
            taken={taken}
            problems={new Map(twice ? [[`kind.joints.${kind.joints.length}.name`, 'Another joint is called so.']] : [])}
            onChange={(next) => setDraft((old) => old && next(old))}
          />
          <Button
            size="small"
            variant="contained"
            disabled={unsaid(draft) || twice}
            onClick={() => {
              onAdd({ ...draft, name: draft.name.trim() })
              setDraft(null)
            }}
          >
            Put it in
          </Button>
          <Button size="small" onClick={() => setDraft(null)}>
            Leave it
          </Button>
          {unsaid(draft) && (
            <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
              Give it a name, its bodies and its points; then it can be put in.
            </Typography>
          )}
        </>
      )}
    </Box>
  )
}
