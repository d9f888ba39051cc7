import { Box, Button } from '@mui/material'
import type { EndKind, SuspensionEnd } from '../../api'
import type { useEndEdit } from '../../app/session'
import { Fold } from '../../ui'
import { FieldRows } from '../../fields'
import { withValue, withoutValue } from '../../fields'
import * as tables from './tables'

/** Things to miss, each on a body with the clearance wanted, and pairs of parts that must miss each other. */
export function ThingsToMiss(props: {
  end: SuspensionEnd
  kind: EndKind
  problems: Map<string, string>
  wrong: boolean
  editEnd: ReturnType<typeof useEndEdit>['editEnd']
}) {
  const { end, kind, problems, editEnd } = props
  const things = end.end.obstacles
  const [x = 0] = end.end.points.wheel_centre ?? []
  const add = (shape: 'round' | 'block' | 'wall') => {
    const shapes = {
      round: { kind: 'round', a: [x - 200, 200, 250], b: [x + 200, 200, 250], radius_mm: 20 },
      block: { kind: 'block', low: [x - 100, 100, 200], high: [x + 100, 200, 300] },
      wall: { kind: 'wall', through: [x, 0, 700], normal: [0, 0, -1] },
    } as const
    editEnd('add a thing', (now) => ({
      ...now,
      obstacles: [
        ...now.obstacles,
        {
          name: `thing ${now.obstacles.length + 1}`,
          shape: shapes[shape] as unknown as (typeof now.obstacles)[number]['shape'],
          body: 'ground',
          both_sides: true,
          wanted_mm: 10,
        },
      ],
    }))
  }
  return (
    <Fold
      title="Things to miss"
      note={things.length ? things.map((thing) => thing.name).join(', ') : 'none'}
      wrong={props.wrong}
    >
      {things.map((thing, i) => (
        <Box key={i} sx={{ mb: 1.5 }}>
          <FieldRows
            whole={end.end}
            fields={[...tables.obstacleFields(kind), ...(tables.SHAPES[thing.shape.kind] ?? [])].map((field) => ({
              ...field,
              path: `obstacles/${i}/${field.path}`,
            }))}
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
            fields={tables.missFields(kind, end.end, i)}
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
            misses: [...now.misses, { a: kind.links[0] ?? 'damper', b: kind.links[1] ?? 'damper', wanted_mm: 10 }],
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
