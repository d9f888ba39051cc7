import { useEndEdit, useSessionPart } from '../../app/session'
import { FieldRows, Optional, useForms, withValue, withoutValue } from '../../fields'

/** What is clamped at a joint of what no part is made for, kept with its end. */
export function EyeSizes({ endId, point, of }: { endId: string; point: string; of: string }) {
  const forms = useForms()
  const { editEnd, problems } = useEndEdit(endId)
  const end = useSessionPart((state) => state.design.ends.find((one) => one.id === endId)?.end)
  if (!forms || !end) return null
  const path = `eyes/${point}`
  return (
    <Optional
      label={`sizes of what is clamped at the ${of}`}
      present={Boolean(end.eyes?.[point])}
      onChange={(on) =>
        editEnd(path, (now) => (on ? withValue(now, path, forms.begins('damper eye')) : withoutValue(now, path)))
      }
    >
      <FieldRows
        whole={end}
        fields={forms.rows('damper eye', { unit: 'eyes', eye: point })}
        problems={problems}
        onChange={(where, value) => editEnd(where, (now) => withValue(now, where, value))}
      />
    </Optional>
  )
}
