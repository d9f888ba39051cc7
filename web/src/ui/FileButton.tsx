import { Button } from '@mui/material'
import { useRef, type ReactNode } from 'react'

/** A button that asks for a file; the same file may be chosen again. */
export function FileButton(props: {
  label: string
  accept: string
  onFile: (file: File) => void
  children: ReactNode
  variant?: 'text' | 'outlined'
  startIcon?: ReactNode
}) {
  const input = useRef<HTMLInputElement>(null)
  return (
    <>
      <Button size="small" variant={props.variant} startIcon={props.startIcon} onClick={() => input.current?.click()}>
        {props.children}
      </Button>
      <input
        ref={input}
        type="file"
        accept={props.accept}
        hidden
        aria-label={props.label}
        onChange={(event) => {
          const chosen = event.target.files?.[0]
          if (chosen) props.onFile(chosen)
          event.target.value = ''
        }}
      />
    </>
  )
}
