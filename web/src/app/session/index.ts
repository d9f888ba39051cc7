export { newId } from '../../api'
export { Session } from './session'
export type { SaveState, SessionState, Take } from './session'
export {
  SessionContext,
  useDesign,
  useEndEdit,
  useKinds,
  useMount,
  usePart,
  usePartsOf,
  useSessionPart,
  useTheSession,
} from './context'
