import { Box, Button, IconButton, InputBase, Link as MuiLink, Typography } from '@mui/material'
import type { Link, LoadCase } from '../../api'
import { Link as RouterLink } from 'react-router'
import { useLink, useSessionPart } from '../../app/session'
import { NumberField } from '../../quantity'
import { CrossIcon, PlusIcon, Section } from '../../ui'

const LIMIT = 1e7

/** What the link sees at once, case by case; forces are before any factor. */
export function CaseFields({ link }: { link: Link }) {
  const { edit, problems, result } = useLink(link.id)
  const jobId = useSessionPart((state) => state.jobId)
  const worked = (result?.cases ?? []).filter((one) => one.worked)
  const change = (i: number, part: Partial<LoadCase>) =>
    edit(`case ${i} ${Object.keys(part).join()}`, (now) => ({
      ...now,
      cases: now.cases.map((one, j) => (j === i ? { ...one, ...part } : one)),
    }))
  const add = () =>
    edit('add a case', (now) => ({
      ...now,
      cases: [
        ...now.cases,
        { name: `case ${now.cases.length + 1}`, axial_n: 0, strike_n: 0, side_n: 0, at: '', worked: false },
      ],
    }))
  const remove = (i: number) => edit('remove a case', (now) => ({ ...now, cases: now.cases.filter((_, j) => j !== i) }))
  return (
    <Section title="What it sees" note="newtons, before factors; pull +, push −; strike at mid-span, side at an eye">
      <Box role="list" aria-label="Load cases">
        {link.cases.map((one, i) => (
          <Box role="listitem" key={i} sx={{ mb: 1 }}>
            <Box sx={{ display: 'flex', alignItems: 'center' }}>
              <InputBase
                value={one.name}
                onChange={(event) => change(i, { name: event.target.value })}
                error={!one.name.trim() || one.name.length > 80}
                slotProps={{ input: { 'aria-label': `Name of case ${i + 1}`, maxLength: 80 } }}
                sx={{
                  flex: 1,
                  fontSize: 13.5,
                  fontWeight: 600,
                  '& input': { p: '2px 0' },
                  borderBottom: 1,
                  borderColor: one.name.trim() ? 'transparent' : 'error.main',
                }}
              />
              <IconButton size="small" aria-label={`Remove case ${i + 1}`} onClick={() => remove(i)} sx={{ p: 0.25 }}>
                <CrossIcon sx={{ fontSize: 14 }} />
              </IconButton>
            </Box>
            <Box sx={{ display: 'grid', gridTemplateColumns: '1.2fr 1fr 1fr', columnGap: 1.5, alignItems: 'start' }}>
              <Force name="pull / push">
                <NumberField
                  hideLabel
                  label={`Pull or push, case ${i + 1}`}
                  unit="N"
                  min={-LIMIT}
                  max={LIMIT}
                  value={one.axial_n}
                  onChange={(v) => v !== null && change(i, { axial_n: v })}
                  problem={problems.get(`cases.${i}.axial_n`)}
                />
              </Force>
              <Force name="strike">
                <NumberField
                  hideLabel
                  label={`Strike at mid-span, case ${i + 1}`}
                  unit="N"
                  min={0}
                  max={LIMIT}
                  value={one.strike_n}
                  onChange={(v) => v !== null && change(i, { strike_n: v })}
                  problem={problems.get(`cases.${i}.strike_n`)}
                />
              </Force>
              <Force name="side">
                <NumberField
                  hideLabel
                  label={`Side force at an eye, case ${i + 1}`}
                  unit="N"
                  min={0}
                  max={LIMIT}
                  value={one.side_n}
                  onChange={(v) => v !== null && change(i, { side_n: v })}
                  problem={problems.get(`cases.${i}.side_n`)}
                />
              </Force>
            </Box>
          </Box>
        ))}
      </Box>
      {worked.length > 0 && (
        <Box sx={{ mb: 0.5 }}>
          <Typography variant="caption" sx={{ color: 'text.secondary' }}>
            from the car’s load cases,{' '}
            <MuiLink component={RouterLink} to={`/jobs/${jobId}/loads`}>
              station 4
            </MuiLink>
          </Typography>
          {worked.map((one) => (
            <Box
              key={`${one.name}${one.axial_n}`}
              title={one.at}
              sx={{ display: 'flex', justifyContent: 'space-between', gap: 1, fontSize: 13.5 }}
            >
              <Box
                component="span"
                sx={{ minWidth: 0, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}
              >
                {one.name}
              </Box>
              <Box component="span" sx={(theme) => ({ fontFamily: theme.tirante.mono, whiteSpace: 'nowrap' })}>
                {one.axial_n < 0 ? '−' : '+'}
                {Math.abs(one.axial_n).toFixed(0)} N{one.strike_n > 0 && `, strike ${one.strike_n.toFixed(0)}`}
              </Box>
            </Box>
          ))}
        </Box>
      )}
      <Button size="small" startIcon={<PlusIcon />} onClick={add} disabled={link.cases.length >= 40} sx={{ mt: 0.5 }}>
        Add a case
      </Button>
    </Section>
  )
}

function Force({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <Box sx={{ minWidth: 0 }}>
      <Typography variant="caption" component="div" sx={{ color: 'text.secondary', lineHeight: 1 }}>
        {name}
      </Typography>
      {children}
    </Box>
  )
}
