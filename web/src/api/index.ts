export { ApiProblem, answer, api, newId } from './client'
export { dependsOn, jointsOf, withPatch, withoutPart } from './tied'
export { inTurn } from './turn'
export type * from './types'
