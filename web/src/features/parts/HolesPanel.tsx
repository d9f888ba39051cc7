import { Box, Button, Typography } from '@mui/material'
import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api } from '../../api'
import { useDesign, useTheSession } from '../../app/session'
import { useRested } from '../../app/travel'
import { NumberField, Told, useUnits } from '../../quantity'
import { Busy, Pick, Problem } from '../../ui'

/** Hole by hole: what each hole of an adjustable mount makes of its end; the joint is put in another by a press. */
export function HolesPanel({ partId }: { partId: string }) {
  const session = useTheSession()
  const design = useRested(useDesign())
  const { main } = useUnits()
  const [wish, setWish] = useState('')
  const [wanted, setWanted] = useState(0)
  const found = useQuery({
    queryKey: ['holes', design, partId, wish, wanted],
    queryFn: ({ signal }) =>
      answer(
        api.POST('/api/brackets/holes', {
          body: { design, part_id: partId, wish: wish || null, wanted },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 20_000,
  })
  const put = useMutation({
    mutationFn: (hole: number) =>
      answer(
        api.POST('/api/brackets/put-in-hole', { body: { design: session.state().design, part_id: partId, hole } }),
      ),
    onSuccess: ({ end, parts }, hole) =>
      session.edit(`put the joint in hole ${hole}`, (now) => ({
        ...now,
        ends: now.ends.map((one) => (one.id === end.id ? end : one)),
        parts: now.parts.map((one) => parts.find((part) => part.id === one.id) ?? one),
      })),
  })
  if (found.isPending) return <Busy what="Working out the holes" />
  if (found.error || !found.data) return <Problem error={found.error} />
  const { holes, best, told } = found.data
  const measures = holes.find((hole) => hole.figures.length > 0)?.figures ?? []
  const shown = (value: number | null | undefined, unit: string) => {
    if (value === null || value === undefined) return '–'
    if (unit === 'mm') return main(value)
    const text = Math.abs(value).toFixed(unit === '%' ? 0 : 2)
    return value < 0 && /[1-9]/.test(text) ? `−${text}` : text
  }
  return (
    <>
      <Typography variant="body2" sx={{ color: 'text.secondary', mb: 1 }}>
        <Told>{told}</Told>
      </Typography>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'flex-end', mb: 1 }}>
        <Box sx={{ flex: 1 }}>
          <Pick
            label="Wished for"
            value={wish}
            none="nothing"
            options={measures.map((one) => ({ value: one.key, label: one.name }))}
            onChange={(key) => {
              setWish(key)
              setWanted(holes.find((hole) => hole.here)?.figures.find((one) => one.key === key)?.value ?? 0)
            }}
          />
        </Box>
        {wish && (
          <Box sx={{ width: 130 }}>
            <NumberField
              label="of"
              unit={measures.find((one) => one.key === wish)?.unit ?? ''}
              value={wanted}
              onChange={(value) => value !== null && setWanted(value)}
            />
          </Box>
        )}
      </Box>
      {best !== null && (
        <Typography role="status" variant="body2" sx={{ mb: 1 }}>
          Hole {best} comes nearest to it.
        </Typography>
      )}
      <Box
        component="table"
        aria-label="Hole by hole"
        sx={{
          width: '100%',
          borderCollapse: 'collapse',
          fontSize: 13,
          '& th, & td': { py: 0.4, px: 0.5, borderTop: 1, borderColor: 'divider', textAlign: 'right' },
          '& th:first-of-type': { textAlign: 'left', pl: 0, fontWeight: 400 },
        }}
      >
        <thead>
          <tr>
            <th scope="col">hole</th>
            {holes.map((hole) => (
              <Box
                key={hole.number}
                component="th"
                scope="col"
                sx={{ fontWeight: hole.here || hole.number === best ? 700 : 400 }}
              >
                {hole.number}
                {hole.here ? ' (here)' : ''}
              </Box>
            ))}
          </tr>
        </thead>
        <tbody>
          {measures.map((one) => (
            <tr key={one.key}>
              <th scope="row">
                {one.name}{' '}
                <Box component="span" sx={{ color: 'text.secondary' }}>
                  {one.unit === 'mm' ? '' : one.unit}
                </Box>
              </th>
              {holes.map((hole) => (
                <Box key={hole.number} component="td" sx={{ fontFamily: 'mono', fontWeight: hole.here ? 700 : 400 }}>
                  {shown(hole.figures.find((figure) => figure.key === one.key)?.value, one.unit)}
                </Box>
              ))}
            </tr>
          ))}
        </tbody>
      </Box>
      {holes.map((hole) => (
        <Box key={hole.number} sx={{ mt: 1 }}>
          <Typography variant="body2">
            <Box component="span" sx={{ fontWeight: 600 }}>
              Hole {hole.number}
            </Box>
            : {hole.fault ? <Told>{hole.fault}</Told> : `furthest tilted ${hole.tilt || 'not known'}`}
          </Typography>
          {!hole.here && !hole.fault && (
            <Button size="small" disabled={put.isPending} onClick={() => put.mutate(hole.number)} sx={{ p: 0 }}>
              Put the joint in hole {hole.number}
            </Button>
          )}
        </Box>
      ))}
      {put.error && <Problem error={put.error} />}
    </>
  )
}
