import { useQuery } from '@tanstack/react-query'
import { answer, api, type KindField } from '../api'
import type { Limits } from '../quantity'
import type { Field } from './fields'

/** Choices that a form leaves to what it is about: the bodies of an end, its points, its parts. */
export type Taken = Partial<Record<'bodies' | 'points' | 'links' | 'parts', { value: string; label: string }[]>>

const limitsOf = (field: KindField): Limits => ({
  min: field.least ?? undefined,
  max: field.most ?? undefined,
  above: field.above,
  usual: field.usual ?? undefined,
})

/** A field of a served table as the form's own, with the names put in that its path leaves open. */
export function fieldOf(field: KindField, names: Record<string, string> = {}, taken: Taken = {}): Field {
  const put = (text: string) => text.replace(/\{(\w+)\}/g, (whole, name: string) => names[name] ?? whole)
  const { unit, optional } = field
  const [path, label] = [put(field.path), put(field.label)]
  const limits = limitsOf(field)
  const empty = field.empty || undefined
  switch (field.control) {
    case 'mm':
      return { kind: 'mm', path, label, optional, empty, signed: (field.least ?? 0) < 0, limits }
    case 'length':
      return { kind: 'length', path, label, optional, limits }
    case 'number':
    case 'whole':
      return { kind: 'number', path, label, unit, optional, empty, whole: field.control === 'whole', limits }
    case 'choice':
      return {
        kind: 'choice',
        path,
        label,
        optional,
        empty,
        options: taken[field.table as keyof Taken] ?? field.choices,
      }
    case 'switch':
      return { kind: 'check', path, label }
    case 'direction':
    case 'at':
      return { kind: field.control, path, label }
    default:
      return { kind: 'text', path, label, optional, long: field.control === 'note' }
  }
}

export interface Forms {
  /** The fields of a form by its name. */
  rows: (form: string, names?: Record<string, string>, taken?: Taken) => Field[]
  /** Least and most of a number of a form. */
  limits: (form: string, path: string) => Limits
  /** What a thing holds when it is put in. */
  begins: <T>(of: string) => T
}

/** The forms of car, ends, load cases, settings and rack, as the core has them; undefined until they are here. */
export function useForms(): Forms | undefined {
  const { data } = useQuery({ queryKey: ['forms'], queryFn: () => answer(api.GET('/api/forms')), staleTime: Infinity })
  if (!data) return undefined
  const fields = (form: string) => data.forms[form] ?? []
  return {
    rows: (form, names, taken) => fields(form).map((field) => fieldOf(field, names, taken)),
    limits: (form, path) => {
      const field = fields(form).find((one) => one.path === path)
      return field ? limitsOf(field) : {}
    },
    begins: <T>(of: string) => structuredClone(data.begins[of]) as T,
  }
}
