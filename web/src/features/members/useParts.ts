import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { answer, api, type Catalogue, type Link } from '../../api'
import { useDesign, useTheSession } from '../../app/session'
import type { Option } from '../../ui'

export type Kind = keyof Catalogue

/** What may be chosen for each field of a link, and how to choose it; what fits is the core's to say. */
export function useParts(link: Link) {
  const session = useTheSession()
  const design = useDesign()
  const catalogue = useQuery({
    queryKey: ['catalogue'],
    queryFn: () => answer(api.GET('/api/catalogue')),
    staleTime: 60_000,
  })
  const { tube, grade, end_a, end_b, tab } = link
  const offers = useQuery({
    queryKey: ['offers', tube, grade, end_a, end_b, tab],
    queryFn: ({ signal }) =>
      answer(api.POST('/api/offers', { body: { design: { ...design, links: [link] }, link_id: link.id }, signal })),
    placeholderData: keepPreviousData,
  })
  const labels = useMemo(() => {
    const found: Partial<Record<Kind, Map<string, string>>> = {}
    for (const source of [catalogue.data, design.catalogue])
      for (const [kind, rows] of Object.entries(source ?? {}) as [Kind, { key: string; label: string }[]][]) {
        const known = (found[kind] ??= new Map<string, string>())
        for (const row of rows) known.set(row.key, row.label)
      }
    return found
  }, [catalogue.data, design.catalogue])
  const options = (field: string, kind: Kind, current: string | null): Option[] => {
    const keys = offers.data?.offers[field] ?? []
    const all = current && !keys.includes(current) ? [current, ...keys] : keys
    return all.map((key) => ({ key, label: labels[kind]?.get(key) ?? key }))
  }
  const apply = (label: string) => (found: { design: typeof design }) =>
    session.edit(label, (now) => ({
      ...now,
      links: now.links.map((one) => found.design.links.find((l) => l.id === one.id && l.id === link.id) ?? one),
      catalogue: found.design.catalogue,
    }))
  const choose = useMutation({
    mutationFn: ({ part, key }: { part: string; key: string | null }) =>
      answer(api.POST('/api/choose', { body: { design: session.state().design, link_id: link.id, part, key } })),
    onSuccess: apply('choose a part'),
  })
  const addTab = useMutation({
    mutationFn: () => answer(api.POST('/api/tab', { body: { design: session.state().design, link_id: link.id } })),
    onSuccess: apply('add a tab pair'),
  })
  return {
    options,
    choose: (part: string, key: string | null) => choose.mutate({ part, key }),
    addTab: () => addTab.mutate(),
    error: choose.error ?? addTab.error ?? offers.error,
  }
}
