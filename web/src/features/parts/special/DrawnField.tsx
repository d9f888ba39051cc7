import { Box, Button, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { ApiProblem, answer, api } from '../../../api'
import { usePart } from '../../../app/session'
import { useUnits } from '../../../quantity'
import { FileButton, Pick, Problem, Segmented } from '../../../ui'
import type { OwnField } from '.'

interface Asked {
  text?: string
  name?: string
  unit?: 'mm' | 'in'
  hole?: number
}

/** An outline that was drawn in another program: read from its DXF, its hole chosen, or the usual shape again. */
export function Drawn({ part }: OwnField) {
  const { session, problems } = usePart(part.id)
  const { main } = useUnits()
  const [last, keep] = useState<Asked | null>(null)
  const read = useMutation({
    mutationFn: (asked: Asked) =>
      answer(
        api.POST('/api/brackets/outline', {
          body: {
            design: session.state().design,
            part_id: part.id,
            text: null,
            name: '',
            unit: null,
            hole: null,
            ...asked,
          },
        }),
      ),
    onSuccess: (patch) => session.patch('an outline of its own', patch),
  })
  if (part.kind !== 'tab_pair') return null
  const ask = (asked: Asked) => {
    keep(asked)
    read.mutate(asked)
  }
  const drawn = part.drawn
  const unitLacks = read.error instanceof ApiProblem && read.error.body.issues.some((issue) => issue.path === 'unit')
  return (
    <Box sx={{ my: 0.5 }} data-field="drawn">
      <Typography variant="body2">
        {drawn ? (
          <>
            Its outline is drawn{drawn.name ? `, ${drawn.name}` : ''}: the sizes above are measured on it; at its
            narrowest under the hole it is {main(drawn.waist_mm)} wide.
          </>
        ) : (
          'Or an outline of your own, for a flat:'
        )}
      </Typography>
      {drawn && drawn.holes.length > 1 && (
        <Pick
          label="The joint’s hole"
          value="0"
          options={drawn.holes.map((one, i) => ({
            value: String(i),
            label: `hole ${i + 1}, ⌀${main(one.diameter_mm)}`,
          }))}
          disabled={read.isPending}
          onChange={(value) => ask({ hole: Number(value) })}
        />
      )}
      <FileButton
        label="Outline as DXF"
        accept=".dxf"
        onFile={(file) => void file.text().then((text) => ask({ text, name: file.name }))}
      >
        {drawn ? 'Read another DXF' : 'Read its outline from a DXF'}
      </FileButton>
      {drawn && (
        <Button size="small" disabled={read.isPending} onClick={() => ask({})}>
          The usual shape again
        </Button>
      )}
      {problems.get('drawn') && (
        <Typography variant="caption" component="p" role="alert" sx={{ color: 'error.main', m: 0 }}>
          {problems.get('drawn')}
        </Typography>
      )}
      {read.error && <Problem error={read.error} />}
      {unitLacks && last?.text !== undefined && (
        <Segmented
          label="Its lengths are"
          value=""
          onChange={(unit) => ask({ ...last, unit: unit as 'mm' | 'in' })}
          options={[
            { value: 'mm', label: 'mm' },
            { value: 'in', label: 'inches' },
          ]}
        />
      )}
    </Box>
  )
}
