import { Box, Button, IconButton, MenuItem, TextField, Typography } from '@mui/material'
import type { AnyPart } from '../../../api'
import { usePart } from '../../../app/session'
import { plain } from '../../../fields'
import { MmField, NumberField, useUnits } from '../../../quantity'
import { CrossIcon, PlusIcon } from '../../../ui'
import type { OwnField } from '.'

type FrameArm = Extract<AnyPart, { kind: 'frame_arm' }>
type Rocker = Extract<AnyPart, { kind: 'rocker' }>

const MADE = [
  'bush sleeve',
  'cup with a spherical bearing',
  'ball joint in a socket',
  'pair of tabs',
  'hub flange',
] as const
const CLASSES = ['8.8', '10.9', '12.9'] as const
const kilo = (newtons: number) => `${(newtons / 1000).toFixed(2)} kN`

/** One of a few, in a row of others. */
function Pick(props: {
  label: string
  value: string
  options: readonly string[]
  words?: (one: string) => string
  onChange: (value: string) => void
  problem?: string
}) {
  const words = props.words ?? plain
  return (
    <TextField
      select
      variant="standard"
      size="small"
      value={props.value}
      error={Boolean(props.problem)}
      helperText={props.problem}
      onChange={(event) => props.onChange(event.target.value)}
      slotProps={{ select: { SelectDisplayProps: { 'aria-label': props.label } }, input: { sx: { fontSize: 13.5 } } }}
      sx={{ flex: 1, minWidth: 0 }}
    >
      {(props.options.includes(props.value) ? props.options : [props.value, ...props.options]).map((one) => (
        <MenuItem key={one} value={one} dense>
          {words(one)}
        </MenuItem>
      ))}
    </TextField>
  )
}

function useFrame(part: AnyPart) {
  const { edit, problems, result } = usePart(part.id)
  const own = result?.own?.kind === 'frame_arm' ? result.own : null
  const change = (label: string, next: (now: FrameArm) => Partial<FrameArm>) =>
    edit(label, (now) => (now.kind === 'frame_arm' ? { ...now, ...next(now) } : now))
  return { own, problems, change }
}

/** The tubes of an arm, each from place to place; what stands beside them and which of them takes it. */
export function FrameTubes({ part }: OwnField) {
  const { main: length } = useUnits()
  const { own, problems, change } = useFrame(part)
  if (part.kind !== 'frame_arm') return null
  const names = own?.places.map((one) => one.name) ?? [...new Set(part.tubes.flatMap((one) => [one.a, one.b]))]
  const free = names
    .flatMap((a, i) => names.slice(i + 1).map((b) => [a, b] as const))
    .find(([a, b]) => !part.tubes.some((one) => [one.a, one.b].includes(a) && [one.a, one.b].includes(b)))
  return (
    <>
      <Box role="list" aria-label="Tubes of the arm">
        {part.tubes.map((tube, i) => {
          const saw = own?.saw_mm[`${plain(tube.a)} to ${plain(tube.b)}`]
          const set = (change_: Partial<typeof tube>) =>
            change(`tube ${i + 1}`, (now) => ({
              tubes: now.tubes.map((one, j) => (j === i ? { ...one, ...change_ } : one)),
            }))
          return (
            <Box role="listitem" key={i} sx={{ mb: 0.25 }}>
              <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 0.75 }}>
                <Typography variant="caption" sx={{ width: 14, color: 'text.secondary' }}>
                  {i + 1}
                </Typography>
                <Pick
                  label={`Tube ${i + 1} from`}
                  value={tube.a}
                  options={names}
                  onChange={(a) => set({ a })}
                  problem={problems.get(`tubes.${i}.a`)}
                />
                <Typography variant="caption">to</Typography>
                <Pick
                  label={`Tube ${i + 1} to`}
                  value={tube.b}
                  options={names}
                  onChange={(b) => set({ b })}
                  problem={problems.get(`tubes.${i}.b`)}
                />
                <IconButton
                  size="small"
                  aria-label={`Take out tube ${i + 1}`}
                  onClick={() => change('take out a tube', (now) => ({ tubes: now.tubes.filter((_, j) => j !== i) }))}
                  sx={{ p: 0.25 }}
                >
                  <CrossIcon sx={{ fontSize: 14 }} />
                </IconButton>
              </Box>
              {tube.box ? (
                <Box sx={{ pl: 2.5 }}>
                  {(['height_mm', 'width_mm', 'wall_mm'] as const).map((name) => (
                    <MmField
                      key={name}
                      label={`${{ height_mm: 'box high', width_mm: 'wide', wall_mm: 'plate' }[name]}, ${i + 1}`}
                      min={0.1}
                      max={1000}
                      value={tube.box![name]}
                      onChange={(v) => v !== null && set({ box: { ...tube.box!, [name]: v } })}
                      problem={problems.get(`tubes.${i}.box.${name}`)}
                    />
                  ))}
                </Box>
              ) : null}
              <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline', pl: 2.5 }}>
                <Button
                  size="small"
                  onClick={() => set({ box: tube.box ? null : { height_mm: 100, width_mm: 60, wall_mm: 3 } })}
                  sx={{ p: 0, fontSize: 12, minWidth: 0 }}
                  aria-label={tube.box ? `Make tube ${i + 1} a round tube` : `Make tube ${i + 1} a box of plate`}
                >
                  {tube.box ? 'a round tube instead' : 'a box of plate instead'}
                </Button>
                {saw !== undefined && (
                  <Box component="span" sx={(theme) => ({ fontFamily: theme.tirante.mono, fontSize: 12.5 })}>
                    {tube.box ? 'long' : 'saw'} {length(saw)}
                  </Box>
                )}
              </Box>
            </Box>
          )
        })}
      </Box>
      {problems.get('tubes') && (
        <Typography variant="caption" component="div" role="alert" sx={{ color: 'error.main' }}>
          {problems.get('tubes')}
        </Typography>
      )}
      <Button
        size="small"
        startIcon={<PlusIcon />}
        disabled={!free || part.tubes.length >= 30}
        onClick={() =>
          free && change('add a tube', (now) => ({ tubes: [...now.tubes, { a: free[0], b: free[1], box: null }] }))
        }
      >
        Add a tube
      </Button>
      {own?.stands.map((one) => (
        <Box key={one.place} sx={{ mt: 0.5 }}>
          <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
            {one.words} stands on {one.tube}, {length(one.from_end_mm)} from its first end
            {one.off_mm > 1 && `, on a bracket ${length(one.off_mm)} off it; a tube to it takes its load instead`}.
          </Typography>
          <Pick
            label={`Taken by, ${one.words}`}
            value={taker(part, one.place)}
            options={[NEAREST, ...part.tubes.map((tube) => `${tube.a} ${tube.b}`)]}
            words={(key) =>
              key === NEAREST ? 'taken by the nearest' : `taken by ${key.split(' ').map(plain).join(' to ')}`
            }
            problem={problems.get(`stands.${part.stands.findIndex((own_) => own_.point === one.place)}`)}
            onChange={(key) => {
              const [a = '', b = ''] = key.split(' ')
              change(`taken by ${one.place}`, (now) => ({
                stands: [
                  ...now.stands.filter((old) => old.point !== one.place),
                  ...(key === NEAREST ? [] : [{ point: one.place, a, b }]),
                ],
              }))
            }}
          />
        </Box>
      ))}
    </>
  )
}

const NEAREST = 'nearest'
/** The tube that is chosen to take something, by its ends. */
const taker = (part: FrameArm, point: string) => {
  const chosen = part.stands.find((one) => one.point === point)
  const tube =
    chosen && part.tubes.find((one) => [one.a, one.b].includes(chosen.a) && [one.a, one.b].includes(chosen.b))
  return tube ? `${tube.a} ${tube.b}` : NEAREST
}

/** Places where tubes meet that are no joint, in the car's axes. */
export function FrameNodes({ part }: OwnField) {
  const { own, change } = useFrame(part)
  if (part.kind !== 'frame_arm') return null
  const middle = () => {
    const taken = new Set([...part.nodes.map((one) => one.name), ...(own?.places.map((one) => one.name) ?? [])])
    const name = ['node_1', 'node_2', 'node_3', 'node_4', 'node_5', 'node_6', 'node_7', 'node_8'].find(
      (one) => !taken.has(one),
    )
    return { name: name ?? `node_${part.nodes.length + 9}`, at: [0, 500, 250] as [number, number, number] }
  }
  return (
    <>
      {part.nodes.map((node, i) => (
        <Box key={i} sx={{ mb: 0.5 }}>
          <Typography variant="body2" sx={{ fontWeight: 600 }}>
            {plain(node.name)}
          </Typography>
          {(['x', 'y', 'z'] as const).map((axis, k) => (
            <MmField
              key={axis}
              label={`${axis}, ${plain(node.name)}`}
              signed
              min={-10000}
              max={10000}
              value={node.at[k]!}
              onChange={(v) =>
                v !== null &&
                change(`${node.name} ${axis}`, (now) => ({
                  nodes: now.nodes.map((one, j) =>
                    j === i
                      ? { ...one, at: one.at.map((old, m) => (m === k ? v : old)) as [number, number, number] }
                      : one,
                  ),
                }))
              }
            />
          ))}
          <IconButton
            size="small"
            aria-label={`Take out ${plain(node.name)}`}
            onClick={() =>
              change('take out a place', (now) => ({
                nodes: now.nodes.filter((_, j) => j !== i),
                tubes: now.tubes.filter((one) => one.a !== node.name && one.b !== node.name),
              }))
            }
            sx={{ p: 0.25 }}
          >
            <CrossIcon sx={{ fontSize: 14 }} />
          </IconButton>
        </Box>
      ))}
      <Button
        size="small"
        startIcon={<PlusIcon />}
        disabled={part.nodes.length >= 12}
        onClick={() => change('add a place', (now) => ({ nodes: [...now.nodes, middle()] }))}
      >
        Add a place where tubes meet
      </Button>
    </>
  )
}

/** What is made at each joint of an arm, and the most that it sees. */
export function FrameJoints({ part }: OwnField) {
  const { own, problems, change } = useFrame(part)
  if (part.kind !== 'frame_arm') return null
  return part.joints.map((joint, i) => {
    const seen = own?.joints.find((one) => one.point === joint.point)
    const words = plain(joint.point)
    const set = (next: Partial<typeof joint>) =>
      change(`${words} ${Object.keys(next).join()}`, (now) => ({
        joints: now.joints.map((one, j) => (j === i ? { ...one, ...next } : one)),
      }))
    return (
      <Box key={joint.point} sx={{ mb: 1 }}>
        <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
          <Typography variant="body2" sx={{ fontWeight: 600, width: 110, flexShrink: 0 }}>
            {words}
          </Typography>
          <Pick
            label={`Made at ${words}`}
            value={joint.made}
            options={MADE}
            onChange={(made) => set({ made: made as typeof joint.made })}
          />
        </Box>
        <Box sx={{ pl: 1 }}>
          <MmField
            label={`centre to the tubes, ${words}`}
            min={0}
            max={1000}
            value={joint.face_mm}
            onChange={(v) => v !== null && set({ face_mm: v })}
          />
          <NumberField
            label={`rating, ${words}`}
            unit="N"
            optional
            placeholder="not given"
            min={1}
            max={1e7}
            value={joint.rating_n ?? null}
            onChange={(v) => set({ rating_n: v })}
          />
          {PINNED[joint.made] && (
            <Pinned
              words={words}
              path={`joints.${i}.pin`}
              problems={problems}
              fields={PINNED[joint.made]!}
              pin={joint.pin ?? null}
              onChange={(pin) => set({ pin })}
            />
          )}
          {joint.made === 'hub flange' && (
            <Flanged
              words={words}
              path={`joints.${i}.flange`}
              problems={problems}
              flange={joint.flange ?? null}
              onChange={(flange) => set({ flange })}
            />
          )}
        </Box>
        {seen && seen.force_n > 0 && (
          <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
            {kilo(seen.force_n)} at most, in “{seen.case}”
          </Typography>
        )}
      </Box>
    )
  })
}

/** Pairs of an arm's tubes that meet, where a gusset may be let in. */
function corners(arm: FrameArm) {
  const names = [...new Set(arm.tubes.flatMap((one) => [one.a, one.b]))]
  return names.flatMap((at) => {
    const far = arm.tubes.flatMap((one) => (one.a === at ? [one.b] : one.b === at ? [one.a] : []))
    return far.flatMap((a, i) => far.slice(i + 1).map((b) => ({ at, a, b })))
  })
}

/** Flat plates let in between two tubes where they meet. */
export function FrameGussets({ part }: OwnField) {
  const { problems, change } = useFrame(part)
  if (part.kind !== 'frame_arm') return null
  const every = corners(part)
  const key = ({ at, a, b }: { at: string; a: string; b: string }) => [at, ...[a, b].sort()].join(' ')
  const said = (one: { at: string; a: string; b: string }) => `${plain(one.at)}: to ${plain(one.a)} and ${plain(one.b)}`
  const free = every.find((corner) => !part.gussets.some((one) => key(one) === key(corner)))
  return (
    <>
      {part.gussets.map((gusset, i) => {
        const set = (next: Partial<typeof gusset>) =>
          change(`gusset ${i + 1}`, (now) => ({
            gussets: now.gussets.map((one, j) => (j === i ? { ...one, ...next } : one)),
          }))
        return (
          <Box key={i} sx={{ mb: 0.5 }}>
            <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 0.75 }}>
              <Pick
                label={`Gusset ${i + 1} at`}
                value={key(gusset)}
                options={every.map(key)}
                words={(one) => said(every.find((corner) => key(corner) === one) ?? gusset)}
                onChange={(one) => {
                  const corner = every.find((found) => key(found) === one)
                  if (corner) set(corner)
                }}
                problem={problems.get(`gussets.${i}.at`)}
              />
              <IconButton
                size="small"
                aria-label={`Take out gusset ${i + 1}`}
                onClick={() =>
                  change('take out a gusset', (now) => ({ gussets: now.gussets.filter((_, j) => j !== i) }))
                }
                sx={{ p: 0.25 }}
              >
                <CrossIcon sx={{ fontSize: 14 }} />
              </IconButton>
            </Box>
            <MmField
              label={`reach, gusset ${i + 1}`}
              min={1}
              max={2000}
              value={gusset.reach_mm}
              problem={problems.get(`gussets.${i}.reach_mm`)}
              onChange={(v) => v !== null && set({ reach_mm: v })}
            />
            <MmField
              label={`thick, gusset ${i + 1}`}
              min={0.5}
              max={50}
              value={gusset.thickness_mm}
              problem={problems.get(`gussets.${i}.thickness_mm`)}
              onChange={(v) => v !== null && set({ thickness_mm: v })}
            />
          </Box>
        )
      })}
      {free && (
        <Button
          size="small"
          startIcon={<PlusIcon />}
          onClick={() =>
            change('put in a gusset', (now) => ({
              gussets: [...now.gussets, { ...free, reach_mm: 90, thickness_mm: 4 }],
            }))
          }
        >
          Put in a gusset
        </Button>
      )}
    </>
  )
}

type Pin = NonNullable<FrameArm['joints'][number]['pin']>
type PinField = Exclude<keyof Pin, 'bolt_class'>

/** Which sizes count of what is made at a joint; of the rest nothing is judged by them. */
const PINNED: Partial<Record<(typeof MADE)[number], PinField[]>> = {
  'bush sleeve': ['bolt_mm', 'between_mm', 'shorter_mm', 'plate_mm', 'wall_mm'],
  'cup with a spherical bearing': ['bolt_mm', 'between_mm', 'shorter_mm', 'plate_mm', 'wall_mm'],
  'pair of tabs': ['bolt_mm', 'between_mm', 'plate_mm', 'head_mm'],
}
const PIN_WORDS: Record<PinField, string> = {
  bolt_mm: 'bolt',
  between_mm: 'long, or ball’s width',
  plate_mm: 'plates beside it',
  shorter_mm: 'housing shorter than that by',
  wall_mm: 'wall round what goes in',
  head_mm: 'tabs, radius round the bolt',
}
const PIN_BEGINS: Pin = {
  bolt_mm: 14,
  bolt_class: '8.8',
  between_mm: 50,
  shorter_mm: 2,
  plate_mm: 6,
  wall_mm: 5,
  head_mm: 22,
}

/** The bolt through a joint and the metal round it. */
function Pinned(props: {
  words: string
  path: string
  problems: Map<string, string>
  fields: PinField[]
  pin: Pin | null
  onChange: (pin: Pin | null) => void
}) {
  const { words, path, problems, fields, pin, onChange } = props
  if (!pin)
    return (
      <Button size="small" sx={{ p: 0, fontSize: 12 }} onClick={() => onChange(PIN_BEGINS)}>
        give the sizes of {words}, to have it judged
      </Button>
    )
  return (
    <>
      {fields.map((name) => (
        <MmField
          key={name}
          label={`${PIN_WORDS[name]}, ${words}`}
          min={0.5}
          max={500}
          value={pin[name]}
          problem={problems.get(`${path}.${name}`)}
          onChange={(v) => v !== null && onChange({ ...pin, [name]: v })}
        />
      ))}
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
        <Typography variant="body2" sx={{ flex: 1 }}>
          bolt’s class, {words}
        </Typography>
        <Pick
          label={`Bolt’s class at ${words}`}
          value={pin.bolt_class}
          options={CLASSES}
          onChange={(bolt_class) => onChange({ ...pin, bolt_class: bolt_class as Pin['bolt_class'] })}
        />
      </Box>
    </>
  )
}

type Flange = NonNullable<FrameArm['joints'][number]['flange']>
type FlangeMm = Exclude<keyof Flange, 'bolt_class' | 'bolts'>

const FLANGE_WORDS: Record<FlangeMm, string> = {
  circle_mm: 'bolts’ circle',
  bolt_mm: 'bolts',
  outside_mm: 'flange, outside',
  plate_mm: 'flange, thick',
  ring_mm: 'welded to it, outside',
  leg_mm: 'fillet leg round that',
}
const FLANGE_BEGINS: Flange = {
  bolts: 4,
  circle_mm: 110,
  bolt_mm: 12,
  bolt_class: '10.9',
  outside_mm: 150,
  plate_mm: 12,
  ring_mm: 70,
  leg_mm: 6,
}

/** The flange that the hub is bolted to. */
function Flanged(props: {
  words: string
  path: string
  problems: Map<string, string>
  flange: Flange | null
  onChange: (flange: Flange | null) => void
}) {
  const { words, path, problems, flange, onChange } = props
  if (!flange)
    return (
      <Button size="small" sx={{ p: 0, fontSize: 12 }} onClick={() => onChange(FLANGE_BEGINS)}>
        give the sizes of the flange at {words}, to have it judged
      </Button>
    )
  return (
    <>
      <NumberField
        label={`hub’s bolts, ${words}`}
        unit=""
        min={3}
        max={12}
        value={flange.bolts}
        problem={problems.get(`${path}.bolts`)}
        onChange={(v) => v !== null && onChange({ ...flange, bolts: Math.round(v) })}
      />
      {(Object.keys(FLANGE_WORDS) as FlangeMm[]).map((name) => (
        <MmField
          key={name}
          label={`${FLANGE_WORDS[name]}, ${words}`}
          min={0.5}
          max={500}
          value={flange[name]}
          problem={problems.get(`${path}.${name}`)}
          onChange={(v) => v !== null && onChange({ ...flange, [name]: v })}
        />
      ))}
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
        <Typography variant="body2" sx={{ flex: 1 }}>
          bolts’ class, {words}
        </Typography>
        <Pick
          label={`Flange bolts’ class at ${words}`}
          value={flange.bolt_class}
          options={CLASSES}
          onChange={(bolt_class) => onChange({ ...flange, bolt_class: bolt_class as Flange['bolt_class'] })}
        />
      </Box>
    </>
  )
}

/** The eyes of a rocker: their bolts, the plate round them, what stands in them, and what pulls there. */
export function RockerEyes({ part }: OwnField) {
  const { edit, result } = usePart(part.id)
  const { main: length } = useUnits()
  if (part.kind !== 'rocker') return null
  const own = result?.own?.kind === 'rocker' ? result.own : null
  return part.eyes.map((eye, i) => {
    const words = plain(eye.point)
    const seen = own?.eyes.find((one) => one.point === eye.point)
    const set = (next: Partial<Rocker['eyes'][number]>) =>
      edit(`${words} ${Object.keys(next).join()}`, (now) =>
        now.kind === 'rocker' ? { ...now, eyes: now.eyes.map((one, j) => (j === i ? { ...one, ...next } : one)) } : now,
      )
    return (
      <Box key={eye.point} sx={{ mb: 1 }}>
        <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
          <Typography variant="body2" sx={{ fontWeight: 600, flex: 1 }}>
            {words}
          </Typography>
          <Typography variant="caption">bolt’s class</Typography>
          <Pick
            label={`Bolt’s class at ${words}`}
            value={eye.pin_class}
            options={CLASSES}
            words={(one) => one}
            onChange={(pin_class) => set({ pin_class: pin_class as typeof eye.pin_class })}
          />
        </Box>
        <Box sx={{ pl: 1 }}>
          <MmField
            label={`bolt, ${words}`}
            min={1}
            max={200}
            value={eye.pin_mm}
            onChange={(v) => v !== null && set({ pin_mm: v })}
          />
          <MmField
            label={`plate’s radius, ${words}`}
            min={1}
            max={500}
            value={eye.head_mm}
            onChange={(v) => v !== null && set({ head_mm: v })}
          />
          <MmField
            label={`ball’s width, ${words}`}
            min={1}
            max={500}
            value={eye.between_mm}
            onChange={(v) => v !== null && set({ between_mm: v })}
          />
        </Box>
        {seen && (
          <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
            {length(seen.reach_mm)} from the pivot; {kilo(seen.force_n)} at most, in “{seen.case}”
          </Typography>
        )}
      </Box>
    )
  })
}
