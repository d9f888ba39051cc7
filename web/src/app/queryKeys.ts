import { hashKey, type QueryKey } from '@tanstack/react-query'

const known = new WeakMap<object, string>()

/**
 * What a query's key comes to. What hangs in it (an end, the settings) is never changed in place, only replaced, and is written out once
 * however many queries have it in their keys.
 */
export function hashOfKey(key: QueryKey): string {
  return JSON.stringify(
    key.map((part) => {
      if (typeof part !== 'object' || part === null) return [part]
      const old = known.get(part)
      if (old !== undefined) return old
      const hash = hashKey([part])
      known.set(part, hash)
      return hash
    }),
  )
}
