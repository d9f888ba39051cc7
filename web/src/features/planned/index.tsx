import { Box, Typography } from '@mui/material'
import { Navigate, useParams } from 'react-router'
import { STATIONS } from '../../app/stations'

/** A station that is not built yet says what will be there, and offers nothing it cannot do. */
export function PlannedStation() {
  const { station, jobId } = useParams()
  const found = STATIONS.find((one) => one.path === station)
  if (!found?.planned) return <Navigate to={`/jobs/${jobId}/members`} replace />
  return (
    <Box sx={{ height: '100%', bgcolor: 'background.paper', p: 3 }}>
      <Typography variant="h1" gutterBottom>
        {found.name}
      </Typography>
      <Typography sx={{ maxWidth: 620, color: 'text.secondary' }}>{found.planned}</Typography>
    </Box>
  )
}
