export { Session, newId } from './session'
export type { SaveState, SessionState } from './session'
export { SessionContext, useDesign, useEndEdit, useLink, useSessionPart, useTheSession } from './context'
