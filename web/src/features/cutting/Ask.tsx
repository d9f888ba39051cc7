import { Alert, Box, Button } from '@mui/material'
import type { ReactNode } from 'react'
import { newId, useDesign } from '../../app/session'
import { TaskBar, type useTask } from '../../app/tasks'
import { MmField } from '../../quantity'
import { printOf, type Laid } from './keep'

/** Label, value, what sets it, least and most [mm]. */
export type Length = readonly [string, number, (mm: number) => void, number, number]

interface Props {
  lengths: readonly Length[]
  /** further fields */
  children?: ReactNode
  laid: ReturnType<typeof useTask<Laid>>
  /** of the button, and while it goes on */
  words: readonly [string, string]
  /** of its bar, and of what it is so many of so many */
  told: readonly [string, string]
}

/** What a layout is asked for with, its button, how far it is, and whether the job was changed since. */
export function Ask({ lengths, children, laid, words, told }: Props) {
  const design = useDesign()
  const came = laid.came && (laid.came.sticks ?? laid.came.sheets)
  return (
    <>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-end', flexWrap: 'wrap', mb: 1 }}>
        {lengths.map(([label, value, set, min, max]) => (
          <Box key={label} sx={{ width: 262 }}>
            <MmField label={label} value={value} min={min} max={max} onChange={(mm) => mm !== null && set(mm)} />
          </Box>
        ))}
        {children}
        <Button
          variant="outlined"
          disabled={laid.going}
          onClick={() => laid.begin({ id: newId(), print: printOf(design) })}
        >
          {laid.going ? words[1] : words[0]}
        </Button>
        {laid.going && <Button onClick={laid.stop}>Stop</Button>}
      </Box>
      <TaskBar going={laid.going} task={laid.task} trouble={laid.trouble} label={told[0]} what={told[1]} />
      {came && laid.asked?.print !== printOf(design) && <Stale again={words[0]} />}
    </>
  )
}

/** That the job was changed since it was asked. */
export function Stale({ again }: { again: string }) {
  return (
    <Alert severity="info" variant="outlined" sx={{ mb: 1 }}>
      The job was changed since. {again} again.
    </Alert>
  )
}
