import { Box } from '@mui/material'

/** For the keyboard: past the rail, to the sheet. */
export function SkipLink() {
  return (
    <Box
      component="a"
      href="#sheet"
      sx={{
        position: 'absolute', left: -9999, top: 4, zIndex: 10, p: 1, bgcolor: 'background.paper', color: 'primary.main',
        '&:focus': { left: 8 },
      }} // prettier-ignore
    >
      To the sheet
    </Box>
  )
}
