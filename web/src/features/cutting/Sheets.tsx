import { Alert, Box, Button, Typography } from '@mui/material'
import { useState } from 'react'
import { answer, api, type PlateNestOut } from '../../api'
import { useDesign, useSessionPart } from '../../app/session'
import { useTask } from '../../app/tasks'
import { DrawingView } from '../../drawing'
import { Told, useUnits } from '../../quantity'
import { Pick, Problem, Section } from '../../ui'
import { Ask } from './Ask'
import { useKeep, type Laid } from './keep'

const SHEET = { mm: [2000, 1000], in: [8 * 304.8, 4 * 304.8] } // mm, as plate is usually sold; common practice
const APART = 5 // mm from plate to plate, kerf included; common practice
const EDGE = 10 // mm from a sheet's edge; common practice
const TURNS = { quarter: 'By quarter turns', half: 'As drawn, along the grain', any: 'Any way round' }
const BENDS = { across: 'Across the grain', any: 'As they come' }
const SEARCH = { '5': '5 s', '10': '10 s', '30': '30 s', '60': '60 s' }

/** The plates of a job on the rack's sheets and on as few new ones as are found, thickness by thickness. */
export function Sheets() {
  const design = useDesign()
  const { unit } = useUnits()
  const jobId = useSessionPart((state) => state.jobId)
  const [long, setLong] = useState(SHEET[unit][0]!)
  const [wide, setWide] = useState(SHEET[unit][1]!)
  const [apart, setApart] = useState(APART)
  const [edge, setEdge] = useState(EDGE)
  const [turns, setTurns] = useState<keyof typeof TURNS>('quarter')
  const [across, setAcross] = useState(true)
  const [seconds, setSeconds] = useState(5)
  const laid = useTask<Laid>('sheets', jobId, ({ id }) => {
    const lie = { length_mm: long, width_mm: wide, spacing_mm: apart, edge_mm: edge, turns, across, seconds, unit }
    return answer(api.POST('/api/tasks/sheets', { body: { id, job_id: jobId, design, ...lie } }))
  })
  const found = laid.came?.sheets
  return (
    <Section
      title="On sheets"
      note="what the rack holds first, then as few new sheets as are found; every layout is measured before it is shown; nothing is laid into a plate’s openings, and no plate is turned over"
    >
      <Ask
        lengths={[
          ['New sheet, long', long, setLong, 1, 100_000],
          ['New sheet, wide', wide, setWide, 1, 100_000],
          ['Between plates', apart, setApart, 0, 500],
          ['From its edge', edge, setEdge, 0, 500],
        ]}
        laid={laid}
        words={['Lay them out', 'Laying them out']}
        told={['Laying out on sheets', 'thicknesses laid out']}
      >
        {(
          [
            ['Plates may lie', turns, TURNS, (next) => setTurns(next as keyof typeof TURNS)],
            ['Bends', across ? 'across' : 'any', BENDS, (next) => setAcross(next === 'across')],
            ['Search each thickness', String(seconds), SEARCH, (next) => setSeconds(Number(next))],
          ] as [string, string, Record<string, string>, (next: string) => void][]
        ).map(([label, value, of, set]) => (
          <Box key={label} sx={{ width: 262 }}>
            <Pick
              label={label}
              value={value}
              options={Object.entries(of).map(([key, words]) => ({ value: key, label: words }))}
              onChange={set}
            />
          </Box>
        ))}
      </Ask>
      {found && (
        <Box role="status" aria-label="The sheets">
          {found.nests.length === 0 && <Typography variant="body2">No plate is on the list.</Typography>}
          {found.nests.map((one, index) => (
            <Nest key={`${one.material} ${one.thickness_mm}`} one={one} task={laid.came!.id} index={index} />
          ))}
          {found.left_out.length > 0 && (
            <Alert severity="warning" variant="outlined" sx={{ mt: 1 }}>
              Not among them: <Told>{found.left_out.map((one) => `${one.name} (${one.why})`).join('; ')}</Told>
            </Alert>
          )}
        </Box>
      )}
    </Section>
  )
}

function Nest({ one, task, index }: { one: PlateNestOut; task: string; index: number }) {
  const { main } = useUnits()
  const keep = useKeep()
  return (
    <Box sx={{ mb: 2 }}>
      <Typography variant="body1" sx={{ fontWeight: 600 }}>
        {main(one.thickness_mm)} {one.material}
      </Typography>
      {one.fault ? (
        <Alert severity="error" variant="outlined">
          <Told>{one.fault}</Told>
        </Alert>
      ) : (
        <Typography variant="body2">
          <Told>{one.told}</Told>
        </Typography>
      )}
      {!one.fault && (
        <Button size="small" disabled={keep.isPending} onClick={() => keep.mutate({ task_id: task, index })}>
          Keep this layout
        </Button>
      )}
      {keep.error && <Problem error={keep.error} />}
      {one.left_out.map((row) => (
        <Typography key={row} variant="body2" sx={{ color: 'text.secondary' }}>
          Not used: <Told>{row}</Told>
        </Typography>
      ))}
      {one.sheets.map((sheet) => (
        <Box key={sheet.title} sx={{ maxWidth: 760, mt: 1 }}>
          <Typography variant="body2">
            {sheet.title}, {sheet.plates} plates
          </Typography>
          <DrawingView drawing={sheet.drawing} />
        </Box>
      ))}
      <Box
        component="ol"
        sx={{ m: 0, pl: 3, columns: 2, fontSize: 13 }}
        aria-label={`Plates of ${one.thickness_mm} mm ${one.material}`}
      >
        {one.plates.map((plate, i) => (
          <li key={i}>
            {plate.count} × <Told>{plate.what}</Told>
            {plate.blank && ', the rectangle that it is made of'}
          </li>
        ))}
      </Box>
    </Box>
  )
}
