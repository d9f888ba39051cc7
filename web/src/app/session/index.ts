export { Session, newId } from './session'
export type { SaveState, SessionState } from './session'
export { SessionContext, useLink, useSession } from './context'
