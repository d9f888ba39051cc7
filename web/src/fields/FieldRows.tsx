import { Box, Checkbox, FormControlLabel, Typography } from '@mui/material'
import { memo, useEffect, useRef, type RefObject } from 'react'
import { LengthField, MmField, NumberField } from '../quantity'
import { Pick, TextRow } from '../ui'
import type { LengthValue } from '../api'
import { problemAt, valueAt, type Field } from './fields'

interface Props {
  whole: unknown
  fields: Field[]
  problems: Map<string, string>
  onChange: (path: string, value: unknown) => void
  /** What a length would be by what stands in its field so far; nothing of it is kept. */
  onTyping?: (path: string, value: LengthValue) => void
}

const AXES = ['x', 'y', 'z']

type Takes = Pick<Props, 'onChange' | 'onTyping'>

/** Fields from a table: each shown and taken as what it is. */
export function FieldRows({ whole, fields, problems, onChange, onTyping }: Props) {
  // the newest of both for rows that are not drawn again
  const takes = useRef<Takes>({ onChange, onTyping })
  useEffect(() => {
    takes.current = { onChange, onTyping }
  })
  return (
    <>
      {fields.map((field) => (
        <One
          key={field.path}
          field={field}
          value={valueAt(whole, field.path)}
          problem={problemAt(problems, field.path)}
          foresees={onTyping !== undefined}
          takes={takes}
        />
      ))}
    </>
  )
}

/** One of them: drawn again only when what it shows changes. */
const One = memo(function One(props: {
  field: Field
  value: unknown
  problem?: string
  foresees: boolean
  takes: RefObject<Takes>
}) {
  const { field, value, problem, takes } = props
  const onChange = (found: unknown) => takes.current.onChange(field.path, found)
  const optional = 'optional' in field && field.optional
  const take = (found: unknown) => (found !== null || optional) && onChange(found)
  switch (field.kind) {
    case 'mm':
      return (
        <MmField
          label={field.label}
          value={(value as number | null | undefined) ?? null}
          signed={field.signed}
          optional={optional}
          placeholder={optional ? (field.empty ?? 'none') : undefined}
          {...field.limits}
          problem={problem}
          onChange={take}
        />
      )
    case 'length':
      return (
        <LengthField
          label={field.label}
          value={(value as LengthValue | null | undefined) ?? null}
          optional={optional}
          {...field.limits}
          problem={problem}
          onChange={take}
          onTyping={props.foresees ? (mm, typed) => takes.current.onTyping?.(field.path, { mm, typed }) : undefined}
        />
      )
    case 'number':
      return (
        <NumberField
          label={field.label}
          unit={field.unit}
          value={(value as number | null | undefined) ?? null}
          optional={optional}
          placeholder={optional ? (field.empty ?? 'none') : undefined}
          {...field.limits}
          problem={problem}
          onChange={(found) => take(found !== null && field.whole ? Math.round(found) : found)}
        />
      )
    case 'at':
    case 'direction': {
      const three = (value as number[] | null | undefined) ?? [0, 0, 0]
      return (
        <Box sx={{ mb: 0.5 }}>
          <Typography variant="body2" sx={{ color: problem ? 'error.main' : 'text.primary' }}>
            {field.label}
            <Box component="span" sx={{ color: 'text.secondary', fontSize: 11, ml: 1 }}>
              ahead, left, up
            </Box>
          </Typography>
          <Box sx={{ position: 'relative', display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', columnGap: 1.5 }}>
            {AXES.map((axis, i) => {
              const common = { label: `${field.label}, ${axis}`, hideLabel: true, value: three[i] ?? 0 }
              const change = (found: number | null) =>
                found !== null && onChange(three.map((old, j) => (j === i ? found : old)))
              return field.kind === 'at' ? (
                <MmField key={axis} {...common} signed onChange={change} />
              ) : (
                <NumberField key={axis} {...common} unit="" onChange={change} />
              )
            })}
          </Box>
          {problem && (
            <Typography role="alert" variant="caption" sx={{ color: 'error.main' }}>
              {problem}
            </Typography>
          )}
        </Box>
      )
    }
    case 'choice':
      return (
        <Pick
          label={field.label}
          value={(value as string | null | undefined) ?? ''}
          none={optional ? (field.empty ?? 'as is usual') : undefined}
          options={field.options}
          disabled={field.waits}
          problem={problem}
          onChange={(found) => onChange(found || null)}
        />
      )
    case 'text':
      return (
        <TextRow
          label={field.label}
          multiline={field.long}
          optional={optional}
          maxLength={field.long ? 2000 : undefined}
          value={(value as string) ?? ''}
          problem={problem}
          onChange={onChange}
        />
      )
    case 'check':
      return (
        <FormControlLabel
          control={
            <Checkbox size="small" checked={Boolean(value)} onChange={(event) => onChange(event.target.checked)} />
          }
          label={<Typography variant="body2">{field.label}</Typography>}
        />
      )
  }
})
