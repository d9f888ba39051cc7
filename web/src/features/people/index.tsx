import { Box, Button, MenuItem, TextField, Typography } from '@mui/material'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type ReactNode } from 'react'
import { Link as RouterLink } from 'react-router'
import { answer, api, bringMark, newId, type MeOut, type PersonOut, type Role } from '../../api'
import { useMe } from '../../app/me'
import { Password } from '../../app/SignIn'
import { Busy, Fold, Problem } from '../../ui'
import { Network } from './Network'

/** Who works here, what each may do, and who did what. */
export function PeopleView() {
  const me = useMe()
  return (
    <Box sx={{ height: '100vh', overflow: 'auto', bgcolor: 'background.default' }}>
      <Box component="main" sx={{ maxWidth: 760, mx: 'auto', p: { xs: 2, sm: 4 } }}>
        <Button component={RouterLink} to="/" sx={{ mb: 1, px: 0 }}>
          All jobs
        </Button>
        <Typography variant="h1" sx={{ fontSize: 26, mb: 1 }}>
          People
        </Typography>
        {me && (me.accounts ? <Everybody me={me} /> : <First />)}
      </Box>
    </Box>
  )
}

function useTakenOver() {
  const queries = useQueryClient()
  return (me: MeOut) => {
    bringMark(me.csrf)
    queries.setQueryData(['me'], me)
    void queries.invalidateQueries()
  }
}

function Form({ onSend, children }: { onSend: () => void; children: ReactNode }) {
  return (
    <Box
      component="form"
      onSubmit={(event) => {
        event.preventDefault()
        onSend()
      }}
      sx={{ display: 'grid', gap: 1.5, maxWidth: 420, py: 1 }}
    >
      {children}
    </Box>
  )
}

function Name({ value, onChange }: { value: string; onChange: (text: string) => void }) {
  return (
    <TextField
      size="small"
      label="Name, as it signs"
      value={value}
      onChange={(event) => onChange(event.target.value)}
      autoComplete="off"
      slotProps={{ htmlInput: { maxLength: 80 } }}
    />
  )
}

/** Nobody has an account: what they are for, and the first owner. */
function First() {
  const over = useTakenOver()
  const [name, setName] = useState('')
  const [password, setPassword] = useState('')
  const make = useMutation({
    mutationFn: () => answer(api.POST('/api/people/first', { body: { id: newId(), name, password } })),
    onSuccess: over,
  })
  return (
    <>
      <Typography sx={{ color: 'text.secondary', mb: 2 }}>
        One person on this machine needs no account. Where several work, each signs in, and what steers or alone locates
        a wheel is signed by somebody who did not make it: without accounts nothing is signed. Once there is an owner,
        everybody signs in here; that is not undone.
      </Typography>
      <Form onSend={() => make.mutate()}>
        <Name value={name} onChange={setName} />
        <Password small fresh label="Password, 12 characters or more" value={password} onChange={setPassword} />
        {make.error && <Problem error={make.error} />}
        <Button type="submit" variant="contained" disabled={!name.trim() || !password || make.isPending}>
          Make me the owner
        </Button>
      </Form>
    </>
  )
}

function Everybody({ me }: { me: MeOut }) {
  const over = useTakenOver()
  const found = useQuery({ queryKey: ['people'], queryFn: () => answer(api.GET('/api/people')), staleTime: 0 })
  const out = useMutation({ mutationFn: () => answer(api.POST('/api/sign-out', { body: {} })), onSuccess: over })
  if (found.error) return <Problem error={found.error} retry={() => void found.refetch()} />
  if (!found.data) return <Busy what="Reading who works here" />
  const { people, roles } = found.data
  const owns = me.rights.includes('people')
  return (
    <>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', mb: 2 }}>
        <Typography>
          Signed in as <b>{me.me?.name}</b>, {me.me?.role_word}
        </Typography>
        <Button onClick={() => out.mutate()} disabled={out.isPending}>
          Sign out
        </Button>
      </Box>
      <Box component="ul" aria-label="Everybody" sx={{ listStyle: 'none', p: 0, m: 0, mb: 2 }}>
        {people.map((one) => (
          <Box component="li" key={one.id} sx={{ borderTop: 1, borderColor: 'divider', py: 0.75 }}>
            <Typography component="span" sx={{ color: one.active ? 'text.primary' : 'text.secondary' }}>
              <b>{one.name}</b>, {one.role_word}
              {!one.active && ', account ended'}
            </Typography>
            {owns && <Change person={one} roles={roles} />}
          </Box>
        ))}
      </Box>
      {owns && (
        <Fold title="Give somebody an account">
          <Add roles={roles} />
        </Fold>
      )}
      <Fold title="What each may do">
        {roles.map((one) => (
          <Typography key={one.role} variant="body2" sx={{ mb: 0.5 }}>
            <b>{one.word}</b>: {one.may.join('; ')}.
          </Typography>
        ))}
      </Fold>
      <Fold title="The shop’s network">
        <Network me={me} />
      </Fold>
      <Fold title="My password">
        <MyPassword />
      </Fold>
      <Fold title="Who did what">
        <Deeds />
      </Fold>
    </>
  )
}

type Roles = { role: Role; word: string }[]

function RolePick({ value, roles, onChange }: { value: Role; roles: Roles; onChange: (role: Role) => void }) {
  return (
    <TextField
      select
      size="small"
      label="Role"
      value={value}
      onChange={(event) => onChange(event.target.value as Role)}
    >
      {roles.map((one) => (
        <MenuItem key={one.role} value={one.role}>
          {one.word}
        </MenuItem>
      ))}
    </TextField>
  )
}

function Add({ roles }: { roles: Roles }) {
  const queries = useQueryClient()
  const [name, setName] = useState('')
  const [role, setRole] = useState<Role>('bench')
  const [password, setPassword] = useState('')
  const [own, setOwn] = useState('')
  const add = useMutation({
    mutationFn: () =>
      answer(api.POST('/api/people', { body: { id: newId(), name, role, password, own_password: own } })),
    onSuccess: (after) => {
      queries.setQueryData(['people'], after)
      setName('')
      setPassword('')
      setOwn('')
    },
  })
  return (
    <Form onSend={() => add.mutate()}>
      <Name value={name} onChange={setName} />
      <RolePick value={role} roles={roles} onChange={setRole} />
      <Password small fresh label="Their first password" value={password} onChange={setPassword} />
      <Password small label="Your own password, again" value={own} onChange={setOwn} />
      {add.error && <Problem error={add.error} />}
      <Button type="submit" variant="contained" disabled={!name.trim() || !password || !own || add.isPending}>
        Give the account
      </Button>
    </Form>
  )
}

function Change({ person, roles }: { person: PersonOut; roles: Roles }) {
  const queries = useQueryClient()
  const [open, setOpen] = useState(false)
  const [role, setRole] = useState<Role>(person.role)
  const [password, setPassword] = useState('')
  const [own, setOwn] = useState('')
  const change = useMutation({
    mutationFn: (active: boolean) =>
      answer(
        api.POST('/api/people/{person_id}/change', {
          params: { path: { person_id: person.id } },
          body: { role, active, password: password || null, own_password: own },
        }),
      ),
    onSuccess: (after) => {
      queries.setQueryData(['people'], after)
      void queries.invalidateQueries({ queryKey: ['me'] }) // whose account it was signs in anew, maybe oneself
      setOpen(false)
      setPassword('')
      setOwn('')
    },
  })
  if (!open)
    return (
      <Button size="small" onClick={() => setOpen(true)} aria-label={`Change ${person.name}`}>
        Change
      </Button>
    )
  return (
    <Form onSend={() => change.mutate(person.active)}>
      <RolePick value={role} roles={roles} onChange={setRole} />
      <Password small fresh label="A new password, or none" value={password} onChange={setPassword} />
      <Password small label="Your own password, again" value={own} onChange={setOwn} />
      {change.error && <Problem error={change.error} />}
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button type="submit" variant="contained" disabled={!own || change.isPending}>
          Change it
        </Button>
        <Button disabled={!own || change.isPending} onClick={() => change.mutate(!person.active)}>
          {person.active ? 'End the account' : 'Open it again'}
        </Button>
        <Button onClick={() => setOpen(false)}>Leave it</Button>
      </Box>
    </Form>
  )
}

function MyPassword() {
  const over = useTakenOver()
  const [password, setPassword] = useState('')
  const [own, setOwn] = useState('')
  const change = useMutation({
    mutationFn: () => answer(api.POST('/api/me/password', { body: { password, own_password: own } })),
    onSuccess: (me) => {
      over(me)
      setPassword('')
      setOwn('')
    },
  })
  return (
    <Form onSend={() => change.mutate()}>
      <Password small label="The one you have" value={own} onChange={setOwn} />
      <Password small fresh label="A new one, 12 characters or more" value={password} onChange={setPassword} />
      {change.error && <Problem error={change.error} />}
      <Button type="submit" variant="contained" disabled={!password || !own || change.isPending}>
        Take it
      </Button>
    </Form>
  )
}

function Deeds() {
  const found = useQuery({ queryKey: ['deeds'], queryFn: () => answer(api.GET('/api/deeds')), staleTime: 0 })
  if (found.error) return <Problem error={found.error} retry={() => void found.refetch()} />
  if (!found.data) return <Busy what="Reading the log" />
  return (
    <>
      <Typography variant="body2" sx={{ color: found.data.broken_at ? 'error.main' : 'text.secondary', mb: 1 }}>
        {found.data.broken_at
          ? `Entry ${found.data.broken_at} is not as it was written, or one before it is missing.`
          : 'Every entry is bound to the one before it, and all are as they were written.'}{' '}
        Whoever may write all of the database could write all of it anew: write this down elsewhere to see that.
        <Box component="code" sx={{ display: 'block', overflowWrap: 'anywhere' }}>
          {found.data.head}
        </Box>
      </Typography>
      <Box component="ol" reversed aria-label="Who did what, the latest first" sx={{ pl: 4, m: 0, fontSize: 13.5 }}>
        {found.data.deeds.map((one) => (
          <li key={one.number} value={one.number}>
            {new Date(one.at).toLocaleString()}, {one.who || 'nobody known'}: {one.what}
            {['name', 'role', 'part', 'hand', 'step', 'limits', 'why'].map((key) => {
              const told = (one.of as Record<string, unknown>)[key]
              return typeof told === 'string' && told ? `, ${told}` : ''
            })}{' '}
            <Box component="code" title="on sheets that were made after it" sx={{ color: 'text.secondary' }}>
              {one.link.slice(0, 16)}
            </Box>
          </li>
        ))}
      </Box>
    </>
  )
}
