import { Box } from '@mui/material'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Suspense, createContext, lazy, useContext, useEffect, useState, type ReactNode } from 'react'
import { answer, api, bringMark, whenEnded, type MeOut } from '../api'
import { Busy, Problem } from '../ui'
import { useKeeping } from './away'

const Pair = lazy(async () => ({ default: (await import('./Pair')).Pair }))
const AskName = lazy(async () => ({ default: (await import('./SignIn')).AskName })) // a phone's first card is light without it

const MeContext = createContext<MeOut | null>(null)

/** Who is signed in, and what that one may do. */
export const useMe = () => useContext(MeContext)

/** Asks for a name once anybody has an account; over the page, so that what is on it is kept. */
export function SignedIn({ children }: { children: ReactNode }) {
  const queries = useQueryClient()
  const found = useQuery({ queryKey: ['me'], queryFn: () => answer(api.GET('/api/me')), staleTime: Infinity })
  const me = found.data
  const [opened, open] = useState(false) // whether the page was shown once: it stays under the question then
  useEffect(() => whenEnded(() => void queries.invalidateQueries({ queryKey: ['me'] })), [queries])
  bringMark(me?.csrf ?? '')
  useKeeping(Boolean(me?.lan && me.device))
  const out = Boolean(me?.lan && !me.device) // a phone that is not let in, or not any more
  const asks = Boolean(me?.accounts && !me.me && !out)
  if (me && !asks && !out && !opened) open(true)
  if (!me && found.error && !opened)
    return (
      <Box sx={{ p: 4 }}>
        <Problem error={found.error} retry={() => void found.refetch()} />
      </Box>
    )
  if (!me && !opened) return <Busy what="Opening" />
  return (
    <MeContext value={me ?? null}>
      {opened && children}
      {asks && (
        <Suspense>
          <AskName before={opened} />
        </Suspense>
      )}
      {out && (
        <Suspense fallback={<Busy what="Opening" />}>
          <Pair before={opened} />
        </Suspense>
      )}
    </MeContext>
  )
}
