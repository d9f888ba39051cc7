export { FieldRows } from './FieldRows'
export { plain, problemAt, valueAt, withValue, withoutValue, type Field } from './fields'
export { Optional } from './Optional'
