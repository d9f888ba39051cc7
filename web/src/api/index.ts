export { ApiProblem, answer, api } from './client'
export { dependsOn, jointsOf, withPatch, withoutPart } from './tied'
export type * from './types'
