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
  disabled?: boolean
  /** Opens a phone's camera. */
  camera?: boolean
  /** For a glove. */
  big?: boolean
}) {
  const input = useRef<HTMLInputElement>(null)
  return (
    <>
      <Button
        size={props.big ? 'large' : 'small'}
        variant={props.variant}
        startIcon={props.startIcon}
        disabled={props.disabled}
        onClick={() => input.current?.click()}
        sx={props.big ? { minHeight: 56 } : undefined}
      >
        {props.children}
      </Button>
      <input
        ref={input}
        type="file"
        accept={props.accept}
        {...(props.camera ? { capture: 'environment' as const } : {})}
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
