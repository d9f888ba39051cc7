/**
 * A decimal, bare or with its unit: the one reading that needs no asking of the core. In inches by whole numbers, so that it is the
 * same to the last digit as the core's fractions.
 */
export function plainLength(text: string, unit: 'mm' | 'in', signed: boolean): { mm: number; typed: string } | null {
  const typed = text.trim()
  const found = /^([+−-]?)(\d{1,4})(?:\.(\d{1,6}))? ?(mm|in)?$/.exec(typed)
  if (!found) return null
  const [, sign = '', whole = '', part = '', said = unit] = found
  const digits = BigInt(whole + part) * (said === 'mm' ? 1n : 254n)
  const size = Number(`${digits}e-${part.length + (said === 'mm' ? 0 : 1)}`)
  const mm = sign === '' || sign === '+' ? size : -size
  return signed || mm > 0 ? { mm, typed } : null
}
