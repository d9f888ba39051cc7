import { Box } from '@mui/material'
import type { ReactNode } from 'react'

/** The sheet on the left, the panel of what is selected on the right; neither makes the page scroll. */
export function StationLayout({ sheet, panel }: { sheet: ReactNode; panel: ReactNode }) {
  return (
    <Box sx={{ height: '100%', display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) 332px' }}>
      <Box
        component="section"
        aria-label="Sheet"
        sx={{ bgcolor: 'background.paper', minHeight: 0, display: 'flex', flexDirection: 'column', overflow: 'hidden' }}
      >
        {sheet}
      </Box>
      <Box
        component="aside"
        aria-label="Panel"
        sx={{ borderLeft: 1, borderColor: 'divider', minHeight: 0, display: 'flex', flexDirection: 'column' }}
      >
        {panel}
      </Box>
    </Box>
  )
}

/** The head of a sheet: what it shows on the left, what may be switched on the right. */
export function SheetHead({ title, note, children }: { title: ReactNode; note?: ReactNode; children?: ReactNode }) {
  return (
    <Box
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 1.5,
        px: 3,
        pt: 1.5,
        minHeight: 48,
        flexWrap: 'wrap',
        rowGap: 0.5,
      }}
    >
      {title}
      <Box component="span" sx={{ color: 'text.secondary', fontSize: 13.5, flex: 1, minWidth: 120 }}>
        {note}
      </Box>
      {children}
    </Box>
  )
}
