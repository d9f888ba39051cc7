import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useMemo } from 'react'
import { answer, api, dependsOn, type AnyPart, type Catalogue } from '../../api'
import { useDesign, useTheSession } from '../../app/session'
import { drawnFirst } from '../../app/travel'
import type { Option } from '../../ui'

export type Table = keyof Catalogue

/** What may be chosen for each field of a part, and how to choose it; what fits is the core's to say. */
export function useChosen(part: AnyPart) {
  const session = useTheSession()
  const design = useDesign()
  const queries = useQueryClient()
  const catalogue = useQuery({
    queryKey: ['catalogue'],
    queryFn: () => answer(api.GET('/api/catalogue')),
    staleTime: 60_000,
  })
  const offers = useQuery({
    queryKey: ['offers', part.id, dependsOn(design, [part.id])],
    queryFn: async ({ signal }) => {
      await drawnFirst(queries)
      return answer(api.POST('/api/offers', { body: { design, part_id: part.id }, signal }))
    },
    placeholderData: keepPreviousData,
  })
  const labels = useMemo(() => {
    const found: Partial<Record<Table, Map<string, string>>> = {}
    for (const source of [catalogue.data, design.catalogue])
      for (const [table, rows] of Object.entries(source ?? {}) as [Table, { key: string; label: string }[]][]) {
        const known = (found[table] ??= new Map<string, string>())
        for (const row of rows) known.set(row.key, row.label)
      }
    return found
  }, [catalogue.data, design.catalogue])
  const options = (field: string, table: Table, current: string | null): Option[] => {
    const keys = offers.data?.offers[field] ?? []
    const all = current && !keys.includes(current) ? [current, ...keys] : keys
    return all.map((key) => ({ key, label: labels[table]?.get(key) ?? key }))
  }
  const choose = useMutation({
    mutationFn: ({ field, key }: { field: string; key: string | null }) =>
      answer(api.POST('/api/choose', { body: { design: session.state().design, part_id: part.id, field, key } })),
    onSuccess: (patch) => session.patch('choose a row', patch),
  })
  return {
    options,
    choose: (field: string, key: string | null) => choose.mutate({ field, key }),
    error: choose.error ?? offers.error,
  }
}

export type Chosen = ReturnType<typeof useChosen>
