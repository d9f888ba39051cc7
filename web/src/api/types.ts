import type { components } from './generated'

/** As the client gives and takes them: a tuple of the schema is a plain list. */
type Plain<T> = T extends (infer E)[] ? Plain<E>[] : T extends object ? { [K in keyof T]: Plain<T[K]> } : T
type Schemas = { [Name in keyof components['schemas']]: Plain<components['schemas'][Name]> }

export type Design = Schemas['Design']
export type AnyPart = Design['parts'][number]
export type Link = Schemas['Link']
export type BoxedLink = Schemas['BoxedLink']
export type Arm = Schemas['Arm']
export type RackRow = Schemas['RackRow']
export type HeldJoint = Schemas['HeldJoint']
export type Patch = Schemas['PatchOut']
export type LoadCase = Schemas['LoadCase']
export type TabPair = Schemas['TabPair']
export type Settings = Schemas['Settings']
export type Catalogue = Schemas['Catalogue']
export type Evaluation = Schemas['Evaluation']
export type EndMotionOut = Schemas['EndMotionOut']
export type HoldOut = Schemas['HoldOut']
export type PartOut = Schemas['PartOut']
export type KindOut = Schemas['KindOut']
export type KindField = Schemas['Field']
export type FieldGroup = Schemas['FieldGroup']
export type CheckOut = Schemas['CheckOut']
export type Drawing = Schemas['Drawing']
export type Primitive = Drawing['items'][number]
export type DraftOut = Schemas['DraftOut']
export type JobOut = Schemas['JobOut']
export type TaskOut = Schemas['TaskOut']
export type RevisionOut = Schemas['RevisionOut']
export type SizingOut = Schemas['SizingOut']
export type SizedOut = Schemas['SizedOut']
export type ProblemBody = Schemas['Problem']
export type LengthOut = Schemas['LengthOut']
export type Unit = 'mm' | 'in'
export type LengthValue = { mm: number; typed: string | null }
export type SuspensionEnd = Design['ends'][number]
export type End = SuspensionEnd['end']
export type Car = Schemas['Car']
/** The kind of a suspension end. */
export type EndKind = Schemas['TemplateOut']
export type OwnKind = NonNullable<End['kind']>
export type KindJoint = OwnKind['joints'][number]
export type StudyOut = Schemas['StudyOut']
export type SizeAllOut = Schemas['SizeAllOut']
export type TurnSheetOut = Schemas['TurnSheetOut']
export type FirstOut = Schemas['FirstOut']
export type LoadsOut = Schemas['LoadsOut']
export type BindOut = Schemas['BindOut']
export type StillOut = Schemas['StillOut']
export type Scene = Schemas['Scene']
export type AdjusterTold = NonNullable<Schemas['DrawOut']['adjuster']>
