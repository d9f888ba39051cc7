import { Box, Button, Typography } from '@mui/material'
import { useState, type ReactNode } from 'react'
import { TextRow } from './TextRow'

interface Props {
  /** What was read, in a few words; what of; how. */
  head: ReactNode
  of: string
  how: string
  /** What it is called where it is taken back. */
  called: string
  back: string | null
  selected: boolean
  onSelect: () => void
  onBack: (why: string) => void
  busy: boolean
  /** What became of it. */
  children?: ReactNode
}

/** One row of what is kept: never changed, taken back with a reason, struck through and kept then. */
export function KeptRow(props: Props) {
  const { head, of, how, called, back, selected, onSelect, onBack, busy, children } = props
  const [asked, ask] = useState(false)
  const [why, setWhy] = useState('')
  return (
    <Box
      component="li"
      sx={{
        py: 0.75, px: 0.75, borderBottom: 1, borderColor: 'divider', fontSize: 13.5,
        bgcolor: selected ? 'action.selected' : undefined,
      }} // prettier-ignore
    >
      <Box
        component="button"
        onClick={onSelect}
        sx={{ all: 'unset', cursor: 'pointer', display: 'block', width: '100%', '&:focus-visible': { outline: 2 } }}
      >
        <Box component="span" sx={{ textDecoration: back !== null ? 'line-through' : undefined }}>
          {head}
        </Box>
        <Box component="span" sx={{ display: 'block', color: 'text.secondary' }}>
          {of}
        </Box>
      </Box>
      <Typography variant="caption" component="div" sx={{ color: 'text.secondary' }}>
        {how}
      </Typography>
      {back !== null ? (
        <KeptLine>{`Taken back${back && `: ${back}`}. It is kept and does not count.`}</KeptLine>
      ) : (
        children
      )}
      {back === null && !asked && (
        <Button size="small" onClick={() => ask(true)} aria-label={`Take back ${called}`}>
          Take back
        </Button>
      )}
      {asked && (
        <Box>
          <TextRow label="Why" value={why} optional onChange={setWhy} maxLength={200} />
          <Button
            size="small"
            disabled={busy}
            onClick={() => {
              onBack(why)
              ask(false)
              setWhy('')
            }}
          >
            It does not count
          </Button>
          <Button size="small" onClick={() => ask(false)}>
            It counts
          </Button>
        </Box>
      )}
    </Box>
  )
}

export function KeptLine({ children, amber = false }: { children: ReactNode; amber?: boolean }) {
  return (
    <Typography variant="caption" component="div" sx={{ color: amber ? 'warning.main' : 'text.secondary' }}>
      {children}
    </Typography>
  )
}
