export { ApiProblem, answer, api } from './client'
export type * from './types'
