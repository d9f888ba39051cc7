/** What a figure may be: refused outside `min` and `max`, asked about and taken outside `usual`. */
export interface Limits {
  min?: number
  max?: number
  /** Whether the least itself is refused. */
  above?: boolean
  usual?: number[]
}

/** What a value outside its bounds is told; undefined inside them. */
export function outside(value: number, unit: string, { min, max, above }: Limits): string | undefined {
  const low = min !== undefined && (above ? value <= min : value < min)
  const high = max !== undefined && value > max
  if (!low && !high) return undefined
  const limit = (of: number) => `${of}${unit ? ` ${unit}` : ''}`
  const least = min === undefined ? '' : `${above ? 'more than' : 'at least'} ${limit(min)}`
  const most = max === undefined ? '' : `at most ${limit(max)}`
  return `This must be ${least}${least && most ? ' and ' : ''}${most}.`
}

// what a figure is taken for by mistake: another unit typed, a digit too many or too few
const SLIPS: Record<string, { name: string; each: number }> = {
  mm: { name: 'in', each: 25.4 },
  kg: { name: 'lb', each: 0.45359237 },
  'N/mm': { name: 'lb/in', each: 0.1751268 },
  kPa: { name: 'psi', each: 6.894757 },
}
const tidy = (value: number) => String(Number(value.toPrecision(4)))

/** What a value is asked that hardly any car has: where it usually lies, and the slip that would explain it. */
export function unusual(value: number, unit: string, usual: number[] | undefined): string | undefined {
  const [low, high] = usual ?? []
  if (low === undefined || high === undefined || (value >= low && value <= high)) return undefined
  const within = (other: number) => other >= low && other <= high
  const written = (of: number) => `${tidy(of)}${unit ? ` ${unit}` : ''}`
  const other = SLIPS[unit]
  const slips = [
    ...(other
      ? [{ means: `${tidy(value)} ${other.name}, which is ${written(value * other.each)},`, is: value * other.each }]
      : []),
    // the page's other unit typed the other way round: millimetres on a page in inches
    ...(other ? [{ means: written(value / other.each), is: value / other.each }] : []),
    { means: written(-value), is: -value },
    { means: written(value / 10), is: value / 10 },
    { means: written(value * 10), is: value * 10 },
  ]
  const slip = slips.find((one) => within(one.is))
  return `Usually ${written(low)} to ${written(high)}.${slip ? ` Was ${slip.means} meant?` : ' Is it meant?'}`
}
