import type { AnyPart } from '../../api'
import { useDesign, usePart } from '../../app/session'

/** How much of a link's thread shows as built: its own school, or the shop's. */
export function useSchool(part: AnyPart) {
  const design = useDesign()
  const { edit, result } = usePart(part.id)
  const school: string = (part.kind === 'link' && part.school) || design.settings.school
  const choose = (value: string) =>
    edit('school', (now) =>
      now.kind === 'link'
        ? {
            ...now,
            school: value as typeof now.school,
            showing: value === 'exposure' ? (now.showing ?? (result?.begins.showing as typeof now.showing)) : null,
          }
        : now,
    )
  return { school, choose, waits: !result }
}
