import { Box, Typography } from '@mui/material'
import { Link as RouterLink } from 'react-router'
import type { AnyPart, Evaluation, KindOut, PartOut } from '../../api'
import { usePartsOf, useSessionPart } from '../../app/session'
import { useUnits } from '../../quantity'
import { MarginBar, StateMark, markOf } from '../../ui'

const RANK: Record<PartOut['status'], number> = { stop: 0, attention: 1, incomplete: 2, ok: 3 }

/** Parts as they are to be settled: what does not hold, what is close, what is not complete, then the rest by how much is asked of it. */
function weakestFirst(parts: AnyPart[], evaluation: Evaluation | null): AnyPart[] {
  const of = new Map(evaluation?.parts.map((one) => [one.id, one]))
  const use = (id: string) => {
    const one = of.get(id)
    return one?.checks.find((check) => check.key === one.governing)?.utilisation ?? 0
  }
  const rank = (id: string) => RANK[of.get(id)?.status ?? 'ok']
  return [...parts].sort((a, b) => rank(a.id) - rank(b.id) || use(b.id) - use(a.id))
}

/** The job's parts that stand at a station, the weakest first, each with its weakest check. */
export function PartList({ of, station = of }: { of: KindOut['station']; station?: string }) {
  const evaluation = useSessionPart((state) => state.evaluation)
  const parts = weakestFirst(usePartsOf(of), evaluation)
  const jobId = useSessionPart((state) => state.jobId)
  const { main } = useUnits()
  return (
    <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
      {parts.map((part) => {
        const result = evaluation?.parts.find((one) => one.id === part.id)
        const weakest = result?.checks.find((check) => check.key === result.governing)
        const figure = result?.card?.figures[0]
        return (
          <Box component="li" key={part.id} sx={{ borderBottom: 1, borderColor: 'divider' }}>
            <Box
              component={RouterLink}
              to={`/jobs/${jobId}/${station}/${part.id}`}
              sx={{
                display: 'block',
                py: 1,
                textDecoration: 'none',
                color: 'text.primary',
                '&:hover': { color: 'primary.main' },
              }}
            >
              <Box sx={{ display: 'flex', gap: 1, alignItems: 'baseline' }}>
                <Typography sx={{ flex: 1, minWidth: 0, fontWeight: 600 }} noWrap>
                  {part.name}
                </Typography>
                {result && <StateMark state={markOf(result.status)} />}
                <Typography sx={(theme) => ({ fontFamily: theme.tirante.mono, fontWeight: 700 })}>
                  {weakest?.shown ?? '–'}
                </Typography>
              </Box>
              {weakest && <MarginBar utilisation={weakest.utilisation} state={weakest.state} />}
              <Typography variant="caption" sx={{ color: 'text.secondary' }}>
                {figure
                  ? `${figure.label} ${main(figure.mm)} · ${weakest?.name ?? result.headline}`
                  : (result?.headline ?? '')}
              </Typography>
            </Box>
          </Box>
        )
      })}
    </Box>
  )
}
