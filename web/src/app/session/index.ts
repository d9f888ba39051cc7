export { Session, newId } from './session'
export type { SaveState, SessionState, Take } from './session'
export {
  SessionContext,
  useDesign,
  useEndEdit,
  useKinds,
  usePart,
  usePartsOf,
  useSessionPart,
  useTheSession,
} from './context'
