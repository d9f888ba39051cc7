import { Box, Button, Typography } from '@mui/material'
import { useState } from 'react'
import { answer, api, type AnyPart } from '../../api'
import { newId, useKinds, usePartsOf, useSessionPart, useTheSession } from '../../app/session'
import { TaskBar, useTask } from '../../app/tasks'
import { Section, Segmented } from '../../ui'
import { Told } from '../../quantity'

type Aim = 'mass' | 'cost' | 'stocks'
const FOUND: Record<Aim, string> = { mass: 'lightest', cost: 'cheapest', stocks: 'fewest stocks' }

/** A search that was asked for, and the parts as they were then. */
interface Asked {
  id: string
  aim: Aim
  parts: AnyPart[]
}

/** Every part of the job that the catalogue is searched for, sized together; what is found is shown first and taken when it is wanted. */
export function SizeAll() {
  const session = useTheSession()
  const kinds = useKinds()
  const members = usePartsOf('members')
  const jobId = useSessionPart((state) => state.jobId)
  const parts = members.filter((part) => kinds?.find((kind) => kind.key === part.kind)?.searched).length
  const [aim, setAim] = useState<Aim>('mass')
  const { asked, going, task, came, trouble, begin, stop, forget } = useTask<Asked>('size-all', jobId, ({ id, aim }) =>
    answer(api.POST('/api/tasks/size-all', { body: { design: session.state().design, id, job_id: jobId, aim } })),
  )
  const found = came?.sized ?? null
  const take = () => {
    if (!found || !asked) return
    // what was changed since the search began is not overwritten by what was found for it as it was
    const before = new Map(asked.parts.map((part) => [part.id, JSON.stringify(part)]))
    const now = new Map(session.state().design.parts.map((part) => [part.id, JSON.stringify(part)]))
    const stands = (id: string) => !before.has(id) || now.get(id) === before.get(id)
    const left = found.patch.parts.filter((part) => !stands(part.id))
    session.patch('size all', {
      ...found.patch,
      parts: found.patch.parts.filter((part) => stands(part.id)),
      told: [
        ...found.patch.told,
        ...left.map((part) => `${part.name} was changed since the search began: it stays as it is. Size it again.`),
      ],
    })
    forget()
  }
  return (
    <Section title="Size all" note="every part against every case; hardware that does not fit together is never tried">
      <Segmented
        label="What is to be least"
        fullWidth
        value={aim}
        onChange={(next) => {
          setAim(next)
          if (!going) forget()
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
          onClick={() => begin({ id: newId(), aim, parts: session.state().design.parts })}
          disabled={going || parts === 0}
        >
          Size all
        </Button>
        {going && <Button onClick={stop}>Stop</Button>}
      </Box>
      <TaskBar going={going} task={task} trouble={trouble} label="Searching the catalogue" what="parts sized" />
      {found && (
        <Box
          data-testid="size-all"
          sx={{ mt: 1.5, border: 1, borderColor: 'divider', p: 1.5, bgcolor: 'background.paper' }}
        >
          {found.parts.map((one) => (
            <Box key={one.part_id} sx={{ mb: 1 }}>
              <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 1 }}>
                <Typography
                  sx={{
                    fontWeight: 600,
                    color: one.sized ? 'text.primary' : one.searched ? 'error.main' : 'text.secondary',
                  }}
                >
                  {one.sized || !one.searched ? '' : '■ '}
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
                <Told>{one.advice}</Told>
              </Typography>
            </Box>
          ))}
          <Typography variant="caption" component="p" sx={{ color: 'text.secondary', mt: 0 }}>
            {found.stopped && 'Stopped before all were sized. '}
            {FOUND[asked?.aim ?? aim]}: {found.mass_kg.toFixed(2)} kg, {found.stocks} different{' '}
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
