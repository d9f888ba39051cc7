import { Box, Button, LinearProgress, Typography } from '@mui/material'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api, type SizeAllOut } from '../../api'
import { newId, useKinds, usePartsOf, useTheSession } from '../../app/session'
import { Problem, Section, Segmented } from '../../ui'

type Aim = 'mass' | 'cost' | 'stocks'
const FOUND: Record<Aim, string> = { mass: 'lightest', cost: 'cheapest', stocks: 'fewest stocks' }

/** Every part of the job that the catalogue is searched for, sized together; what is found is shown first and taken when it is wanted. */
export function SizeAll() {
  const session = useTheSession()
  const kinds = useKinds()
  const members = usePartsOf('members')
  const parts = members.filter((part) => kinds?.find((kind) => kind.key === part.kind)?.searched).length
  const [aim, setAim] = useState<Aim>('mass')
  const [found, setFound] = useState<SizeAllOut | null>(null)
  const [search, setSearch] = useState<string | null>(null)
  const size = useMutation({
    mutationFn: (id: string) =>
      answer(api.POST('/api/size-all', { body: { design: session.state().design, aim, search_id: id } })),
    onSuccess: setFound,
    onSettled: () => setSearch(null),
  })
  const far = useQuery({
    queryKey: ['search', search],
    queryFn: () => answer(api.GET('/api/searches/{search_id}', { params: { path: { search_id: search! } } })),
    enabled: search !== null,
    refetchInterval: 300,
  })
  const stop = () =>
    search && void api.POST('/api/searches/{search_id}/stop', { params: { path: { search_id: search } }, body: {} })
  const begin = () => {
    const id = newId()
    setSearch(id)
    setFound(null)
    size.mutate(id)
  }
  const { done = 0, of = 0 } = (search !== null && far.data) || {}
  const take = () => {
    if (!found) return
    session.patch('size all', found.patch)
    setFound(null)
  }
  return (
    <Section title="Size all" note="every part against every case; hardware that does not fit together is never tried">
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
        <Button variant="contained" fullWidth onClick={begin} disabled={size.isPending || parts === 0}>
          Size all
        </Button>
        {size.isPending && <Button onClick={stop}>Stop</Button>}
      </Box>
      {size.isPending && (
        <>
          <LinearProgress
            aria-label="Searching the catalogue"
            variant={of ? 'determinate' : 'indeterminate'}
            value={of ? (100 * done) / of : undefined}
            sx={{ mt: 1 }}
          />
          <Typography variant="caption" component="p" role="status" sx={{ m: 0 }}>
            {of ? `${done} of ${of} parts sized` : 'beginning'}
          </Typography>
        </>
      )}
      {size.error && (
        <Box sx={{ mt: 1 }}>
          <Problem error={size.error} />
        </Box>
      )}
      {found && (
        <Box
          data-testid="size-all"
          sx={{ mt: 1.5, border: 1, borderColor: 'divider', p: 1.5, bgcolor: 'background.paper' }}
        >
          {found.parts.map((one) => (
            <Box key={one.part_id} sx={{ mb: 1 }}>
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
            {found.stopped && 'Stopped before all were sized. '}
            {FOUND[aim]}: {found.mass_kg.toFixed(2)} kg, {found.stocks} different{' '}
            {found.stocks === 1 ? 'stock' : 'stocks'}; {found.considered.toLocaleString('en')} sets of parts fit
            together, {found.judged.toLocaleString('en')} came into question, in {found.seconds.toFixed(1)} s.
          </Typography>
          <Button variant="contained" size="small" onClick={take} disabled={found.parts.every((one) => !one.sized)}>
            Use these parts
          </Button>
        </Box>
      )}
    </Section>
  )
}
