import type { CheckOut, KindOut } from '../../api'

/** What is lit in a drawing for a selection: the thing itself, or what the core says that a check is about. */
export function refsOf(selection: string | null, checks: CheckOut[]): string[] {
  if (!selection) return []
  const check = checks.find((one) => `check:${one.key}` === selection)
  return check ? [selection, ...check.shows] : [selection]
}

/** Dimensions that are not called after the field they come from. */
const SET_BY: Record<string, string> = {
  tube_cut: 'between',
  centre_to_centre: 'between',
  showing: 'school',
  engagement: 'school',
  range: 'school',
  turns: 'school',
  face: 'ends',
  gap: 'shim_mm',
  grip: 'bolt',
}

/** The field of a kind's form that a picked thing of the drawing belongs to: its path with slashes. */
export function fieldOf(selection: string | null, kind: KindOut | undefined): string | null {
  if (!selection || !kind) return null
  const [sort, ...rest] = selection.split(':')
  const name = sort === 'end' ? 'ends' : rest.join(':').replaceAll('.', '/')
  if (sort === 'check' || !name) return null
  const wanted = sort === 'dim' ? (SET_BY[name] ?? name) : name
  const paths = kind.fields.flatMap((group) => [...group.fields.map((field) => field.path), group.of])
  // an end's own part stands under "ends"; what is deeper than any field belongs to the nearest above it
  const ways = [wanted, wanted.startsWith('end_') ? 'ends' : '', wanted.split('/')[0] ?? '']
  return ways.find((way) => way && paths.includes(way)) ?? null
}
