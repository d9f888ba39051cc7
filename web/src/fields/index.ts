export { FieldRows } from './FieldRows'
export { Optional } from './Optional'
export { plain, problemAt, valueAt, withoutValue, withValue, type Field } from './fields'
export { fieldOf, useForms, type Forms, type Taken } from './served'
