import { Box, Button, Typography } from '@mui/material'
import { useState } from 'react'

/** The line that repeats a figure, to be copied. */
export function Repeats({ line, what }: { line: string; what: string }) {
  const [copied, setCopied] = useState(false)
  const copy = async () => {
    await navigator.clipboard.writeText(line)
    setCopied(true)
  }
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between' }}>
        <Typography variant="caption" sx={{ color: 'text.secondary' }}>
          {what}
        </Typography>
        <Button size="small" onClick={() => void copy()}>
          {copied ? 'copied' : 'copy'}
        </Button>
      </Box>
      <Box
        component="pre"
        data-testid="command"
        sx={(theme) => ({
          fontFamily: theme.tirante.mono,
          fontSize: 11,
          whiteSpace: 'pre-wrap',
          wordBreak: 'break-all',
          maxHeight: 160,
          overflow: 'auto',
          m: 0,
        })}
      >
        {line}
      </Box>
    </>
  )
}
