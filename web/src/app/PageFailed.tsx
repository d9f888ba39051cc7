import { Box, Button, Typography } from '@mui/material'

/** A page that broke: what was typed is still in the browser's keeping. */
export function PageFailed() {
  return (
    <Box sx={{ p: 4 }} role="alert">
      <Typography variant="h1" gutterBottom>
        This page broke.
      </Typography>
      <Typography sx={{ mb: 2 }}>
        What you typed is kept in this browser and comes back when you load the page again.
      </Typography>
      <Button variant="contained" onClick={() => window.location.reload()}>
        Load it again
      </Button>
    </Box>
  )
}
