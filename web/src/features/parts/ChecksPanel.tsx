import { Box, ButtonBase, Typography } from '@mui/material'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { ApiProblem, answer, api, dependsOn, type CheckOut } from '../../api'
import { useDesign, usePart, useTheSession } from '../../app/session'
import { Busy, MarginBar, Problem } from '../../ui'
import { Working } from './Working'
import { Told } from '../../quantity'

interface Props {
  partId: string
  selection: string | null
  onSelect: (ref: string | null) => void
}

/** Every check, weakest first; each opens to its working. What was not made and not carried stands below by name. */
export function ChecksPanel({ partId, selection, onSelect }: Props) {
  const { result } = usePart(partId)
  if (!result) return <Busy what="Working it out" />
  const asked = result.checks.filter((check) => check.utilisation !== null)
  // limits of shape that hold have no utilisation, and are no check that nothing asks for
  const kept = result.checks.filter((check) => check.utilisation === null && check.topic !== null)
  const idle = result.checks.filter((check) => check.utilisation === null && check.topic === null)
  return (
    <>
      <Typography
        variant="body2"
        sx={{
          mb: 1,
          fontWeight: result.status === 'ok' ? 400 : 600,
          color:
            result.status === 'stop' ? 'error.main' : result.status === 'attention' ? 'warning.main' : 'text.primary',
        }}
        data-testid="headline"
      >
        <Told>{result.headline}</Told>
      </Typography>
      {result.status !== 'ok' && result.complete && result.governing && <ChangeNote partId={partId} />}
      <CheckRows checks={asked} selection={selection} onSelect={onSelect} />
      {kept.map((check) => (
        <Typography key={check.key} variant="caption" component="p" sx={{ color: 'text.secondary' }}>
          {check.name}: <Told>{check.note}</Told>.
        </Typography>
      ))}
      {idle.length > 0 && (
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary' }}>
          No load case asks for: {idle.map((check) => check.name.toLowerCase()).join(', ')}.
        </Typography>
      )}
      {result.not_carried.length > 0 && (
        <Typography variant="body2" sx={{ my: 1, borderLeft: 3, borderColor: 'warning.main', pl: 1 }}>
          <b>Not worked out:</b> <Told>{result.not_carried.join('; ')}</Told>.
        </Typography>
      )}
      {result.notes.map((note) => (
        <Typography key={note} variant="body2" sx={{ my: 1, borderLeft: 3, borderColor: 'warning.main', pl: 1 }}>
          <Told>{note}</Told>
        </Typography>
      ))}
      {(result.complete || result.checks.length > 0) && (
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary' }}>
          <b>Not checked:</b> {result.not_checked.join(', ')}. A margin is not an approval: follow your local rules, and
          have a licensed engineer or certifier pass a road or race car.
        </Typography>
      )}
    </>
  )
}

/** Checks in a list, one of them open. */
export function CheckRows({
  checks,
  selection,
  onSelect,
}: { checks: CheckOut[] } & Pick<Props, 'selection' | 'onSelect'>) {
  return (
    <>
      {checks.map((check) => (
        <CheckRow
          key={check.key}
          check={check}
          open={selection === `check:${check.key}`}
          onToggle={(open) => onSelect(open ? `check:${check.key}` : null)}
        />
      ))}
    </>
  )
}

/** A check: its name, use and margin; open, its working. */
function CheckRow({ check, open, onToggle }: { check: CheckOut; open: boolean; onToggle: (open: boolean) => void }) {
  const row = useRef<HTMLDivElement>(null)
  useEffect(() => {
    if (open) row.current?.scrollIntoView({ block: 'nearest' })
  }, [open])
  const tone = check.state === 'stop' ? 'error.main' : check.state === 'attention' ? 'warning.main' : 'text.primary'
  return (
    <Box ref={row} sx={{ borderBottom: 1, borderColor: 'divider' }} data-check={check.key}>
      <ButtonBase
        onClick={() => onToggle(!open)}
        aria-expanded={open}
        sx={{ display: 'block', width: '100%', textAlign: 'left', py: 0.75 }}
      >
        <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
          <Typography component="span" sx={{ flex: 1 }}>
            {check.name}
            {check.part.startsWith('end ') && (
              <Box component="span" sx={{ color: 'text.secondary', fontSize: 12.5 }}>
                {' '}
                {check.part}
              </Box>
            )}
          </Typography>
          <Typography
            component="span"
            sx={(theme) => ({ fontFamily: theme.tirante.mono, fontWeight: 700, color: tone })}
          >
            {check.shown}
          </Typography>
        </Box>
        <MarginBar utilisation={check.utilisation} state={check.state} />
        <Typography variant="caption" component="span" sx={{ color: 'text.secondary' }}>
          <Told>{check.note || check.case}</Told>
        </Typography>
      </ButtonBase>
      {open && <Working check={check} />}
    </Box>
  )
}

/** The cheapest change that clears the governing check, worked out by the core. */
function ChangeNote({ partId }: { partId: string }) {
  const session = useTheSession()
  const design = useDesign()
  const found = useQuery({
    queryKey: ['change', partId, dependsOn(design, [partId])],
    queryFn: ({ signal }) => answer(api.POST('/api/change', { body: { design, part_id: partId }, signal })),
    retry: (count, error) => error instanceof ApiProblem && error.passing && count < 3,
  })
  if (found.isPending) return <Busy what="Looking for what would clear it" />
  if (found.error) return <Problem error={found.error} />
  const proposed = found.data.found
  return (
    <Box
      sx={(theme) => ({ bgcolor: theme.tirante.select, borderLeft: 3, borderColor: 'warning.main', p: 1.25, mb: 1.5 })}
    >
      <Typography variant="body2">
        <Told>{found.data.sentence}</Told>
      </Typography>
      {proposed && (
        <ButtonBase
          sx={{ mt: 0.5, color: 'primary.main', fontWeight: 600, fontSize: 13.5 }}
          onClick={() => session.patch('take the change', proposed.patch)}
        >
          Take this change
        </ButtonBase>
      )}
    </Box>
  )
}
