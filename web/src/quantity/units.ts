import { createContext, useContext } from 'react'
import type { Settings, Unit } from '../api'
import { lengthStyle, lengthWithUnit, otherUnit, type LengthStyle } from './format'

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
  }
}
