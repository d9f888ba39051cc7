import { Alert, Box, Button, Typography } from '@mui/material'
import { useState } from 'react'
import { answer, api } from '../../api'
import { useDesign, useSessionPart } from '../../app/session'
import { useTask } from '../../app/tasks'
import { DrawingView } from '../../drawing'
import { Told, useUnits } from '../../quantity'
import { Pick, Problem, Section } from '../../ui'
import { Ask } from './Ask'
import { useKeep, type Laid } from './keep'

const STICK = { mm: 6000, in: 20 * 304.8 } // mm, as tube is usually sold by length; common practice
const HOLD = 60 // mm that a vice must hold; common practice
const NOTCHES = { each: 'Each cut by itself', one: 'One pass parts two' }
const TRIM = 10 // mm off either end: crushed or sawn crooked; common practice

/** The saw's list on what the rack holds and on as few new sticks as can be, drawn as bars in the order of cutting. */
export function Sticks() {
  const design = useDesign()
  const { unit, main } = useUnits()
  const [stock, setStock] = useState(STICK[unit])
  const [kerf, setKerf] = useState(design.settings.saw_kerf_mm)
  const [start, setStart] = useState(TRIM)
  const [end, setEnd] = useState(TRIM)
  const [hold, setHold] = useState(HOLD)
  const [share, setShare] = useState(false)
  const jobId = useSessionPart((state) => state.jobId)
  const laid = useTask<Laid>('sticks', jobId, ({ id }) => {
    const saw = { stock_mm: stock, kerf_mm: kerf, trim_start_mm: start, trim_end_mm: end, hold_mm: hold, share, unit }
    return answer(api.POST('/api/tasks/sticks', { body: { id, job_id: jobId, design, ...saw } }))
  })
  const found = laid.came?.sticks
  const keep = useKeep()
  return (
    <Section
      title="On sticks"
      note="what the rack holds first, then as few new ones as can be; the first trim is sawn off every stick, the last is not used; a layout that is kept takes nothing off the rack until it is cut"
    >
      <Ask
        lengths={[
          ['New stick', stock, setStock, 1, 100_000],
          ['Kerf', kerf, setKerf, 0, 500],
          ['First trim', start, setStart, 0, 500],
          ['Last trim', end, setEnd, 0, 500],
          ['The vice holds', hold, setHold, 0, 500],
        ]}
        laid={laid}
        words={['Lay it out', 'Laying it out']}
        told={['Laying out on sticks', 'tubes laid out']}
      >
        <Box sx={{ width: 262 }}>
          <Pick
            label="Notches alike"
            value={share ? 'one' : 'each'}
            options={Object.entries(NOTCHES).map(([value, label]) => ({ value, label }))}
            onChange={(next) => setShare(next === 'one')}
          />
        </Box>
      </Ask>
      {keep.error && <Problem error={keep.error} />}
      {found && (
        <Box role="status" aria-label="The sticks">
          {found.tubes.map((one, index) => (
            <Box key={`${one.tube} ${one.grade}`} sx={{ mb: 2 }}>
              <Typography variant="body1" sx={{ fontWeight: 600 }}>
                {one.tube}, {one.grade}
              </Typography>
              {one.fault ? (
                <Alert severity="error" variant="outlined">
                  <Told>{one.fault}</Told>
                </Alert>
              ) : (
                <Typography variant="body2">
                  <Told>{one.told}</Told>
                  {one.wishes.map((wish) => (
                    <Box component="span" key={wish.name} sx={{ color: 'text.secondary' }}>
                      {`; ${wish.name} ${wish.unit === 'mm' ? main(wish.value) : wish.value}`}
                      {!wish.proven && ` (no layout betters ${wish.unit === 'mm' ? main(wish.bound) : wish.bound})`}
                    </Box>
                  ))}
                </Typography>
              )}
              {!one.fault && (
                <Button
                  size="small"
                  disabled={keep.isPending}
                  onClick={() => keep.mutate({ task_id: laid.came!.id, index })}
                >
                  Keep this layout
                </Button>
              )}
              {one.left_out.map((row) => (
                <Typography key={row} variant="body2" sx={{ color: 'text.secondary' }}>
                  Not used: <Told>{row}</Told>
                </Typography>
              ))}
              {one.drawing && (
                <Box sx={{ maxWidth: 900 }}>
                  <DrawingView drawing={one.drawing} />
                </Box>
              )}
              <Box
                component="ol"
                sx={{ m: 0, pl: 3, columns: 2, fontSize: 13, '& li': { breakInside: 'avoid' } }}
                aria-label={`What ${one.tube} is cut for`}
              >
                {one.pieces.map((what, i) => (
                  <li key={i}>
                    {main(one.lengths_mm[i] ?? 0)}: {what}
                  </li>
                ))}
              </Box>
            </Box>
          ))}
        </Box>
      )}
    </Section>
  )
}
