import { useEndEdit, useSessionPart } from '../../app/session'
import { FieldRows, Optional, useForms, valueAt, withValue, withoutValue } from '../../fields'

/** What is clamped at a joint of what is bought, or no part is made for: kept with its end. */
export function EyeSizes({ endId, path, of }: { endId: string; path: string; of: string }) {
  const forms = useForms()
  const { editEnd, problems } = useEndEdit(endId)
  const end = useSessionPart((state) => state.design.ends.find((one) => one.id === endId)?.end)
  if (!forms || !end) return null
  const unit = path.slice(0, path.lastIndexOf('/'))
  const eye = path.slice(unit.length + 1)
  return (
    <Optional
      label={`sizes of what is clamped at the ${of}`}
      present={Boolean(valueAt(end, path))}
      onChange={(on) =>
        editEnd(path, (now) => {
          if (on) return withValue(now, path, forms.begins('damper eye'))
          // a damper says that it has none, what no part is made for is not there
          return unit === 'eyes' ? withoutValue(now, path) : withValue(now, path, null)
        })
      }
    >
      <FieldRows
        whole={end}
        fields={forms.rows('damper eye', { unit, eye })}
        problems={problems}
        onChange={(where, value) => editEnd(where, (now) => withValue(now, where, value))}
      />
    </Optional>
  )
}
