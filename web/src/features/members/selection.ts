import type { CheckOut } from '../../api'

/** What is lit in a drawing for a selection: the thing itself, and for a check the parts that it is about. */
export function refsOf(selection: string | null, checks: CheckOut[]): string[] {
  if (!selection) return []
  const refs = [selection]
  if (!selection.startsWith('check:')) return refs
  const check = checks.find((one) => `check:${one.key}` === selection)
  const end = check?.part === 'end A' ? 'a' : check?.part === 'end B' ? 'b' : null
  if (check?.part.startsWith('tube')) refs.push('field:tube')
  if (check?.part === 'tube and shanks') refs.push('end:a', 'end:b', 'dim:showing')
  if (check?.part === 'tab') refs.push('field:tab')
  if (check?.part === 'bolt') refs.push('check:pin_shear', 'check:pin_bending')
  if (end) refs.push(`end:${end}`)
  if (check && ['engagement', 'strip_insert', 'strip_shank'].includes(check.key)) refs.push('dim:engagement')
  if (check && ['thread_tension', 'shank_bending'].includes(check.key)) refs.push('dim:showing')
  if (check && ['joint', 'joint_side'].includes(check.key) && end) refs.push(`field:end_${end}.joint`)
  return refs
}

const FIELD_OF: Record<string, string> = {
  'dim:tube_cut': 'between',
  'dim:centre_to_centre': 'between',
  'dim:showing': 'school',
  'dim:engagement': 'school',
  'dim:face': 'ends',
  'dim:range': 'school',
  'dim:turns': 'school',
  'end:a': 'ends',
  'end:b': 'ends',
  'dim:hole': 'tab.hole',
  'dim:edge': 'tab.edge',
  'dim:head_radius': 'tab.head_radius',
  'dim:base_width': 'tab.base_width',
  'dim:height': 'tab.height',
  'dim:gap': 'tab.shim_mm',
  'dim:grip': 'tab.bolt',
}

/** The field of the panel that a picked thing of the drawing belongs to. */
export function fieldOf(selection: string): string | null {
  if (selection.startsWith('field:')) return selection.slice('field:'.length)
  return FIELD_OF[selection] ?? null
}
