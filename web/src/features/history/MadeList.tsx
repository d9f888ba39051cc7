import { Box, Typography } from '@mui/material'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { answer, api, type MadePartOut } from '../../api'
import { useSessionPart } from '../../app/session'
import { Told } from '../../quantity'
import { Busy, Problem } from '../../ui'
import { called, MadeFigures, VERDICT } from '../cards'

/** What was begun of a job against its draft, asked again whenever it is saved. */
export function useMade() {
  const jobId = useSessionPart((state) => state.jobId)
  const version = useSessionPart((state) => state.version)
  return useQuery({
    queryKey: ['made', jobId, version],
    queryFn: ({ signal }) =>
      answer(api.GET('/api/jobs/{job_id}/made', { params: { path: { job_id: jobId } }, signal })),
    staleTime: 0,
    placeholderData: keepPreviousData,
  })
}

/** Every hand of a part that was begun by its ticks, worst first, and what is to be done with it now. */
export function MadeList({ only }: { only?: { part_id: string; hand: string } }) {
  const found = useMade()
  if (found.error) return <Problem error={found.error} retry={() => void found.refetch()} />
  if (!found.data) return <Busy what="Comparing what was made" />
  const rows = found.data.parts.filter((one) => !only || (one.part_id === only.part_id && one.hand === only.hand))
  if (rows.length === 0)
    return only ? null : (
      <Typography variant="body2">
        Nothing was ticked at the bench: what was made without being ticked is not known here.
      </Typography>
    )
  const fits = rows.filter((one) => !one.askew)
  return (
    <>
      {rows
        .filter((one) => one.askew)
        .map((one) => (
          <Row key={`${one.part_id} ${one.hand}`} one={one} named={!only} />
        ))}
      {!only && fits.length > 0 && (
        <Typography variant="body2" sx={{ py: 1, borderTop: 1, borderColor: 'divider' }}>
          As made they fit: {fits.map((one) => called(one)).join('; ')}.
        </Typography>
      )}
      {!only &&
        found.data.stale.map((one) => (
          <Typography key={`${one.number} ${one.what}`} variant="body2" sx={{ color: 'warning.main' }}>
            Printed of rev {one.number}, {one.what}: out of date for {[...one.changed, ...one.gone].join(', ')}.
          </Typography>
        ))}
    </>
  )
}

function Row({ one, named }: { one: MadePartOut; named: boolean }) {
  return (
    <Box
      sx={{
        display: 'grid', gridTemplateColumns: named ? '92px 1fr' : '1fr', columnGap: 1.5, py: named ? 1 : 0.5,
        borderTop: named ? 1 : 0, borderColor: 'divider',
      }} // prettier-ignore
    >
      {named && (
        <Typography variant="body2" sx={{ fontWeight: 700, color: 'warning.main' }}>
          {one.verdict ? VERDICT[one.verdict] : 'not known'}
        </Typography>
      )}
      <Box sx={{ minWidth: 0 }}>
        {named && (
          <Typography variant="body2">
            {called(one)}
            {one.number !== null && `, made from rev ${one.number}`}
          </Typography>
        )}
        <Typography variant="body2" sx={{ color: named ? 'text.primary' : 'warning.main' }}>
          <Told>{one.says}</Told>
        </Typography>
        <MadeFigures one={one} />
      </Box>
    </Box>
  )
}
