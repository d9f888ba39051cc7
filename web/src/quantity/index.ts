export { LengthField } from './LengthField'
export { NumberField } from './NumberField'
export { figure, lengthText } from './format'
export { UnitsContext, styleOf, useUnits } from './units'
