import { Box, Checkbox, FormControlLabel, Typography } from '@mui/material'
import { useMemo } from 'react'
import type { AnyPart, FieldGroup, KindField, KindOut } from '../../api'
import { usePart } from '../../app/session'
import { FieldRows, fieldOf, valueAt, withValue } from '../../fields'
import { Choice, Problem, Section, Segmented } from '../../ui'
import { SPECIAL } from './special'
import { useChosen, type Chosen, type Table } from './useChosen'

/** What may be set of a part, as its kind says; what no plain control does has one of its own.
 *
 * A choice that may bring an object of its own waits until the part has been worked out: what that begins with comes with it. */
export function Fields({ part, kind }: { part: AnyPart; kind: KindOut }) {
  const chosen = useChosen(part)
  return (
    <>
      {Boolean(chosen.error) && <Problem error={chosen.error} />}
      {kind.fields.map((group) => (
        <Group key={group.title} part={part} group={group} chosen={chosen} />
      ))}
    </>
  )
}

/** Whether a field is shown: "pivots=rod ends|bush sleeves" asks for one of those at that path. */
function asked(field: KindField, part: AnyPart): boolean {
  if (!field.only) return true
  const [path = '', values = ''] = field.only.split('=')
  return values.split('|').includes(String(valueAt(part, path)))
}

function Group({ part, group, chosen }: { part: AnyPart; group: FieldGroup; chosen: Chosen }) {
  const { edit, result } = usePart(part.id)
  const given = !group.of || valueAt(part, group.of) !== null
  const shown = given ? group.fields.filter((field) => asked(field, part)) : []
  if (given && shown.length === 0) return null
  return (
    <Section title={group.title} note={group.note}>
      {group.of && (
        <FormControlLabel
          data-field={group.of}
          control={
            <Checkbox
              size="small"
              checked={given}
              disabled={!result}
              onChange={(event) => {
                const value = event.target.checked ? (result?.begins[group.of] ?? {}) : null
                edit(group.of, (now) => withValue(now, group.of, value))
              }}
            />
          }
          label={<Typography variant="body2">{group.switch}</Typography>}
        />
      )}
      {shown.map((field) => (
        <Box key={field.path} data-field={field.path}>
          <One part={part} field={field} chosen={chosen} />
        </Box>
      ))}
    </Section>
  )
}

function One({ part, field, chosen }: { part: AnyPart; field: KindField; chosen: Chosen }) {
  const { edit, problems, result } = usePart(part.id)
  const Own = SPECIAL[field.path]
  if (field.control === 'special' && Own) return <Own part={part} field={field} chosen={chosen} />
  if (field.control === 'row' || (field.control === 'special' && field.table)) {
    const at = field.path.replaceAll('/', '.')
    const value = (valueAt(part, field.path) as string | null | undefined) ?? null
    return (
      <Choice
        label={field.label}
        value={value}
        clearable={field.optional}
        options={chosen.options(at, field.table as Table, value)}
        onChange={(key) => chosen.choose(at, key)}
        empty={field.empty || undefined}
        problem={problems.get(at)}
      />
    )
  }
  if (field.control === 'choice' && field.choices.length <= 3)
    return (
      <Box sx={{ mb: 1 }}>
        {field.choices.some((one) => one.label.length > 14) ? (
          <Plain part={part} field={field} />
        ) : (
          <>
            <Typography variant="body2" sx={{ color: 'text.secondary' }}>
              {field.label}
            </Typography>
            <Segmented
              label={field.label}
              fullWidth
              disabled={!result}
              value={String(valueAt(part, field.path))}
              options={field.choices.map((one) => ({ value: one.value, label: one.label, title: one.why }))}
              onChange={(value) => edit(field.path, (now) => chosenOne(now, field.path, value, result?.begins ?? {}))}
            />
          </>
        )}
        <Why text={field.choices.find((one) => one.value === valueAt(part, field.path))?.why} />
      </Box>
    )
  if (field.control === 'special')
    return <Why text={`“${field.label || field.path}” cannot be set on this page yet.`} />
  return <Plain part={part} field={field} />
}

function Why({ text }: { text?: string }) {
  return text ? (
    <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
      {text}
    </Typography>
  ) : null
}

/** A choice that another object goes with (a flat, or the tube of a saddle) takes that object as it begins. */
function chosenOne(part: AnyPart, path: string, value: unknown, begins: Record<string, unknown>): AnyPart {
  const whole = begins[`${path}=${String(value)}`]
  return whole ? withValue(part, path.split('/').slice(0, -1).join('/'), whole) : withValue(part, path, value)
}

function Plain({ part, field }: { part: AnyPart; field: KindField }) {
  const { edit, foresee, problems, result } = usePart(part.id)
  const waits = !result
  // the same object while nothing of it changes, so that its row is not drawn again
  const rows = useMemo(() => {
    const one = fieldOf(field)
    return [one.kind === 'choice' ? { ...one, waits } : one]
  }, [field, waits])
  return (
    <>
      <FieldRows
        whole={part}
        fields={rows}
        problems={problems}
        onChange={(path, value) => edit(path, (now) => chosenOne(now, path, value, result?.begins ?? {}))}
        onTyping={(path, value) => foresee((now) => withValue(now, path, value))}
      />
      <Why text={field.note} />
    </>
  )
}
