import { Box, Typography } from '@mui/material'
import { NavLink, useLocation, useParams } from 'react-router'
import { useMade } from '../../features/history'
import { StateMark, type MarkState } from '../../ui'
import { OF_A_PART } from '../holds'
import { useSessionPart } from '../session'
import { STATIONS } from '../stations'
import { useSurveyMark } from '../surveyMeans'

/** The nine stations, always open, with how each stands. */
export function StationRail() {
  const jobId = useSessionPart((state) => state.jobId)
  const evaluated = useSessionPart((state) => state.evaluation?.marks)
  const survey = useSurveyMark() // what was read and ticked, beside the design
  const log = useMade().data?.mark
  const marks: Partial<Record<string, MarkState>> = { ...evaluated, ...(survey && { survey }), ...(log && { log }) }
  const { partId } = useParams()
  const { pathname } = useLocation()
  return (
    <Box
      component="nav"
      aria-label="Stations"
      sx={{ borderRight: 1, borderColor: 'divider', pt: 0.5, overflowY: 'auto' }}
    >
      {STATIONS.map((station) => {
        const here = pathname.split('/')[3] === station.path
        const mark = marks[station.path] // none while it is not known
        // at a part of it, the station leads back to all of them
        const keeps = OF_A_PART.includes(station.path) && partId && !here
        return (
          <Box
            key={station.path}
            component={NavLink}
            title={station.asks}
            to={`/jobs/${jobId}/${station.path}${keeps ? `/${partId}` : ''}`}
            sx={{
              display: 'block', height: 64, pl: 1, pr: 0.5, pt: 1, textDecoration: 'none', color: here ? 'primary.main' : 'text.primary',
              borderLeft: 3, borderColor: here ? 'primary.main' : 'transparent', bgcolor: here ? 'background.paper' : 'transparent',
              fontWeight: here ? 700 : 400, '&:hover': { color: 'primary.main' },
            }} // prettier-ignore
          >
            <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline', pr: 0.25 }}>
              <Typography component="span" sx={{ fontSize: 16, fontWeight: 'inherit' }}>
                {station.number}
              </Typography>
              {mark && <StateMark state={mark} />}
            </Box>
            <Typography
              component="span"
              noWrap
              sx={{ fontSize: 12.3, letterSpacing: '-0.01em', fontWeight: 'inherit', display: 'block' }}
            >
              {station.name}
            </Typography>
          </Box>
        )
      })}
    </Box>
  )
}
