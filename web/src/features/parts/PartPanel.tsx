import { Box, Button, Typography } from '@mui/material'
import { useEffect, useRef } from 'react'
import { useMutation } from '@tanstack/react-query'
import { answer, api, withoutPart, type AnyPart } from '../../api'
import { useKinds, usePart } from '../../app/session'
import { Busy, Problem, Section, Segmented, TextRow } from '../../ui'
import { BySurvey } from './BySurvey'
import { Fields } from './Fields'
import { PartHeldBy, StandsOnPart } from './HeldBy'

const SIDES = (['pair', 'left', 'right', 'centre'] as const).map((value) => ({ value, label: value }))

interface Props {
  part: AnyPart
  /** The field that was picked in the drawing. */
  field: string | null
  onRemoved: () => void
}

/** What a part is: its name and side, what its kind lets one set, what holds it. */
export function PartPanel({ part, field, onRemoved }: Props) {
  const { session, edit, problems } = usePart(part.id)
  const kind = useKinds()?.find((one) => one.key === part.kind)
  const panel = useRef<HTMLDivElement>(null)
  useEffect(() => {
    if (!field) return
    const places = [...(panel.current?.querySelectorAll<HTMLElement>('[data-field]') ?? [])]
    const place = places.find((one) => one.dataset.field === field)
    place?.scrollIntoView({ block: 'start' })
    const target =
      place?.querySelector<HTMLElement>('input:not([type=checkbox])') ?? place?.querySelector<HTMLElement>('button')
    target?.focus({ preventScroll: true })
  }, [field, kind])
  if (!kind) return <Busy what="Asking what may be set" />
  return (
    <Box ref={panel}>
      <Section title="Name and side">
        <TextRow
          label="Name"
          value={part.name}
          onChange={(name) => edit('name', (now) => ({ ...now, name }))}
          problem={problems.get('name')}
        />
        <Segmented
          label="Side"
          fullWidth
          value={part.side}
          onChange={(side) => edit('side', (now) => ({ ...now, side }))}
          options={SIDES}
        />
      </Section>
      <Fields part={part} kind={kind} />
      <BySurvey partId={part.id} />
      <PartHeldBy partId={part.id} />
      <StandsOnPart partId={part.id} />
      <Section title="Note">
        <TextRow
          label="Note"
          multiline
          maxLength={2000}
          value={part.note}
          onChange={(note) => edit('note', (now) => ({ ...now, note }))}
          problem={problems.get('note')}
        />
      </Section>
      {'between' in part && <Instead part={part} />}
      <Button
        color="error"
        size="small"
        onClick={() => {
          session.edit('take out a part', (now) => withoutPart(now, part.id))
          onRemoved()
        }}
      >
        Take out this {kind.word} (undo brings it back)
      </Button>
      {kind.station === 'members' && (
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary', mt: 0 }}>
          What holds it stays at station 6 until it is taken out there.
        </Typography>
      )}
    </Box>
  )
}

/** The other kinds that stand between the same two points: the part keeps its place, its cases and its name. */
function Instead({ part }: { part: Extract<AnyPart, { between: unknown }> }) {
  const { session } = usePart(part.id)
  const others = useKinds()?.filter((one) => one.stands_between && one.key !== part.kind) ?? []
  const make = useMutation({
    mutationFn: (kind: string) => {
      const { id, name, side, between } = part
      return answer(api.POST('/api/links', { body: { design: session.state().design, id, name, side, between, kind } }))
    },
    onSuccess: (patch) => session.patch('another kind', patch),
  })
  return (
    <>
      {others.map((kind) => (
        <Button key={kind.key} size="small" disabled={make.isPending} onClick={() => make.mutate(kind.key)}>
          Make it a {kind.word} instead
        </Button>
      ))}
      {make.error && <Problem error={make.error} />}
    </>
  )
}
