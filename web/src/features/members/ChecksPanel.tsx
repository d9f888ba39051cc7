import { Box, ButtonBase, Typography } from '@mui/material'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { ApiProblem, answer, api, tiedTo, type CheckOut, type Link } from '../../api'
import { useLink, useDesign, useSessionPart, useTheSession } from '../../app/session'
import { Busy, MarginBar, Problem } from '../../ui'
import { Working } from './Working'

interface Props {
  linkId: string
  selection: string | null
  onSelect: (ref: string | null) => void
  /** Only the checks of these parts. */
  parts?: string[]
}

/** Every check, weakest first; each opens to its working. */
export function ChecksPanel({ linkId, selection, onSelect, parts }: Props) {
  const evaluation = useSessionPart((state) => state.evaluation)
  const { link, result } = useLink(linkId)
  if (!result) return <Busy what="Working it out" />
  const rows = parts ? result.checks.filter((check) => parts.includes(check.part)) : result.checks
  const asked = rows.filter((check) => check.utilisation !== null)
  const idle = rows.filter((check) => check.utilisation === null)
  return (
    <>
      {!parts && (
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
          {result.headline}
        </Typography>
      )}
      {!parts && link && result.status !== 'ok' && result.stack && result.governing && <ChangeNote link={link} />}
      <CheckRows checks={asked} selection={selection} onSelect={onSelect} />
      {idle.length > 0 && (
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary' }}>
          No load case asks for: {idle.map((check) => check.name.toLowerCase()).join(', ')}.
        </Typography>
      )}
      {!parts &&
        result.notes.map((note) => (
          <Typography key={note} variant="body2" sx={{ my: 1, borderLeft: 3, borderColor: 'warning.main', pl: 1 }}>
            {note}
          </Typography>
        ))}
      {(result.stack || rows.length > 0) && (
        <Typography variant="caption" component="p" sx={{ color: 'text.secondary' }}>
          <b>Not checked:</b> {evaluation?.not_checked.join(', ')}. A margin is not an approval: follow your local
          rules, and have a licensed engineer or certifier pass a road or race car.
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
          {check.note || check.case || ''}
        </Typography>
      </ButtonBase>
      {open && <Working check={check} />}
    </Box>
  )
}

/** The cheapest change that clears the governing check, worked out by the core. */
function ChangeNote({ link }: { link: Link }) {
  const session = useTheSession()
  const design = useDesign()
  const found = useQuery({
    queryKey: ['change', link, design.settings, tiedTo(design, [link])],
    queryFn: ({ signal }) => answer(api.POST('/api/change', { body: { design, link_id: link.id }, signal })),
    retry: (count, error) => error instanceof ApiProblem && error.passing && count < 3,
  })
  if (found.isPending) return <Busy what="Looking for what would clear it" />
  if (found.error) return <Problem error={found.error} />
  const proposed = found.data.found
  return (
    <Box
      sx={(theme) => ({ bgcolor: theme.tirante.select, borderLeft: 3, borderColor: 'warning.main', p: 1.25, mb: 1.5 })}
    >
      <Typography variant="body2">{found.data.sentence}</Typography>
      {proposed && (
        <ButtonBase
          sx={{ mt: 0.5, color: 'primary.main', fontWeight: 600, fontSize: 13.5 }}
          onClick={() =>
            session.edit('take the change', (now) => ({
              ...now,
              links: now.links.map((one) =>
                one.id === link.id ? proposed.design.links.find((l) => l.id === link.id)! : one,
              ),
              catalogue: proposed.design.catalogue,
            }))
          }
        >
          Take this change
        </ButtonBase>
      )}
    </Box>
  )
}
