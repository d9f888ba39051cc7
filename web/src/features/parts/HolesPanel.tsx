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
  const part = design.parts.find((one) => one.id === partId)
  const slot = part !== undefined && 'holes' in part && !!part.holes && 'slotted' in part.holes && part.holes.slotted
  const what = slot ? 'place' : 'hole'
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
      session.edit(slot ? `put the joint at place ${hole}` : `put the joint in hole ${hole}`, (now) => ({
        ...now,
        ends: now.ends.map((one) => (one.id === end.id ? end : one)),
        parts: now.parts.map((one) => parts.find((part) => part.id === one.id) ?? one),
      })),
  })
  if (found.isPending) return <Busy what="Working out the holes" />
  if (found.error || !found.data) return <Problem error={found.error} />
  const { holes, best, told } = found.data
  const measures = holes.find((hole) => hole.figures.length > 0)?.figures ?? []
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
          {slot ? 'Place' : 'Hole'} {best} comes nearest to it.
        </Typography>
      )}
      <FigureTable
        label="Hole by hole"
        head={what}
        columns={holes.map((hole) => ({
          title: `${hole.number}${hole.here ? ' (here)' : ''}`,
          strong: hole.here || hole.number === best,
          figures: hole.figures,
        }))}
      />
      {holes.map((hole) => (
        <Box key={hole.number} sx={{ mt: 1 }}>
          <Typography variant="body2">
            <Box component="span" sx={{ fontWeight: 600 }}>
              {slot ? 'Place' : 'Hole'} {hole.number}
            </Box>
            : {hole.fault ? <Told>{hole.fault}</Told> : `furthest tilted ${hole.tilt || 'not known'}`}
          </Typography>
          {!hole.here && !hole.fault && (
            <Button size="small" disabled={put.isPending} onClick={() => put.mutate(hole.number)} sx={{ p: 0 }}>
              {slot ? 'Put the joint at place' : 'Put the joint in hole'} {hole.number}
            </Button>
          )}
        </Box>
      ))}
      {put.error && <Problem error={put.error} />}
    </>
  )
}

type Figure = { key: string; name: string; unit: string; value: number | null }

/** Measures of the end down, what is tried across. */
function FigureTable(props: {
  label: string
  head: string
  columns: { title: string; strong: boolean; figures: Figure[] }[]
}) {
  const { main } = useUnits()
  const measures = props.columns.find((one) => one.figures.length > 0)?.figures ?? []
  const shown = (value: number | null | undefined, unit: string) => {
    if (value === null || value === undefined) return '–'
    if (unit === 'mm') return main(value)
    const text = Math.abs(value).toFixed(unit === '%' ? 0 : 2)
    return value < 0 && /[1-9]/.test(text) ? `−${text}` : text
  }
  return (
    <Box
      component="table"
      aria-label={props.label}
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
          <th scope="col">{props.head}</th>
          {props.columns.map((one) => (
            <Box key={one.title} component="th" scope="col" sx={{ fontWeight: one.strong ? 700 : 400 }}>
              {one.title}
            </Box>
          ))}
        </tr>
      </thead>
      <tbody>
        {measures.map((measure) => (
          <tr key={measure.key}>
            <th scope="row">
              {measure.name}{' '}
              <Box component="span" sx={{ color: 'text.secondary' }}>
                {measure.unit === 'mm' ? '' : measure.unit}
              </Box>
            </th>
            {props.columns.map((one) => (
              <Box key={one.title} component="td" sx={{ fontFamily: 'mono', fontWeight: one.strong ? 700 : 400 }}>
                {shown(one.figures.find((figure) => figure.key === measure.key)?.value, measure.unit)}
              </Box>
            ))}
          </tr>
        ))}
      </tbody>
    </Box>
  )
}

/** What shims make of a bracket's end: behind its feet, where it is bolted on, and beside its joint. */
export function ShimsPanel({ partId }: { partId: string }) {
  const bolted = useDesign().parts.some((one) => one.id === partId && 'through_mm' in one)
  return (
    <>
      {bolted && <Shims partId={partId} under title="Shims behind its feet" />}
      <Shims partId={partId} under={false} title={bolted ? 'Shims beside the joint' : 'Shims, as degrees'} />
    </>
  )
}

function Shims({ partId, under, title: head }: { partId: string; under: boolean; title: string }) {
  const design = useRested(useDesign())
  const { main } = useUnits()
  const found = useQuery({
    queryKey: ['shims', design, partId, under],
    queryFn: ({ signal }) =>
      answer(api.POST('/api/brackets/shims', { body: { design, part_id: partId, under }, signal })),
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 20_000,
  })
  if (found.isPending) return <Busy what="Working out the shims" />
  if (found.error || !found.data) return <Problem error={found.error} />
  const { amounts_mm, shims, told } = found.data
  const title = (mm: number) => (mm === 0 ? 'as it is' : `${mm < 0 ? '−' : '+'}${main(Math.abs(mm))}`)
  return (
    <>
      <Typography variant="h3" sx={{ mb: 0.5 }}>
        {head}
      </Typography>
      <Typography variant="body2" sx={{ color: 'text.secondary', mb: 1 }}>
        <Told>{told}</Told>
      </Typography>
      <FigureTable
        label={under ? 'Shim by shim, behind its feet' : 'Shim by shim'}
        head="moved by"
        columns={shims.map((one, i) => ({
          title: title(amounts_mm[i] ?? 0),
          strong: one.here,
          figures: one.figures,
        }))}
      />
      {shims
        .filter((one) => one.fault)
        .map((one) => (
          <Typography key={one.number} variant="body2" sx={{ mt: 1 }}>
            {title(amounts_mm[one.number - 1] ?? 0)}: <Told>{one.fault}</Told>
          </Typography>
        ))}
    </>
  )
}
