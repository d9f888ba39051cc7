import { Box } from '@mui/material'
import { useQuery } from '@tanstack/react-query'
import { answer, api, type CheckOut } from '../../api'
import { figure } from '../../quantity'
import { Busy, Problem, Repeats } from '../../ui'

const number = (value: unknown): string =>
  typeof value === 'number' ? String(Number(value.toPrecision(6))) : value === null ? 'none' : String(value)

/** A name with its unit at the end, as "wall [mm]". */
function named(field: string): string {
  const units: Record<string, string> = {
    mm: 'mm',
    mm2: 'mm²',
    mm3: 'mm³',
    mm4: 'mm⁴',
    n: 'N',
    mpa: 'MPa',
    nmm: 'N·mm',
    deg: '°',
    kg: 'kg',
  }
  const parts = field.split('_')
  const unit = units[(parts.at(-1) ?? '').toLowerCase()]
  return unit && parts.length > 1 ? `${parts.slice(0, -1).join(' ')} [${unit}]` : field.replaceAll('_', ' ')
}

/** What stands behind a check: demand and capacity, formula, inputs, source with its status, and the line that repeats it. */
export function Working({ check }: { check: CheckOut }) {
  const steps = useQuery({
    queryKey: ['working', check.topic, check.topic_input],
    queryFn: () => answer(api.POST('/api/working', { body: { topic: check.topic!, input: check.topic_input! } })),
    enabled: check.topic !== null,
  })
  const meanings = useQuery({
    queryKey: ['meanings'],
    queryFn: () => answer(api.GET('/api/meanings')),
    staleTime: Infinity,
  })
  const meaning = meanings.data?.checks[check.key.split(':')[0] ?? '']
  return (
    <Box sx={{ pb: 1.5, fontSize: 12.5 }} data-testid="working">
      {meaning && (
        <Box component="p" sx={{ m: 0, mb: 0.75, fontSize: 13.5 }}>
          {meaning} {check.cure && `What helps: ${check.cure}.`}
        </Box>
      )}
      <Line name="asked of it">
        {figure(check.demand, check.unit)}
        {check.factor !== 1 && ` (× ${check.factor} ${check.factor_name.replace('_', ' ')})`}
      </Line>
      <Line name="it bears">{figure(check.capacity, check.unit, true)}</Line>
      {check.case && (
        <Line name="case">
          “{check.case}”{check.at ? `, ${check.at}` : ', as typed'}
        </Line>
      )}
      <Line name="formula">{check.formula}</Line>
      <Line name="source">
        {check.source}
        {check.source_status !== 'common practice' && <i> ({check.source_status})</i>}
      </Line>
      {steps.isFetching && <Busy what="Working it out again" />}
      {steps.error && <Problem error={steps.error} />}
      {steps.data?.working.map((step, i) => (
        <Box key={i} sx={{ mt: 0.75 }}>
          <Box sx={{ fontWeight: 600 }}>
            {String(step.step)}: <span>{String(step.formula)}</span>
          </Box>
          <Box sx={(theme) => ({ fontFamily: theme.tirante.mono, color: 'text.secondary', overflowWrap: 'anywhere' })}>
            {Object.entries(step.values as Record<string, unknown>).map(([name, value]) => (
              <Box component="span" key={name} sx={{ mr: 1.5, whiteSpace: 'nowrap' }}>
                {named(name)} = {number(value)}
              </Box>
            ))}
          </Box>
        </Box>
      ))}
      {check.command && (
        <Box sx={{ mt: 1 }}>
          <Repeats line={check.command} what={`The same from the command line: ${check.figure} is ${check.output}`} />
        </Box>
      )}
    </Box>
  )
}

function Line({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <Box sx={{ display: 'flex', gap: 1 }}>
      <Box sx={{ width: 72, flexShrink: 0, color: 'text.secondary' }}>{name}</Box>
      <Box sx={{ minWidth: 0, overflowWrap: 'anywhere' }}>{children}</Box>
    </Box>
  )
}
