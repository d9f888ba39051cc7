import { createContext, useContext, useState } from 'react'

type Mode = 'light' | 'dark'
interface Stored {
  mode: Mode
  toggle: () => void
}

const KEY = 'tirante:mode'

/** Light by day, dark for a dim shop: as last chosen on this device, else as the device asks. */
export function useStoredMode(): Stored {
  const [mode, setMode] = useState<Mode>(() => {
    const kept = localStorage.getItem(KEY)
    if (kept === 'light' || kept === 'dark') return kept
    return window.matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light'
  })
  const toggle = () =>
    setMode((now) => {
      const next = now === 'light' ? 'dark' : 'light'
      localStorage.setItem(KEY, next)
      return next
    })
  return { mode, toggle }
}

export const ModeContext = createContext<Stored>({ mode: 'light', toggle: () => undefined })
export const useMode = () => useContext(ModeContext)
