import { createContext, useContext } from 'react'
import type { Settings, Unit } from '../api'
import { lengthStyle, lengthWithUnit, otherUnit, told, type LengthStyle } from './format'

export interface Units {
  unit: Unit
  style: LengthStyle
  toggle: () => void
}

export const UnitsContext = createContext<Units>({
  unit: 'mm',
  style: { decimals: 1, denominator: 32 },
  toggle: () => undefined,
})

export const styleOf = (settings: Settings | undefined): LengthStyle =>
  settings ? lengthStyle(settings) : { decimals: 1, denominator: 32 }

/** The page's unit and how to write in it and in the other. */
export function useUnits() {
  const { unit, style, toggle } = useContext(UnitsContext)
  return {
    unit,
    style,
    toggle,
    main: (mm: number) => lengthWithUnit(mm, unit, style),
    other: (mm: number) => lengthWithUnit(mm, otherUnit(unit), style),
    /** How far something may be off: in inches to a thousandth, since a fraction would swallow it. */
    finely: (mm: number) => (unit === 'mm' ? lengthWithUnit(mm, unit, style) : `${(mm / 25.4).toFixed(3)}″`),
    /** A change or a measure with its sign: an angle in degrees, a length finely in the page's unit. */
    signed: (value: number, degrees: boolean, digits = 2) => {
      const own = degrees || unit === 'mm' ? value : value / 25.4
      const size = Math.abs(own).toFixed(degrees || unit === 'mm' ? digits : digits + 1)
      const sign = Number(size) === 0 ? '' : value > 0 ? '+' : '−' // nothing has no sign
      return `${sign}${size}${degrees ? '°' : unit === 'mm' ? ' mm' : '″'}`
    },
    /** A sentence of the core, its lengths in the page's unit. */
    told: (text: string) => told(text, unit, style),
  }
}
