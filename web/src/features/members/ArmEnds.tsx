import { Typography } from '@mui/material'
import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query'
import { answer, api } from '../../api'
import { useDesign, useTheSession } from '../../app/session'
import { Choice, Problem } from '../../ui'
import type { Arm } from './useArms'

const PARTS = ['joint', 'insert', 'nut'] as const

/** The rod ends at an arm's pivots: joint, insert and nut, alike at both. */
export function ArmEnds({ arm, problems }: { arm: Arm; problems: Map<string, string> }) {
  const session = useTheSession()
  const design = useDesign()
  const shelf = useQuery({
    queryKey: ['catalogue'],
    queryFn: () => answer(api.GET('/api/catalogue')),
    staleTime: 60_000,
  })
  const offers = useQuery({
    queryKey: ['arm-offers', arm.tube, arm.grade, arm.pivot_end],
    queryFn: ({ signal }) => answer(api.POST('/api/arms/offers', { body: { design, arm_id: arm.id }, signal })),
    placeholderData: keepPreviousData,
  })
  const choose = useMutation({
    mutationFn: ({ part, key }: { part: (typeof PARTS)[number]; key: string | null }) =>
      answer(api.POST('/api/arms/choose', { body: { design: session.state().design, arm_id: arm.id, part, key } })),
    onSuccess: (found) =>
      session.edit('rod ends of an arm', (now) => ({
        ...now,
        arms: now.arms.map((one) => found.design.arms.find((other) => other.id === one.id && one.id === arm.id) ?? one),
        catalogue: found.design.catalogue,
      })),
  })
  return (
    <>
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary', mt: 0.5 }}>
        The same at both pivots. Each is turned by half turns with its bolt out: that moves camber and caster, as the
        turn sheet shows.
      </Typography>
      {PARTS.map((part) => {
        const current = arm.pivot_end[part]
        const keys = offers.data?.[`${part}s`] ?? []
        const rows = shelf.data?.[`${part}s`] ?? []
        const all = current && !keys.includes(current) ? [current, ...keys] : keys
        return (
          <Choice
            key={part}
            label={part[0]!.toUpperCase() + part.slice(1)}
            value={current}
            options={all.map((key) => ({ key, label: rows.find((row) => row.key === key)?.label ?? key }))}
            onChange={(key) => choose.mutate({ part, key })}
            empty={part === 'joint' ? 'Press Size it first.' : 'Choose the joint first.'}
            problem={problems.get(`pivot_end/${part}`)}
          />
        )
      })}
      {(choose.error || offers.error) && <Problem error={choose.error ?? offers.error} />}
    </>
  )
}
