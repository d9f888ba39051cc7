import { Box, Button, IconButton, InputBase, Link as MuiLink, Typography } from '@mui/material'
import type { AnyPart, LoadCase } from '../../../api'
import { Link as RouterLink } from 'react-router'
import { usePart, useSessionPart } from '../../../app/session'
import { useForms } from '../../../fields'
import { NumberField } from '../../../quantity'
import { CrossIcon, PlusIcon } from '../../../ui'
import type { OwnField } from '.'

/** What the link sees at once, case by case; forces are before any factor. */
export function CaseFields({ part }: OwnField) {
  const { edit, problems, result } = usePart(part.id)
  const jobId = useSessionPart((state) => state.jobId)
  const forms = useForms()
  if (!('cases' in part)) return null
  const worked = (result?.own && 'cases' in result.own ? result.own.cases : []).filter((one) => one.worked)
  const cases = (label: string, next: (now: LoadCase[]) => LoadCase[]) =>
    edit(label, (now) => ('cases' in now ? ({ ...now, cases: next(now.cases) } as AnyPart) : now))
  const change = (i: number, part: Partial<LoadCase>) =>
    cases(`case ${i} ${Object.keys(part).join()}`, (now) => now.map((one, j) => (j === i ? { ...one, ...part } : one)))
  const add = () =>
    cases('add a case', (now) => [...now, { ...(result?.begins.case as LoadCase), name: `case ${now.length + 1}` }])
  const remove = (i: number) => cases('remove a case', (now) => now.filter((_, j) => j !== i))
  return (
    <>
      <Box role="list" aria-label="Load cases">
        {part.cases.map((one, i) => (
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
                  {...forms?.limits('seen', 'axial_n')}
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
                  {...forms?.limits('seen', 'strike_n')}
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
                  {...forms?.limits('seen', 'side_n')}
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
      <Button
        size="small"
        startIcon={<PlusIcon />}
        onClick={add}
        disabled={part.cases.length >= 40 || !result}
        sx={{ mt: 0.5 }}
      >
        Add a case
      </Button>
    </>
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
