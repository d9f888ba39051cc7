import { Box, Button, LinearProgress, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { answer, api, type SizeAllOut } from '../../api'
import { useSessionPart, useTheSession } from '../../app/session'
import { Problem, Section, Segmented } from '../../ui'

type Aim = 'mass' | 'cost' | 'stocks'
const FOUND: Record<Aim, string> = { mass: 'lightest', cost: 'cheapest', stocks: 'fewest stocks' }

/** Every link of the job sized together; what is found is shown first and taken when it is wanted. */
export function SizeAll() {
  const session = useTheSession()
  const links = useSessionPart((state) => state.design.links)
  const [aim, setAim] = useState<Aim>('mass')
  const [found, setFound] = useState<SizeAllOut | null>(null)
  const call = useRef<AbortController>(undefined)
  const size = useMutation({
    mutationFn: () => {
      call.current = new AbortController()
      const { signal } = call.current
      return answer(api.POST('/api/size-all', { body: { design: session.state().design, aim }, signal }))
    },
    onSuccess: setFound,
  })
  const stopped = size.error instanceof DOMException
  const take = () => {
    if (!found) return
    const sized = new Map(found.design.links.map((link) => [link.id, link]))
    const won = new Set(found.links.filter((one) => one.sized).map((one) => one.link_id))
    session.edit('size all', (now) => ({
      ...now,
      links: now.links.map((link) => (won.has(link.id) ? (sized.get(link.id) ?? link) : link)),
      catalogue: found.design.catalogue,
    }))
    setFound(null)
  }
  return (
    <Section title="Size all" note="every link against every case; hardware that does not fit together is never tried">
      <Segmented
        label="What is to be least"
        fullWidth
        value={aim}
        onChange={(next) => {
          setAim(next)
          setFound(null)
        }}
        options={[
          { value: 'mass' as const, label: 'mass' },
          { value: 'cost' as const, label: 'cost' },
          { value: 'stocks' as const, label: 'stocks', title: 'the fewest different tubes on the rack' },
        ]}
      />
      <Box sx={{ display: 'flex', gap: 1, mt: 1 }}>
        <Button
          variant="contained"
          fullWidth
          onClick={() => size.mutate()}
          disabled={size.isPending || links.length === 0}
        >
          Size all
        </Button>
        {size.isPending && <Button onClick={() => call.current?.abort()}>Stop</Button>}
      </Box>
      {size.isPending && <LinearProgress aria-label="Searching the catalogue" sx={{ mt: 1 }} />}
      {size.error && !stopped && (
        <Box sx={{ mt: 1 }}>
          <Problem error={size.error} />
        </Box>
      )}
      {found && (
        <Box
          data-testid="size-all"
          sx={{ mt: 1.5, border: 1, borderColor: 'divider', p: 1.5, bgcolor: 'background.paper' }}
        >
          {found.links.map((one) => (
            <Box key={one.link_id} sx={{ mb: 1 }}>
              <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 1 }}>
                <Typography sx={{ fontWeight: 600, color: one.sized ? 'text.primary' : 'error.main' }}>
                  {one.sized ? '' : '■ '}
                  {one.name}
                </Typography>
                {one.mass_kg !== null && (
                  <Typography sx={(theme) => ({ fontFamily: theme.tirante.mono, whiteSpace: 'nowrap' })}>
                    {one.mass_kg.toFixed(2)} kg
                  </Typography>
                )}
              </Box>
              <Typography variant="caption" component="p" sx={{ m: 0 }}>
                {one.sized && `${one.tube}, ${one.grade}; weakest: ${one.worst}`}
              </Typography>
              <Typography variant="caption" component="p" sx={{ m: 0, color: 'text.secondary' }}>
                {one.advice}
              </Typography>
            </Box>
          ))}
          <Typography variant="caption" component="p" sx={{ color: 'text.secondary', mt: 0 }}>
            {FOUND[aim]}: {found.mass_kg.toFixed(2)} kg, {found.stocks} different{' '}
            {found.stocks === 1 ? 'stock' : 'stocks'}; {found.considered.toLocaleString('en')} sets of parts fit
            together, {found.judged.toLocaleString('en')} came into question.
          </Typography>
          <Button variant="contained" size="small" onClick={take} disabled={found.links.every((one) => !one.sized)}>
            Use these parts
          </Button>
        </Box>
      )}
    </Section>
  )
}
