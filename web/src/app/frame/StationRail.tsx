import { Box, Typography } from '@mui/material'
import { NavLink, useLocation, useParams } from 'react-router'
import { StateMark, type MarkState } from '../../ui'
import { OF_A_PART } from '../holds'
import { useSessionPart } from '../session'
import { STATIONS } from '../stations'
import type { EndMotionOut, Evaluation, PartOut } from '../../api'

function worst(parts: PartOut[]): MarkState {
  const states = parts.map((part) => part.status)
  if (states.length === 0) return 'untouched'
  if (states.includes('stop')) return 'stop'
  if (states.includes('attention')) return 'attention'
  return states.includes('incomplete') ? 'in hand' : 'good'
}

function worstEnd(ends: EndMotionOut[]): MarkState {
  const states = ends.map((end) => end.state)
  if (states.includes('stop')) return 'stop'
  if (states.includes('attention')) return 'attention'
  return states.includes('incomplete') || ends.some((end) => end.not_watched.length) ? 'in hand' : 'good'
}

function markFor(path: string, evaluation: Evaluation | null, ends: number, loads: number): MarkState {
  const parts = evaluation?.parts ?? []
  if (path === 'members' || path === 'brackets') return worst(parts.filter((part) => part.station === path))
  if (path === 'loads') return loads ? 'in hand' : 'untouched'
  if (path === 'cycle' && ends && evaluation) return worstEnd(evaluation.ends)
  if (path === 'layout' || path === 'cycle') return ends ? 'in hand' : 'untouched'
  const all = path === 'jigs' ? parts.filter((part) => part.station === 'members') : path === 'pack' ? parts : []
  const done = all.filter((part) => (path === 'jigs' ? part.jig : part.complete))
  if (done.length === 0) return 'untouched'
  return done.length === all.length ? 'good' : 'in hand'
}

/** The nine stations, always open, with how each stands. */
export function StationRail() {
  const jobId = useSessionPart((state) => state.jobId)
  const evaluation = useSessionPart((state) => state.evaluation)
  const ends = useSessionPart((state) => state.design.ends.length)
  const loads = useSessionPart((state) => state.design.loads.cases.length)
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
        // at a part of it, the station leads back to all of them
        const keeps = OF_A_PART.includes(station.path) && partId && !here
        return (
          <Box
            key={station.path}
            component={NavLink}
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
              <StateMark state={markFor(station.path, evaluation, ends, loads)} />
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
