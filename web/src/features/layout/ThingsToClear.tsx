import { Box, Button } from '@mui/material'
import type { EndKind, SuspensionEnd } from '../../api'
import type { useEndEdit } from '../../app/session'
import { Fold } from '../../ui'
import { FieldRows, withValue, withoutValue, type Forms } from '../../fields'
import { choicesOf } from './places'

type Thing = SuspensionEnd['end']['obstacles'][number]
type Pair = SuspensionEnd['end']['misses'][number]

/** Things to clear, each on a body with the clearance wanted, and pairs of parts that must miss each other. */
export function ThingsToClear(props: {
  end: SuspensionEnd
  kind: EndKind
  forms: Forms
  problems: Map<string, string>
  wrong: boolean
  editEnd: ReturnType<typeof useEndEdit>['editEnd']
}) {
  const { end, kind, forms, problems, editEnd } = props
  const taken = choicesOf(kind, end.end)
  const things = end.end.obstacles
  const [x = 0] = end.end.points.wheel_centre ?? []
  const add = (shape: 'round' | 'block' | 'wall') => {
    // beside the wheel: its places begin from there
    const made = Object.entries(forms.begins<Record<string, unknown>>(shape)).map(([name, value]) =>
      Array.isArray(value) && name !== 'normal' ? [name, [x + Number(value[0]), value[1], value[2]]] : [name, value],
    )
    editEnd('add a thing', (now) => ({
      ...now,
      obstacles: [
        ...now.obstacles,
        {
          ...forms.begins<Thing>('obstacle'),
          name: `thing ${now.obstacles.length + 1}`,
          shape: Object.fromEntries(made) as Thing['shape'],
        },
      ],
    }))
  }
  return (
    <Fold
      title="Things to clear"
      note={things.length ? things.map((thing) => thing.name).join(', ') : 'none'}
      wrong={props.wrong}
    >
      {things.map((thing, i) => (
        <Box key={i} sx={{ mb: 1.5 }}>
          <FieldRows
            whole={end.end}
            fields={['obstacle', thing.shape.kind].flatMap((form) => forms.rows(form, { i: String(i) }, taken))}
            problems={problems}
            onChange={(path, value) => editEnd(path, (now) => withValue(now, path, value))}
          />
          <Button size="small" onClick={() => editEnd('remove a thing', (now) => withoutValue(now, `obstacles/${i}`))}>
            Take {thing.name} away
          </Button>
        </Box>
      ))}
      {end.end.misses.map((pair, i) => (
        <Box key={`pair ${i}`} sx={{ mb: 1.5 }}>
          <FieldRows
            whole={end.end}
            fields={forms.rows('miss', { i: String(i) }, taken)}
            problems={problems}
            onChange={(path, value) => editEnd(path, (now) => withValue(now, path, value))}
          />
          <Button size="small" onClick={() => editEnd('remove a pair', (now) => withoutValue(now, `misses/${i}`))}>
            Let {pair.a} meet {pair.b}
          </Button>
        </Box>
      ))}
      <Button
        size="small"
        onClick={() =>
          editEnd('add a pair', (now) => ({
            ...now,
            misses: [
              ...now.misses,
              { ...forms.begins<Pair>('miss'), a: kind.links[0] ?? 'damper', b: kind.links[1] ?? 'damper' },
            ],
          }))
        }
      >
        Add two parts
      </Button>
      <Button size="small" onClick={() => add('round')}>
        Add a tube or pipe
      </Button>
      <Button size="small" onClick={() => add('block')}>
        Add a block
      </Button>
      <Button size="small" onClick={() => add('wall')}>
        Add a wall
      </Button>
    </Fold>
  )
}
