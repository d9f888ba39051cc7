import { Box, Button, IconButton } from '@mui/material'
import { usePart } from '../../../app/session'
import { FieldRows, useForms } from '../../../fields'
import { CrossIcon, PlusIcon } from '../../../ui'
import type { OwnField } from '.'

const MOST = 8

type Row = Record<string, unknown>

/** Further holes of a bracket's plates, each from the joint's own; of a pad's plate, each from its middle. */
export function ExtraHoles({ part }: OwnField) {
  const { edit, problems } = usePart(part.id)
  const forms = useForms()
  if (!('extra' in part)) return null
  const form = 'apart_mm' in part && 'web_mm' in part ? 'pad hole' : 'extra hole'
  const holes = part.extra as unknown as Row[]
  const change = (label: string, next: (now: Row[]) => Row[]) =>
    edit(label, (now) =>
      'extra' in now ? ({ ...now, extra: next(now.extra as unknown as Row[]) } as unknown as typeof now) : now,
    )
  const under = (i: number) => {
    const start = `extra.${i}.`
    return new Map(
      [...problems].filter(([path]) => path.startsWith(start)).map(([path, text]) => [path.slice(start.length), text]),
    )
  }
  return (
    <Box role="list" aria-label="Holes for something else">
      {holes.map((one, i) => (
        <Box role="listitem" key={i} sx={{ display: 'flex', alignItems: 'flex-start', gap: 1 }}>
          <Box sx={{ flex: 1 }}>
            <FieldRows
              whole={one}
              fields={forms?.rows(form) ?? []}
              problems={under(i)}
              onChange={(path, value) =>
                change(`hole ${i} ${path}`, (now) => now.map((old, j) => (j === i ? { ...old, [path]: value } : old)))
              }
            />
          </Box>
          <IconButton
            size="small"
            aria-label={`Take hole ${i + 1} out`}
            onClick={() => change('take a hole out', (now) => now.filter((_, j) => j !== i))}
            sx={{ p: 0.25 }}
          >
            <CrossIcon sx={{ fontSize: 14 }} />
          </IconButton>
        </Box>
      ))}
      <Button
        size="small"
        startIcon={<PlusIcon />}
        disabled={holes.length >= MOST || !forms}
        onClick={() => forms && change('a hole', (now) => [...now, forms.begins<Row>(form)])}
      >
        Add one
      </Button>
    </Box>
  )
}
