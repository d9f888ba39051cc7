import type { Limits } from '../quantity'

/** A field by its path, as the API names it. */
export type Field =
  | {
      kind: 'mm'
      path: string
      label: string
      optional?: boolean
      empty?: string
      signed?: boolean
      limits: Limits
    }
  | {
      kind: 'number'
      path: string
      label: string
      unit: string
      optional?: boolean
      empty?: string
      whole?: boolean
      limits: Limits
    }
  | { kind: 'length'; path: string; label: string; optional?: boolean; limits: Limits }
  | { kind: 'direction'; path: string; label: string; optional?: boolean }
  | { kind: 'at'; path: string; label: string }
  | {
      kind: 'choice'
      path: string
      label: string
      options: { value: string; label: string }[]
      optional?: boolean
      empty?: string
      waits?: boolean
    }
  | { kind: 'text'; path: string; label: string; long?: boolean; optional?: boolean }
  | { kind: 'check'; path: string; label: string }

/** What stands at a path; undefined where nothing does. Parts are parted by a slash, since names hold dots and blanks. */
export function valueAt(whole: unknown, path: string): unknown {
  let found: unknown = whole
  for (const part of path.split('/')) {
    if (found === null || typeof found !== 'object') return undefined
    found = (found as Record<string, unknown>)[part]
  }
  return found
}

/** The whole with another value at a path; what stands on the way is copied, what is missing is made. */
export function withValue<T>(whole: T, path: string, value: unknown): T {
  const [head = '', ...rest] = path.split('/')
  const inner =
    rest.length === 0 ? value : withValue((whole as Record<string, unknown>)?.[head] ?? {}, rest.join('/'), value)
  if (Array.isArray(whole)) return whole.map((old, i) => (String(i) === head ? inner : old)) as T
  return { ...(whole as Record<string, unknown>), [head]: inner } as T
}

/** The whole without what stands at a path. */
export function withoutValue<T>(whole: T, path: string): T {
  const parts = path.split('/')
  const last = parts.pop() ?? ''
  const place = valueAt(whole, parts.join('/'))
  const from = parts.length === 0 ? whole : place
  const left = Array.isArray(from)
    ? from.filter((_, i) => String(i) !== last)
    : Object.fromEntries(Object.entries(from as Record<string, unknown>).filter(([key]) => key !== last))
  return parts.length === 0 ? (left as T) : withValue(whole, parts.join('/'), left)
}

/** A problem's path as the API says it. */
export const problemAt = (problems: Map<string, string>, path: string): string | undefined =>
  problems.get(path.replaceAll('/', '.'))

/** A body or point as a person says it. */
export const plain = (name: string) => (name === 'ground' ? 'the chassis' : name.replaceAll('_', ' '))
