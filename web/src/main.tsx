import createCache from '@emotion/cache'
import { CacheProvider } from '@emotion/react'
import { CssBaseline, ThemeProvider } from '@mui/material'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { StrictMode, useMemo } from 'react'
import { createRoot } from 'react-dom/client'
import { RouterProvider } from 'react-router/dom'
import { ApiProblem } from './api'
import { SignedIn } from './app/me'
import { ModeContext, useStoredMode } from './app/mode'
import { router } from './app/routes'
import { hashOfKey } from './app/queryKeys'
import { makeTheme } from './app/theme'
import './app/global.css'
import './fonts/fonts.css'

const nonce = document.querySelector<HTMLMetaElement>('meta[name=csp-nonce]')?.content
const cache = createCache({ key: 'tirante', nonce, prepend: true })
const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 10_000,
      queryKeyHashFn: hashOfKey,
      refetchOnWindowFocus: false,
      retry: (count, error) => error instanceof ApiProblem && error.passing && count < 40,
      retryDelay: 1500,
      networkMode: 'always',
    },
    mutations: { networkMode: 'always' },
  },
})

function Application() {
  const mode = useStoredMode()
  const theme = useMemo(() => makeTheme(mode.mode), [mode.mode])
  return (
    <CacheProvider value={cache}>
      <ModeContext value={mode}>
        <ThemeProvider theme={theme}>
          <CssBaseline enableColorScheme />
          <QueryClientProvider client={queries}>
            <SignedIn>
              <RouterProvider router={router} />
            </SignedIn>
          </QueryClientProvider>
        </ThemeProvider>
      </ModeContext>
    </CacheProvider>
  )
}

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <Application />
  </StrictMode>,
)
