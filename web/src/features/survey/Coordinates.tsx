import { Box, Button, TextField, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api, type SurveyEntry, type TakenReading } from '../../api'
import { newId, useSessionPart } from '../../app/session'
import { NumberField, useUnits } from '../../quantity'
import { FileButton, Pick, Problem, TextRow } from '../../ui'
import { INSTRUMENTS } from './kinds'

const AXES: TakenReading['kind'][] = ['ahead', 'left', 'height']

/** Coordinates from a table or a CSV file: looked at row by row, then put down as an offset ahead, one to the left and a height each. */
export function Coordinates(props: {
  onTake: (entries: SurveyEntry[], done: () => void) => void
  busy: boolean
  error: unknown
}) {
  const jobId = useSessionPart((state) => state.jobId)
  const { unit, main } = useUnits()
  const [text, setText] = useState('')
  const [instrument, setInstrument] = useState<TakenReading['instrument']>('other')
  const [sd, setSd] = useState<number | null>(null)
  const [who, setWho] = useState('')
  const read = useMutation({
    mutationFn: (pasted: string) =>
      answer(
        api.POST('/api/jobs/{job_id}/survey/coordinates', {
          params: { path: { job_id: jobId } },
          body: { text: pasted, unit },
        }),
      ),
  })
  const rows = read.data?.rows ?? []
  const take = () =>
    props.onTake(
      rows.flatMap((row) =>
        AXES.map((kind, i) => ({
          sort: 'reading' as const, id: newId(), kind, of: [row.key], read: { mm: row.at[i] ?? 0, typed: null }, unit, deg: null, bar: null, swing: null,
          added: [], touched: [], instrument, sd, set_up: '', who, note: 'from a table of coordinates',
        })),
      ), // prettier-ignore
      () => {
        setText('')
        read.reset()
      },
    )
  return (
    <>
      <Typography variant="body2" sx={{ color: 'text.secondary', mb: 1 }}>
        A place a row: its name, then x ahead, y left, z up, by tabs, semicolons or commas; a heading such as “x (in)”
        says its unit, a bare number is in {unit === 'mm' ? 'millimetres' : 'inches'}.
      </Typography>
      <TextField
        multiline
        fullWidth
        size="small"
        minRows={3}
        maxRows={8}
        label="Table of coordinates"
        value={text}
        onChange={(event) => {
          setText(event.target.value)
          read.reset()
        }}
        slotProps={{ htmlInput: { maxLength: 60000, style: { whiteSpace: 'pre' } } }}
      />
      <Box sx={{ display: 'flex', gap: 1, my: 1 }}>
        <Button size="small" disabled={!text.trim() || read.isPending} onClick={() => read.mutate(text)}>
          Read it
        </Button>
        <FileButton
          label="A CSV file of coordinates"
          accept=".csv,.txt,text/csv"
          onFile={(file) =>
            void file.text().then((content) => {
              setText(content)
              read.mutate(content)
            })
          }
        >
          From a CSV file
        </FileButton>
      </Box>
      {read.error && <Problem error={read.error} />}
      {rows.length > 0 && (
        <>
          <Box
            component="table"
            aria-label="Coordinates as they are read"
            sx={{ width: '100%', fontSize: 13.5, mb: 1 }}
          >
            <tbody>
              {rows.map((row) => (
                <tr key={row.key}>
                  <td>{row.name}</td>
                  {row.at.map((value, i) => (
                    <Box component="td" key={i} sx={{ textAlign: 'right' }}>
                      {main(value)}
                    </Box>
                  ))}
                </tr>
              ))}
            </tbody>
          </Box>
          <Pick
            label="With"
            value={instrument}
            options={INSTRUMENTS.map((one) => ({ value: one, label: one }))}
            onChange={(value) => setInstrument(value as TakenReading['instrument'])}
          />
          <NumberField
            label="Sure to ±"
            value={sd}
            unit="mm"
            min={0.001}
            max={1000}
            optional
            placeholder="usual"
            onChange={setSd}
          />
          <TextRow label="Who" value={who} optional onChange={setWho} maxLength={200} />
          {Boolean(props.error) && <Problem error={props.error} />}
          <Button variant="contained" size="small" disabled={props.busy} onClick={take}>
            Put down {3 * rows.length} readings
          </Button>
        </>
      )}
    </>
  )
}
