import { Box, ButtonBase, Typography } from '@mui/material'
import { useId, useState, type ReactNode } from 'react'

/** A stretch of a long panel that opens; a note beside its name says what is in it. */
export function Fold(props: { title: string; note?: ReactNode; open?: boolean; wrong?: boolean; children: ReactNode }) {
  const [chosen, setChosen] = useState<boolean | null>(null)
  const id = useId()
  const open = chosen ?? props.open ?? false
  return (
    <Box component="section" sx={{ borderBottom: 1, borderColor: 'divider' }}>
      <ButtonBase
        aria-expanded={open}
        aria-controls={id}
        onClick={() => setChosen(!open)}
        sx={{ width: '100%', py: 1, gap: 1, justifyContent: 'flex-start', alignItems: 'baseline', textAlign: 'left' }}
      >
        <Box component="span" aria-hidden sx={{ color: 'primary.main', width: 12, fontSize: 12 }}>
          {open ? '▾' : '▸'}
        </Box>
        <Typography component="h3" variant="h3" sx={{ color: props.wrong ? 'error.main' : 'text.primary' }}>
          {props.title}
        </Typography>
        <Typography variant="caption" sx={{ color: 'text.secondary', ml: 'auto', textAlign: 'right' }}>
          {props.note}
        </Typography>
      </ButtonBase>
      <Box id={id} hidden={!open} sx={{ pb: 1.5 }}>
        {open && props.children}
      </Box>
    </Box>
  )
}
