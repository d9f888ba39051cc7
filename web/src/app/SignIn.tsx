import { Alert, Box, Button, Dialog, DialogContent, TextField, Typography } from '@mui/material'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api, bringMark } from '../api'

/** Name and password, over the page where it was open before. */
export function AskName({ before }: { before: boolean }) {
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
          Sign in to Tirante
        </Typography>
        <Typography variant="body2" sx={{ color: 'text.secondary', mb: 2 }}>
          {before
            ? 'The session has ended. What is on this page is kept.'
            : 'Several people work here. Whoever has no account asks an owner for one.'}
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
