import { Box, Link, Typography } from '@mui/material'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { Link as RouterLink } from 'react-router'
import { answer, api, type FirstOut } from '../../api'
import { useDesign, useSessionPart } from '../../app/session'
import { Busy, Fold, Problem, Repeats } from '../../ui'
import { Told } from '../../quantity'

export function useWhatGives(enabled: boolean) {
  const design = useDesign()
  return useQuery({
    queryKey: ['first-to-give', design],
    queryFn: ({ signal }) => answer(api.POST('/api/first-to-give', { body: { design }, signal })),
    enabled,
    placeholderData: keepPreviousData,
  })
}

type Corner = FirstOut['corners'][number]
const ROW = { display: 'grid', gridTemplateColumns: '64px 1fr 180px', gap: 1.5, alignItems: 'center', py: 0.4 } as const

/** Of each corner the parts in the order in which they give, as bars of how many times the worst load they bear. */
export function WhatGives({ query }: { query: ReturnType<typeof useWhatGives> }) {
  const { data, error, isPending, refetch } = query
  if (error) return <Problem error={error} retry={() => void refetch()} />
  if (isPending) return <Busy what="Working out what gives first" />
  return (
    <Box sx={{ overflow: 'auto', height: '100%', px: 1 }}>
      {data?.corners.map((corner) => (
        <OneCorner key={corner.name} corner={corner} />
      ))}
    </Box>
  )
}

function OneCorner({ corner }: { corner: Corner }) {
  const jobId = useSessionPart((state) => state.jobId)
  const evaluation = useSessionPart((state) => state.evaluation)
  const stationOf = (id: string) => evaluation?.parts.find((part) => part.id === id)?.station ?? 'members'
  const most = 6
  return (
    <Box component="section" sx={{ mb: 3 }}>
      <Typography variant="h2">{corner.name}</Typography>
      <Typography variant="body2" sx={{ color: corner.brittle_first ? 'warning.main' : 'text.secondary', mb: 1 }}>
        {corner.brittle_first && '▲ '}
        <Told>{corner.sentence}</Told>
      </Typography>
      {corner.gives.slice(0, 9).map((one, i) => (
        <Box key={`${one.part_id}${one.part}`} sx={{ ...ROW, borderTop: i ? 1 : 0, borderColor: 'divider' }}>
          <Box
            component="span"
            sx={(theme) => ({ fontFamily: theme.tirante.mono, fontWeight: i === 0 ? 700 : 400, textAlign: 'right' })}
          >
            {one.times > 99 ? '>99' : one.times.toFixed(1)} ×
          </Box>
          <Box sx={{ minWidth: 0 }}>
            <Link
              component={RouterLink}
              to={`/jobs/${jobId}/${stationOf(one.part_id)}/${one.part_id}?show=${encodeURIComponent(`check:${one.key}`)}`}
            >
              {one.of}
            </Link>
            : {one.part}, {one.check[0]?.toLowerCase()}
            {one.check.slice(1)}
            <Typography variant="caption" component="div" sx={{ color: 'text.secondary' }}>
              in “{one.case}”
            </Typography>
          </Box>
          <Box>
            <Box
              sx={{
                height: 5,
                width: `${Math.min(1, one.times / most) * 100}%`,
                bgcolor: one.how === 'bends' ? 'text.secondary' : 'warning.main',
              }}
            />
            <Typography variant="caption">{one.how === 'bends' ? '● bends' : '▲ lets go'}</Typography>
          </Box>
        </Box>
      ))}
    </Box>
  )
}

/** The fatigue screen, called what it is, and what nobody has checked. */
export function ScreenPanel({ query }: { query: ReturnType<typeof useWhatGives> }) {
  const data = query.data
  if (!data) return null
  const rows = data.corners.flatMap((corner) => corner.fatigue)
  const waiting = data.corners.flatMap((corner) => corner.not_screened)
  return (
    <>
      <Typography variant="h2">Fatigue screen</Typography>
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary', mt: 0 }}>
        {data.fatigue_note}
      </Typography>
      {rows.length === 0 && (
        <Typography variant="body2">
          No link of this job follows a suspension end whose car’s masses are known, so nothing says what its everyday
          load is.
        </Typography>
      )}
      {rows.map((one) => (
        <Box key={one.part_id} sx={{ py: 0.75, borderBottom: 1, borderColor: 'divider' }}>
          <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 1 }}>
            <Typography sx={{ fontWeight: 600 }} noWrap>
              {one.name}
            </Typography>
            <Typography
              sx={(theme) => ({
                fontFamily: theme.tirante.mono,
                fontWeight: 700,
                color: one.share > 1 ? 'warning.main' : 'text.primary',
              })}
            >
              {one.share > 1 ? '▲ ' : ''}
              {one.shown}
            </Typography>
          </Box>
          <Typography variant="caption" sx={{ color: 'text.secondary' }}>
            {one.detail}; range {(one.range_n / 1000).toFixed(2)} kN
            {one.cycles !== null &&
              `; about ${Math.round(one.cycles / 1000).toLocaleString('en')} thousand such cycles`}
          </Typography>
          <Fold title="Working" note="EN 1993-1-9">
            <Repeats line={one.command} what="This line repeats it:" />
          </Fold>
        </Box>
      ))}
      {waiting.map((one) => (
        <Typography key={one} variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
          Not screened: {one}.
        </Typography>
      ))}
      <Typography variant="h3" sx={{ mt: 2 }}>
        Not checked
      </Typography>
      <Typography variant="body2" sx={{ color: 'text.secondary' }}>
        {data.not_checked.join(', ')}. A margin is not an approval: have a licensed engineer or certifier pass a road or
        race car, and follow local construction rules.
      </Typography>
    </>
  )
}
