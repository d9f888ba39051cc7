import { Box, Button, ButtonBase, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { answer, api, type ArmOut } from '../../api'
import { newId, useSessionPart, useTheSession } from '../../app/session'
import { Drawn } from '../../drawing'
import { Busy, Empty, Problem } from '../../ui'
import { useArmDrawing, type useArms } from './useArms'

interface Props {
  query: ReturnType<typeof useArms>
  chosen: string | null
  onChoose: (id: string) => void
  selection: string | null
  onSelect: (ref: string | null) => void
}

/** The arms of the job to pick from, and the picked one drawn flat in its plane. */
export function Arms({ query, chosen, onChoose, selection, onSelect }: Props) {
  const session = useTheSession()
  const ends = useSessionPart((state) => state.design.ends)
  const drawing = useArmDrawing(chosen)
  const make = useMutation({
    mutationFn: async (endId: string) => {
      const now = session.state().design
      const ids = Array.from({ length: 6 }, () => newId())
      const found = await answer(api.POST('/api/arms/new', { body: { design: now, end_id: endId, ids } }))
      return found.design.arms.slice(now.arms.length)
    },
    onSuccess: (made) => {
      session.edit('arms of an end', (now) => ({ ...now, arms: [...now.arms, ...made] }))
      if (made[0]) onChoose(made[0].id)
    },
  })
  const { data, error, isPending, refetch } = query
  if (error) return <Problem error={error} retry={() => void refetch()} />
  if (isPending || !data) return <Busy what="Carrying every case through the arms" />
  const waiting = Object.entries(data.missing)
  const on = data.arms.find((arm) => arm.id === chosen)
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column', minHeight: 0, px: 1 }}>
      {data.arms.length === 0 && waiting.length === 0 && (
        <Empty title="No arm here">
          Arms are the hinged bodies of a suspension end, such as a wishbone. Lay out an end that has them at station 2.
        </Empty>
      )}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, pb: 1 }}>
        {data.arms.map((arm) => (
          <Pick key={arm.id} arm={arm} on={arm.id === chosen} onChoose={() => onChoose(arm.id)} />
        ))}
        {waiting.map(([endId, bodies]) => (
          <Button key={endId} size="small" onClick={() => make.mutate(endId)} disabled={make.isPending}>
            Make {bodies.map((one) => one.replaceAll('_', ' ')).join(' and ')} of{' '}
            {ends.find((end) => end.id === endId)?.name ?? 'the end'} a part
          </Button>
        ))}
      </Box>
      {make.error && <Problem error={make.error} />}
      {on && (
        <Typography
          variant="body2"
          data-testid="arm-headline"
          sx={{
            color: on.state === 'stop' ? 'error.main' : on.state === 'attention' ? 'warning.main' : 'text.secondary',
          }}
        >
          {on.headline}
        </Typography>
      )}
      {on && (
        <Box sx={{ flex: 1, minHeight: 0 }}>
          <Drawn
            query={drawing}
            busy="Drawing the arm"
            empty={on.tube_label ? 'It cannot be drawn yet' : 'Not sized yet'}
            selected={selection ? [selection] : []}
            onSelect={onSelect}
          />
        </Box>
      )}
    </Box>
  )
}

function Pick({ arm, on, onChoose }: { arm: ArmOut; on: boolean; onChoose: () => void }) {
  const tone = arm.state === 'stop' ? 'error.main' : arm.state === 'attention' ? 'warning.main' : 'text.primary'
  return (
    <ButtonBase
      onClick={onChoose}
      aria-current={on || undefined}
      sx={{
        px: 1.25,
        py: 0.5,
        gap: 1.25,
        borderBottom: 3,
        borderColor: on ? 'primary.main' : 'divider',
        bgcolor: 'background.paper',
      }}
    >
      <Typography variant="body2" sx={{ fontWeight: on ? 700 : 400 }}>
        {arm.name}
      </Typography>
      <Typography component="span" sx={(theme) => ({ fontFamily: theme.tirante.mono, fontWeight: 700, color: tone })}>
        {arm.shown}
      </Typography>
    </ButtonBase>
  )
}
