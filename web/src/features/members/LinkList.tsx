import { Box, Typography } from '@mui/material'
import { Link as RouterLink } from 'react-router'
import { useDesign, useSessionPart } from '../../app/session'
import { useUnits } from '../../quantity'
import { MarginBar, StateMark, markOf } from '../../ui'

/** The job's links, each with its weakest check. */
export function LinkList({ station }: { station: string }) {
  const evaluation = useSessionPart((state) => state.evaluation)
  const design = useDesign()
  const jobId = useSessionPart((state) => state.jobId)
  const { main } = useUnits()
  return (
    <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
      {design.links.map((link) => {
        const result = evaluation?.links.find((one) => one.id === link.id)
        const weakest = result?.checks.find((check) => check.key === result.governing)
        return (
          <Box component="li" key={link.id} sx={{ borderBottom: 1, borderColor: 'divider' }}>
            <Box
              component={RouterLink}
              to={`/jobs/${jobId}/${station}/${link.id}`}
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
                  {link.name}
                </Typography>
                {result && <StateMark state={markOf(result.status)} />}
                <Typography sx={(theme) => ({ fontFamily: theme.tirante.mono, fontWeight: 700 })}>
                  {weakest?.shown ?? '–'}
                </Typography>
              </Box>
              {weakest && <MarginBar utilisation={weakest.utilisation} state={weakest.state} />}
              <Typography variant="caption" sx={{ color: 'text.secondary' }}>
                {result?.stack
                  ? `saw ${main(result.stack.tube_cut_mm)} · ${weakest?.name ?? result.headline}`
                  : (result?.headline ?? '')}
              </Typography>
            </Box>
          </Box>
        )
      })}
    </Box>
  )
}
