import { Box, Button, TextField, Typography } from '@mui/material'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { answer, api, type MeOut, type NetworkOut } from '../../api'
import { NO_TRUST, useKeeping } from '../../app/away'
import { Password } from '../../app/SignIn'
import { Busy, Problem } from '../../ui'

const KEY = ['network']
const when = (at: string) => new Date(at).toLocaleString([], { dateStyle: 'short', timeStyle: 'short' })

/** The shop's network: the address that phones open, its certificate's fingerprint, which phones are let in, who is signed in where. */
export function Network({ me }: { me: MeOut }) {
  const found = useQuery({ queryKey: KEY, queryFn: () => answer(api.GET('/api/network')), staleTime: 0 })
  const keeping = useKeeping(me.lan)
  if (found.error) return <Problem error={found.error} retry={() => void found.refetch()} />
  if (!found.data) return <Busy what="Reading what is served" />
  const network = found.data
  const owns = me.rights.includes('people')
  return (
    <>
      {keeping !== undefined && keeping !== 'keeps' && (
        <Typography sx={{ color: 'warning.main' }}>{NO_TRUST}</Typography>
      )}
      {network.served ? (
        <Served network={network} />
      ) : (
        <Typography sx={{ color: 'text.secondary', mb: 1 }}>
          This machine alone is served. For phones and tablets in the shop, start with{' '}
          <code>./tirante serve --lan</code> and this machine’s address in the shop’s network, as 192.168.1.20.
        </Typography>
      )}
      {network.served && owns && !me.lan && <LetIn devices={network.devices} />}
      {network.served && owns && me.lan && (
        <Typography sx={{ my: 1 }}>
          A phone is let in at the machine itself, whose screen shows what came over no network.
        </Typography>
      )}
      <Devices network={network} owns={owns} />
      <Sessions network={network} owns={owns} />
    </>
  )
}

function Served({ network }: { network: NetworkOut }) {
  const pairs = network.fingerprint.split(':')
  const rows = [0, 8, 16, 24].map((from) => pairs.slice(from, from + 8).join(':'))
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 3, mb: 2 }}>
      <Code rows={network.code} of={network.url} />
      <Box sx={{ flex: '1 1 300px' }}>
        <Typography>
          A phone in the shop opens <b>{network.url}</b>. It warns of a certificate that it does not know: that is how
          it starts, and the page it then shows tells the rest.
        </Typography>
        <Typography sx={{ mt: 1 }}>
          The certificate’s SHA-256 fingerprint, to be compared on the phone, every pair:
        </Typography>
        <Box component="code" aria-label="Fingerprint" sx={{ display: 'block', fontSize: 16, my: 0.5 }}>
          {rows.map((one) => (
            <Box component="span" key={one} sx={{ display: 'block' }}>
              {one}
            </Box>
          ))}
        </Box>
        <Typography variant="body2" sx={{ color: 'text.secondary' }}>
          That code, as those on sheets, holds an address and no more.
        </Typography>
      </Box>
    </Box>
  )
}

/** A code that a phone reads, with the blank rim that it needs. */
function Code({ rows, of }: { rows: string[]; of: string }) {
  const size = rows.length + 8
  const fields = rows.flatMap((row, y) => [...row].map((on, x) => (on === '#' ? `M${x + 4} ${y + 4}h1v1h-1z` : '')))
  return (
    <svg
      role="img"
      aria-label={`Code of ${of}`}
      viewBox={`0 0 ${size} ${size}`}
      width={170}
      height={170}
      shapeRendering="crispEdges"
    >
      <rect width={size} height={size} fill="#fff" />
      <path d={fields.join('')} fill="#000" />
    </svg>
  )
}

function LetIn({ devices }: { devices: NetworkOut['devices'] }) {
  const queries = useQueryClient()
  const [name, setName] = useState('')
  const [own, setOwn] = useState('')
  const [ends, setEnds] = useState(0)
  const [left, setLeft] = useState(0)
  const [before, setBefore] = useState<string[]>([]) // phones that were let in before the code was made
  const fresh = devices.find((one) => !before.includes(one.id))
  const open = useMutation({
    mutationFn: () => answer(api.POST('/api/network/pairing', { body: { name, own_password: own } })),
    onSuccess: (made) => {
      setOwn('')
      setName('')
      setBefore(devices.map((one) => one.id))
      setEnds(Date.now() + made.minutes * 60_000)
    },
  })
  useEffect(() => {
    if (!ends) return
    const look = () => {
      setLeft(Math.max(0, Math.ceil((ends - Date.now()) / 1000)))
      void queries.invalidateQueries({ queryKey: KEY }) // the phone that it let in stands below then
    }
    look()
    const timer = setInterval(look, 3000)
    return () => clearInterval(timer)
  }, [ends, queries])
  return (
    <Box
      component="form"
      aria-label="Let a phone in"
      onSubmit={(event) => {
        event.preventDefault()
        open.mutate()
      }}
      sx={{ display: 'grid', gap: 1.5, maxWidth: 420, py: 1 }}
    >
      <TextField
        size="small"
        label="What the phone is called, as Saw or Ana’s"
        value={name}
        onChange={(event) => setName(event.target.value)}
        autoComplete="off"
        slotProps={{ htmlInput: { maxLength: 80 } }}
      />
      <Password small label="Your own password, again" value={own} onChange={setOwn} />
      {open.error && <Problem error={open.error} />}
      <Button type="submit" variant="contained" disabled={!name.trim() || !own || open.isPending}>
        Make a code for it
      </Button>
      {open.data && left > 0 && !fresh && (
        <Box role="status">
          <Typography
            component="code"
            sx={{ display: 'block', fontSize: 34, letterSpacing: '0.08em', fontWeight: 700 }}
          >
            {open.data.code}
          </Typography>
          <Typography variant="body2">
            Typed at the phone, within {Math.floor(left / 60)}:{String(left % 60).padStart(2, '0')} min. It works once,
            and is shut after {open.data.tries} wrong ones. Another code shuts this one.
          </Typography>
        </Box>
      )}
      {open.data && ends > 0 && (fresh ?? left === 0) && (
        <Typography role="status">{fresh ? `${fresh.name} is let in.` : 'That code is over.'}</Typography>
      )}
    </Box>
  )
}

function useEnd(path: '/api/network/devices/{device_id}/end' | '/api/network/sessions/{session_id}/end') {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (id: string) =>
      answer(
        path === '/api/network/devices/{device_id}/end'
          ? api.POST(path, { params: { path: { device_id: id } }, body: {} })
          : api.POST(path, { params: { path: { session_id: id } }, body: {} }),
      ),
    onSuccess: (after) => {
      queries.setQueryData(KEY, after)
      void queries.invalidateQueries({ queryKey: ['me'] }) // it may have been one's own
    },
  })
}

function Devices({ network, owns }: { network: NetworkOut; owns: boolean }) {
  const end = useEnd('/api/network/devices/{device_id}/end')
  if (network.devices.length === 0) return null
  return (
    <>
      <Typography variant="h3" component="h4" sx={{ mt: 1.5 }}>
        Phones
      </Typography>
      {end.error && <Problem error={end.error} />}
      <Box component="ul" aria-label="Phones" sx={{ listStyle: 'none', p: 0, m: 0 }}>
        {network.devices.map((one) => (
          <Box component="li" key={one.id} sx={{ py: 0.5, color: one.let_in ? 'text.primary' : 'text.secondary' }}>
            <b>{one.name}</b>, let in by {one.paired_by} {when(one.paired_at)}, last seen {when(one.seen_at)}
            {one.ended && `; ${one.ended}`}
            {owns && one.let_in && (
              <Button
                size="small"
                disabled={end.isPending}
                onClick={() => end.mutate(one.id)}
                aria-label={`Let ${one.name} in no more`}
              >
                Let it in no more
              </Button>
            )}
          </Box>
        ))}
      </Box>
      <Typography variant="body2" sx={{ color: 'text.secondary' }}>
        Cards that a phone kept for when the server is away stay on it until it asks the server again: a lost one may
        show them.
      </Typography>
    </>
  )
}

function Sessions({ network, owns }: { network: NetworkOut; owns: boolean }) {
  const end = useEnd('/api/network/sessions/{session_id}/end')
  return (
    <>
      <Typography variant="h3" component="h4" sx={{ mt: 1.5 }}>
        {owns ? 'Who is signed in, and where' : 'Where you are signed in'}
      </Typography>
      {end.error && <Problem error={end.error} />}
      <Box component="ul" aria-label="Sessions" sx={{ listStyle: 'none', p: 0, m: 0 }}>
        {network.sessions.map((one) => (
          <Box component="li" key={one.id} sx={{ py: 0.5 }}>
            <b>{one.who}</b> on {one.on}, since {when(one.since)}, last seen {when(one.seen_at)}
            {one.here && ' (this one)'}
            <Button
              size="small"
              disabled={end.isPending}
              onClick={() => end.mutate(one.id)}
              aria-label={`End the session of ${one.who} on ${one.on}`}
            >
              End it
            </Button>
          </Box>
        ))}
      </Box>
    </>
  )
}
