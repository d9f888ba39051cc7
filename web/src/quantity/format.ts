import type { Settings, Unit } from '../api'

const MM_PER_INCH = 25.4
const MINUS = '−'

/** How lengths are written: the shop's decimals and fraction. */
export interface LengthStyle {
  decimals: number
  denominator: number
}

export function lengthStyle(settings: Settings): LengthStyle {
  return { decimals: settings.decimals, denominator: settings.inch_denominator }
}

function fraction(mm: number, denominator: number): string {
  const units = Math.round((Math.abs(mm) / MM_PER_INCH) * denominator)
  const whole = Math.floor(units / denominator)
  let top = units % denominator
  let bottom = denominator
  while (top && top % 2 === 0) {
    top /= 2
    bottom /= 2
  }
  const sign = mm < 0 && units ? MINUS : ''
  if (!top) return `${sign}${whole}`
  return whole ? `${sign}${whole} ${top}/${bottom}` : `${sign}${top}/${bottom}`
}

/** So many decimals, the half away from zero as the figure is read: 819.15 is 819.2, whatever its last bits are. */
function rounded(value: number, decimals: number): string {
  const [digits, power] = String(Number(value.toFixed(9))).split('e')
  const scaled = Math.round(Number(`${digits}e${Number(power ?? 0) + decimals}`))
  return Number(`${scaled}e-${decimals}`).toFixed(decimals)
}

/** The number alone, in the unit asked for. */
export function lengthText(mm: number, unit: Unit, style: LengthStyle): string {
  if (unit === 'in') return fraction(mm, style.denominator)
  const text = rounded(Math.abs(mm), style.decimals)
  return (mm < 0 && Number(text) ? MINUS : '') + text
}

/** The number in a field: in millimetres with all the digits that were typed, three decimals at most. */
export function fieldText(mm: number, unit: Unit, style: LengthStyle): string {
  if (unit === 'in') return lengthText(mm, unit, style)
  const digits = (String(Math.round(Math.abs(mm) * 1000) / 1000).split('.')[1] ?? '').length
  return lengthText(mm, unit, { ...style, decimals: Math.max(style.decimals, digits) })
}

/** With its unit. */
export function lengthWithUnit(mm: number, unit: Unit, style: LengthStyle): string {
  return unit === 'mm' ? `${lengthText(mm, unit, style)} mm` : `${lengthText(mm, unit, style)}″`
}

export const otherUnit = (unit: Unit): Unit => (unit === 'mm' ? 'in' : 'mm')

/** A figure of any unit to four significant digits, capacities never rounded up. */
export function figure(value: number, unit: string, down = false): string {
  if (!Number.isFinite(value)) return '–'
  const round = down ? Math.floor : Math.round
  if (unit === 'N') {
    const kn = value / 1000
    const digits = Math.abs(kn) >= 100 ? 0 : Math.abs(kn) >= 10 ? 1 : 2
    const scale = 10 ** digits
    return `${(round(kn * scale) / scale).toFixed(digits)} kN`
  }
  const digits = Math.abs(value) >= 100 ? 0 : Math.abs(value) >= 10 ? 1 : 2
  const scale = 10 ** digits
  return `${(round(value * scale) / scale).toFixed(digits)}${unit ? ` ${unit}` : ''}`
}

const LENGTHS = /((?:[−-]?\d+(?:\.\d+)?\s*[×x]\s*)*)([−-]?\d+(?:\.\d+)?)\s?mm(?![\w²³⁴/·])/g

const MORE = /^( \w+)? (or more|at least)\b/
const LESS = /^( \w+)? (or less|at most)\b/

/** 1 where a length in a sentence is a least one, −1 where a greatest, so that its reading in inches is on the right side of it. */
function bound(before: string, after: string): -1 | 0 | 1 {
  if (MORE.test(after) || before.endsWith('at least ')) return 1
  return LESS.test(after) || before.endsWith('at most ') || before.trimEnd().endsWith('±') ? -1 : 0
}

/** A small or finely given length in decimal inches, any other as the page writes them; a bound never on the wrong side. */
function inInches(text: string, style: LengthStyle, way: -1 | 0 | 1, finely: boolean): string {
  const given = Number(text.replace('−', '-'))
  const fine = finely || Math.abs(given) < 10 || (text.split('.')[1]?.length ?? 0) > 1
  const step = MM_PER_INCH / (fine ? 1000 : style.denominator)
  const mm = way ? step * (way > 0 ? Math.ceil(given / step - 1e-6) : Math.floor(given / step + 1e-6)) : given
  return fine ? (mm / MM_PER_INCH).toFixed(3).replace('-', MINUS) : fraction(mm, style.denominator)
}

/** A diameter in inches: a fraction only where it is one, since the nearest may be smaller than its bolt. */
function drilled(mm: number): string {
  const step = MM_PER_INCH / 64
  return Math.abs(mm - step * Math.round(mm / step)) < A_FRACTION ? fraction(mm, 64) : (mm / MM_PER_INCH).toFixed(3)
}

/** Millimetres beside a 64th within which a diameter is that fraction. */
const A_FRACTION = 0.006

/** A sentence whose lengths stand in millimetres, on a page in inches: inches first, millimetres as the other reading. */
export function told(text: string, unit: Unit, style: LengthStyle): string {
  if (unit === 'mm') return text
  return text.replace(LENGTHS, (whole: string, before: string, last: string, at: number) => {
    const sizes = [...before.split(/\s*[×x]\s*/).filter(Boolean), last]
    const ahead = text.slice(0, at)
    const way = bound(ahead, text.slice(at + whole.length))
    const inches = ahead.endsWith('⌀')
      ? sizes.map((one) => drilled(Number(one)))
      : sizes.map((one) => inInches(one, style, way, ahead.trimEnd().endsWith('±')))
    return `${inches.join(' × ')}″ (${whole})`
  })
}
