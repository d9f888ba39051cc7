import { Box, Button, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { Link as RouterLink, useNavigate } from 'react-router'
import { answer, api, type Mount } from '../../api'
import { newId, useDesign, useMount, useTheSession } from '../../app/session'
import { useKindsOf } from '../../app/travel'
import { FieldRows, plain, useForms, withValue, type Forms } from '../../fields'
import { FileButton, Fold, Pick, Problem, saveText } from '../../ui'

const SHAPES = { round: 'Add a round tube', box: 'Add a box tube', flat: 'Add a flat' } as const
const MOST = 200
/** Ids made here for what the server names. */
const ids = (many: number) => Array.from({ length: many }, newId)

/** Mounts: the members of the car that brackets stand on, each entered once. */
export function Mounts() {
  const session = useTheSession()
  const design = useDesign()
  const forms = useForms()
  const put = (label: string, made: Mount[]) =>
    session.edit(label, (now) => ({ ...now, mounts: [...now.mounts, ...made] }))
  const read = useMutation({
    mutationFn: async (file: File) =>
      answer(
        api.POST('/api/mounts/read', {
          body: { design: session.state().design, ids: ids(MOST), text: await file.text() },
        }),
      ),
    onSuccess: ({ mounts }) => put('read mounts', mounts),
  })
  const taken = useMutation({
    mutationFn: () =>
      answer(api.POST('/api/mounts/from-obstacles', { body: { design: session.state().design, ids: ids(MOST) } })),
    onSuccess: ({ mounts }) => mounts.length > 0 && put('take mounts over', mounts),
  })
  const write = useMutation({
    mutationFn: () => answer(api.POST('/api/mounts/write', { body: { design: session.state().design } })),
    onSuccess: ({ text }) => saveText(text, 'mounts.csv'),
  })
  if (!forms) return null
  const add = (shape: keyof typeof SHAPES) =>
    put('add a mount', [
      {
        ...forms.begins<Mount>('mount'),
        id: newId(),
        name: `mount ${design.mounts.length + 1}`,
        shape: forms.begins<Mount['shape']>(`mount ${shape}`),
      },
    ])
  const still = design.ends.some((one) => one.end.obstacles.some((thing) => thing.body === 'ground'))
  return (
    <>
      <Typography variant="body2" sx={{ color: 'text.secondary', mb: 1 }}>
        What brackets stand on: frame tubes, rails, axle tubes, plates. Each is entered once, where it stands as the
        points were taken; a bracket on it is cut for it, and says so when it no longer fits. They are no things to
        clear: enter those at Layout.
      </Typography>
      {design.mounts.map((mount) => (
        <Fold key={mount.id} title={mount.name} note={sizeOf(mount)}>
          <Member mountId={mount.id} forms={forms} />
        </Fold>
      ))}
      <Box sx={{ mt: 1.5, display: 'flex', flexWrap: 'wrap' }}>
        {(Object.keys(SHAPES) as (keyof typeof SHAPES)[]).map((shape) => (
          <Button key={shape} size="small" onClick={() => add(shape)}>
            {SHAPES[shape]}
          </Button>
        ))}
        {still && (
          <Button size="small" onClick={() => taken.mutate()} disabled={taken.isPending}>
            Take over the things to clear
          </Button>
        )}
        <FileButton label="List of mounts" accept=".csv,text/csv" onFile={(file) => read.mutate(file)}>
          Read a CSV
        </FileButton>
        {design.mounts.length > 0 && (
          <Button size="small" onClick={() => write.mutate()}>
            Take away as CSV
          </Button>
        )}
      </Box>
      {taken.data?.mounts.length === 0 && (
        <Typography variant="body2" role="status">
          All things to clear that stand on the chassis are here already.
        </Typography>
      )}
      {[read.error, taken.error, write.error].map((error, i) => error && <Problem key={i} error={error} />)}
    </>
  )
}

const sizeOf = ({ shape, body }: Mount) => {
  const size = shape.kind === 'round' ? 'round tube' : shape.kind === 'box' ? 'box tube' : 'flat'
  return body === 'ground' ? size : `${size}, on the ${plain(body)}`
}

function Member({ mountId, forms }: { mountId: string; forms: Forms }) {
  const session = useTheSession()
  const design = useDesign()
  const { mount, edit, problems } = useMount(mountId)
  if (!mount) return null
  const set = (path: string, value: unknown) =>
    edit(path, (now) =>
      path === 'shape/kind'
        ? { ...now, shape: reshaped(now.shape, forms.begins<Mount['shape']>(`mount ${String(value)}`)) }
        : withValue(now, path, value),
    )
  const row = (form: string) => <FieldRows whole={mount} fields={forms.rows(form)} problems={problems} onChange={set} />
  const plates = design.parts.find((part) => part.kind === 'axle_saddle' && part.box === mountId)
  // a tube that moves with it: whether it runs along the box the server says
  const under = design.mounts.some(
    (one) => one.shape.kind === 'round' && one.body === mount.body && one.end_id === mount.end_id,
  )
  const held = design.joints.filter((joint) => joint.mount === mountId).length
  return (
    <>
      {row('mount')}
      {row(`mount ${mount.shape.kind}`)}
      <On mount={mount} onChange={(part) => edit('what it is on', (now) => ({ ...now, ...part }))} />
      {row('mount metal')}
      {mount.shape.kind === 'box' &&
        (plates || under) &&
        (plates ? (
          <Button size="small" component={RouterLink} to={`/jobs/${session.state().jobId}/brackets/${plates.id}`}>
            {plates.name}
          </Button>
        ) : (
          <PlatesOf mount={mount} />
        ))}
      <Button
        size="small"
        onClick={() =>
          session.edit('take a mount away', (now) => ({
            ...now,
            mounts: now.mounts.filter((one) => one.id !== mountId),
            joints: now.joints.map((joint) => (joint.mount === mountId ? { ...joint, mount: null } : joint)),
          }))
        }
      >
        Take {mount.name} away
      </Button>
      {held > 0 && (
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
          {held === 1 ? 'A bracket stands on it.' : `${held} brackets stand on it.`}
        </Typography>
      )}
    </>
  )
}

/** A box that stands on a tube: its plates made a part. */
function PlatesOf({ mount }: { mount: Mount }) {
  const session = useTheSession()
  const navigate = useNavigate()
  const made = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/brackets/saddle', {
          body: { design: session.state().design, mount_id: mount.id, id: newId() },
        }),
      ),
    onSuccess: (patch) => {
      session.patch(`plates of ${mount.name}`, patch)
      void navigate(`/jobs/${session.state().jobId}/brackets/${patch.parts[0]!.id}`)
    },
  })
  return (
    <>
      <Button size="small" onClick={() => made.mutate()} disabled={made.isPending}>
        It is a saddle on a tube: make its plates
      </Button>
      {made.error && <Problem error={made.error} />}
    </>
  )
}

/** Another shape where the member is: what both have stays. */
function reshaped(was: Mount['shape'], begun: Mount['shape']): Mount['shape'] {
  const kept = Object.entries(was).filter(([name]) => name !== 'kind' && name in begun)
  return { ...begun, ...Object.fromEntries(kept) }
}

/** Whether it is of the chassis, or of a body of an end that moves. */
function On({ mount, onChange }: { mount: Mount; onChange: (part: Pick<Mount, 'end_id' | 'body'>) => void }) {
  const { ends } = useDesign()
  const kinds = useKindsOf(ends)
  const bodies = ends.flatMap((end, i) =>
    (kinds[i]?.bodies ?? [])
      .filter((body) => body !== 'ground' && body !== 'rack')
      .map((body) => ({ value: `${end.id} ${body}`, label: `the ${plain(body)} of ${end.name}` })),
  )
  const now = mount.end_id ? `${mount.end_id} ${mount.body}` : 'ground'
  if (now !== 'ground' && !bodies.some((one) => one.value === now))
    bodies.push({ value: now, label: `the ${plain(mount.body)}` })
  return (
    <Pick
      label="It is part of"
      value={now}
      options={[{ value: 'ground', label: 'the chassis' }, ...bodies]}
      onChange={(value) => {
        const [end, body] = value.split(' ')
        onChange(body ? { end_id: end!, body } : { end_id: null, body: 'ground' })
      }}
    />
  )
}
