export { ApiProblem, answer, api } from './client'
export { tiedTo } from './tied'
export type * from './types'
