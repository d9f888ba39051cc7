export { Session, newId } from './session'
export type { SaveState, SessionState } from './session'
export { SessionContext, useEndEdit, useLink, useSession } from './context'
