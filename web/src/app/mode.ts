import useMediaQuery from '@mui/material/useMediaQuery'
import { createContext, useContext, useState } from 'react'

type Mode = 'light' | 'dark'
interface Stored {
  mode: Mode
  toggle: () => void
}

const KEY = 'tirante:mode'

/** Light by day, dark for a dim shop: as last chosen on this device, else as the device asks now. */
export function useStoredMode(): Stored {
  const dim = useMediaQuery('(prefers-color-scheme: dark)', { noSsr: true })
  const [chosen, choose] = useState<Mode | null>(() => {
    const kept = localStorage.getItem(KEY)
    return kept === 'light' || kept === 'dark' ? kept : null
  })
  const mode = chosen ?? (dim ? 'dark' : 'light')
  const toggle = () => {
    const next = mode === 'light' ? 'dark' : 'light'
    localStorage.setItem(KEY, next)
    choose(next)
  }
  return { mode, toggle }
}

export const ModeContext = createContext<Stored>({ mode: 'light', toggle: () => undefined })
export const useMode = () => useContext(ModeContext)
