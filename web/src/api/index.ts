export { ApiProblem, answer, api, bringMark, newId, sendPicture, useKeptAt, whenEnded } from './client'
export { dependsOn, jointsOf, withPatch, withoutPart } from './tied'
export { inTurn } from './turn'
export type * from './types'
