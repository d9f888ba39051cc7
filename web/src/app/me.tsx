import { Alert, Box, Button, Dialog, DialogContent, TextField, Typography } from '@mui/material'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { createContext, useContext, useEffect, useState, type ReactNode } from 'react'
import { answer, api, bringMark, whenEnded, type MeOut } from '../api'
import { Busy, Problem } from '../ui'

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
  const asks = Boolean(me?.accounts && !me.me)
  if (me && !asks && !opened) open(true)
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
      {asks && <AskName before={opened} />}
    </MeContext>
  )
}

function AskName({ before }: { before: boolean }) {
  const queries = useQueryClient()
  const [name, setName] = useState('')
  const [password, setPassword] = useState('')
  const enter = useMutation({
    mutationFn: () => answer(api.POST('/api/sign-in', { body: { name, password } })),
    onSuccess: (me) => {
      bringMark(me.csrf)
      queries.setQueryData(['me'], me)
      void queries.invalidateQueries()
    },
  })
  return (
    <Dialog open fullScreen={!before} aria-labelledby="sign-in">
      <DialogContent sx={{ maxWidth: 420, mx: 'auto' }}>
        <Typography id="sign-in" variant="h1" component="h2" sx={{ mb: 1 }}>
          Sign in
        </Typography>
        <Typography variant="body2" sx={{ color: 'text.secondary', mb: 2 }}>
          {before ? 'The session has ended. What is on this page is kept.' : 'Several people work here.'}
        </Typography>
        <Box
          component="form"
          onSubmit={(event) => {
            event.preventDefault()
            enter.mutate()
          }}
          sx={{ display: 'grid', gap: 1.5 }}
        >
          <TextField
            label="Name"
            value={name}
            onChange={(event) => setName(event.target.value)}
            autoComplete="username"
            slotProps={{ htmlInput: { maxLength: 80 } }}
          />
          <Password label="Password" value={password} onChange={setPassword} />
          {enter.error && <Alert severity="error">{enter.error.message}</Alert>}
          <Button type="submit" variant="contained" disabled={!name.trim() || !password || enter.isPending}>
            Sign in
          </Button>
        </Box>
      </DialogContent>
    </Dialog>
  )
}

/** A password as it is typed. */
export function Password(props: {
  label: string
  value: string
  onChange: (text: string) => void
  fresh?: boolean
  small?: boolean
}) {
  return (
    <TextField
      type="password"
      size={props.small ? 'small' : undefined}
      label={props.label}
      value={props.value}
      onChange={(event) => props.onChange(event.target.value)}
      autoComplete={props.fresh ? 'new-password' : 'current-password'}
      slotProps={{ htmlInput: { maxLength: 128 } }}
    />
  )
}
