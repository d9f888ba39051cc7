import type { ComponentType } from 'react'
import type { AnyPart, KindField } from '../../../api'
import type { Chosen } from '../useChosen'
import { BetweenFields } from './BetweenFields'
import { BoltAxis, BoltFields, Holds, OnMember, Shim, StandsOn, ThreadInPlane } from './BracketFields'
import { CaseFields } from './CaseFields'
import { EndFields } from './EndFields'
import { Drawn } from './DrawnField'
import { ExtraHoles } from './ExtraHoles'
import { FrameGussets, FrameJoints, FrameNodes, FrameTubes, RockerEyes } from './BodyFields'
import { OuterTold, PivotEnd, SawLengths } from './ArmFields'
import { BendToClear, BoughtTold, Engagement, School } from './LinkFields'

export interface OwnField {
  part: AnyPart
  field: KindField
  chosen: Chosen
}

/** Fields that no plain control does, by their path in a kind's table. */
export const SPECIAL: Record<string, ComponentType<OwnField>> = {
  between: BetweenFields,
  cases: CaseFields,
  ends: EndFields,
  school: School,
  engagement: Engagement,
  bend_to_clear: BendToClear,
  bought_told: BoughtTold,
  pivot_end: PivotEnd,
  saw: SawLengths,
  outer_told: OuterTold,
  joints: Holds,
  stands_on: StandsOn,
  mount: OnMember,
  drawn: Drawn,
  extra: ExtraHoles,
  bolt_axis: BoltAxis,
  tubes: FrameTubes,
  nodes: FrameNodes,
  gussets: FrameGussets,
  at_joints: FrameJoints,
  eyes: RockerEyes,
  spacer: BoltFields,
  bolt: BoltFields,
  shim_mm: Shim,
  thread_in_plane: ThreadInPlane,
}
