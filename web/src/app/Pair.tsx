import { Alert, Box, Button, Checkbox, FormControlLabel, TextField, Typography } from '@mui/material'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api } from '../api'
import { useKeeping } from './away'

/** A phone that is not let in yet: how it comes to trust the shop's certificate, and the code that lets it in. */
export function Pair({ before }: { before: boolean }) {
  const queries = useQueryClient()
  const keeping = useKeeping(true)
  const [sure, setSure] = useState(false)
  const [code, setCode] = useState('')
  const pair = useMutation({
    mutationFn: () => answer(api.POST('/api/pair', { body: { code } })),
    onSuccess: (me) => {
      queries.setQueryData(['me'], me)
      void queries.invalidateQueries()
    },
  })
  const trusts = keeping === 'keeps'
  return (
    <Box
      component="main"
      sx={{ position: 'fixed', inset: 0, zIndex: 'modal', overflow: 'auto', bgcolor: 'background.default' }}
    >
      <Box sx={{ maxWidth: 560, mx: 'auto', p: 2, display: 'grid', gap: 1.5 }}>
        <Typography variant="h1" sx={{ fontSize: 24 }}>
          Let this phone in
        </Typography>
        <Typography sx={{ color: 'text.secondary' }}>
          {before
            ? 'This phone is not let in any more. What is on this page is kept while it stands open.'
            : 'This is Tirante, in this shop’s network. An owner lets a phone in once; after that whoever holds it signs in.'}
        </Typography>
        <Box component="ol" sx={{ m: 0, pl: 2.5, '& > li': { mb: 1.5 } }}>
          <li>
            <Typography>
              Have this phone trust the shop: save its certificate, then take it in the phone’s settings, under
              security, as a CA certificate, or as a profile that is then trusted for web pages in full.
            </Typography>
            <Button component="a" href="/api/authority.crt" download variant="outlined" sx={{ my: 0.5 }}>
              Save the certificate
            </Button>
            <Typography variant="body2" sx={{ color: 'text.secondary' }}>
              It may vouch for this one address and for nothing else. Anybody between this phone and the shop could have
              put another one here: so its details are opened on the phone before it is taken, and their SHA-256
              fingerprint is compared with the one on the machine’s own screen (People, The shop’s network), every pair.
              A phone that shows none when it is taken shows it afterwards, in its list of certificates that a user
              added. Where they differ, remove it and stop.
            </Typography>
            <Typography
              role="status"
              sx={{ mt: 0.75, fontWeight: 700, color: trusts ? 'success.main' : 'warning.main' }}
            >
              {keeping === undefined && 'Asking this browser whether it trusts the shop.'}
              {trusts && 'This browser trusts the certificate that this page came with.'}
              {keeping === 'no trust' &&
                'This browser does not trust it yet: nothing works while the server is away, and somebody in between could read what is typed here. Load this page again once the certificate is taken.'}
              {keeping === 'cannot' &&
                'This browser cannot tell whether it trusts it (a private window, perhaps), and keeps nothing for when the server is away.'}
            </Typography>
          </li>
          <li>
            <Typography>
              At the machine an owner opens People, The shop’s network, and has a code made for this phone. It lasts
              minutes, and works once.
            </Typography>
            <Box
              component="form"
              onSubmit={(event) => {
                event.preventDefault()
                pair.mutate()
              }}
              sx={{ display: 'grid', gap: 1, mt: 1 }}
            >
              <FormControlLabel
                control={<Checkbox checked={sure} onChange={(event) => setSure(event.target.checked)} />}
                label={
                  trusts
                    ? 'The fingerprint that this phone shows is the one on the machine’s screen'
                    : 'Let it in without trust: whoever stands in between could read along, and nothing works while the server is away'
                }
              />
              <TextField
                label="Code from the machine’s screen"
                value={code}
                onChange={(event) => setCode(event.target.value)}
                autoComplete="one-time-code"
                slotProps={{
                  htmlInput: { maxLength: 40, autoCapitalize: 'characters', spellCheck: false },
                }}
              />
              {pair.error && <Alert severity="error">{pair.error.message}</Alert>}
              <Button
                type="submit"
                variant="contained"
                size="large"
                disabled={!sure || !code.trim() || pair.isPending || keeping === undefined}
              >
                Let this phone in
              </Button>
            </Box>
          </li>
        </Box>
      </Box>
    </Box>
  )
}
