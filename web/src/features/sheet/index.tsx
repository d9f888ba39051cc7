import { Box, Button, Typography } from '@mui/material'
import { useQuery } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { Link as RouterLink, useParams, useSearchParams } from 'react-router'
import { answer, api, type Unit } from '../../api'
import { Told, UnitsContext, styleOf } from '../../quantity'
import { Busy, Problem } from '../../ui'
import { Headline, PartCard, PartChanged, VERDICT } from '../cards'

/** What a printed sheet's code opens: whether the part is still so, what changed, and its card as it is to be made now. */
export function SheetView() {
  const { jobId = '', number = '', partId = '' } = useParams()
  const [asked] = useSearchParams()
  const metal = asked.get('m') ?? ''
  const path = { job_id: jobId, number, part_id: partId }
  const found = useQuery({
    queryKey: ['sheet', jobId, number, partId, metal],
    queryFn: () =>
      answer(
        api.GET('/api/jobs/{job_id}/sheets/{number}/{part_id}', { params: { path, query: metal ? { m: metal } : {} } }),
      ),
    staleTime: 0,
  })
  const bench = useQuery({
    queryKey: ['bench', jobId, false],
    queryFn: () => answer(api.GET('/api/jobs/{job_id}/bench', { params: { path: { job_id: jobId } } })),
    staleTime: 0,
  })
  const [chosen, setUnit] = useState<Unit | null>(null)
  const settings = bench.data?.settings
  const unit = chosen ?? settings?.units ?? 'mm'
  const units = useMemo(
    () =>
      settings && {
        unit,
        style: styleOf(settings),
        toggle: () => setUnit(unit === 'mm' ? 'in' : 'mm'),
      },
    [unit, settings],
  )
  const trouble = found.error ?? bench.error
  if (trouble)
    return (
      <Box sx={{ p: 2 }}>
        <Problem error={trouble} retry={() => void (found.refetch(), bench.refetch())} />
      </Box>
    )
  if (!found.data || !bench.data || !units) return <Busy what="Looking whether it is still so" />
  const sheet = found.data
  const part = bench.data.parts.find((one) => one.id === partId)
  const { issued, draft } = bench.data
  return (
    <UnitsContext value={units}>
      <Box component="main" sx={{ minHeight: '100dvh', bgcolor: 'background.paper', p: 2, maxWidth: 720, mx: 'auto' }}>
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
          <Typography variant="h1" sx={{ flex: 1, fontSize: 24, overflowWrap: 'anywhere' }}>
            {sheet.part}
          </Typography>
          <Button variant="outlined" size="large" onClick={units.toggle} aria-label="Units">
            {units.unit}
          </Button>
        </Box>
        <Typography sx={{ color: 'text.secondary' }}>
          {sheet.job}, a sheet of rev {sheet.number}
        </Typography>
        <Box
          role="status"
          sx={{
            border: 3,
            borderColor: sheet.current ? 'primary.main' : 'error.main',
            p: 1.5,
            my: 2,
          }}
        >
          <Typography sx={{ fontSize: 22, fontWeight: 700, color: sheet.current ? 'primary.main' : 'error.main' }}>
            {sheet.current ? 'This sheet may be worked to' : 'Do not work to this sheet'}
          </Typography>
          {sheet.lines.map((line) => (
            <Typography key={line} sx={{ fontSize: 17, mt: 0.5 }}>
              <Told>{line}</Told>
            </Typography>
          ))}
          {sheet.changed && (
            <Box sx={{ mt: 1 }}>
              <Typography sx={{ fontWeight: 700 }}>{VERDICT[sheet.changed.verdict]}</Typography>
              <PartChanged part={sheet.changed} big />
            </Box>
          )}
        </Box>
        <Typography sx={{ fontWeight: 700, color: draft ? 'warning.main' : 'text.primary' }}>
          {draft ? 'As the draft stands, not to cut from' : `As rev ${issued?.number} has it, which is issued`}
        </Typography>
        {!issued?.reviewer && <Typography sx={{ fontWeight: 700, color: 'warning.main' }}>NOT REVIEWED</Typography>}
        {issued?.reviewer && !draft && <Typography>reviewed by {issued.reviewer}</Typography>}
        {part?.card ? (
          <>
            <PartCard card={part.card} draft={draft} />
            <Headline part={part} />
          </>
        ) : (
          <Typography>It has no card there.</Typography>
        )}
        <Button component={RouterLink} to={`/jobs/${jobId}`} sx={{ mt: 2 }}>
          To the whole job
        </Button>
      </Box>
    </UnitsContext>
  )
}
