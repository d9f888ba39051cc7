import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  MenuItem,
  TextField,
  Typography,
} from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api, type Design } from '../../api'
import { newId, useSession } from '../../app/session'
import { useEnd, useStudy, useTemplates, useTravel } from '../../app/travel'
import { DrawingView, useEndDrawing } from '../../drawing'
import { LengthField, NumberField, useUnits } from '../../quantity'
import { Busy, Empty, PlusIcon, Problem, Section, Segmented, TextRow } from '../../ui'
import { SheetHead, StationLayout } from '../members'

import { PointsFile } from './PointsFile'

type SuspensionEnd = Design['ends'][number]

/** Station 2: a suspension end from a template, its points typed, its lengths following. */
export function LayoutStation() {
  const { design } = useSession()
  const { move } = useTravel()
  const end = useEnd()
  const [adding, setAdding] = useState(false)
  return (
    <>
      {end ? (
        <EndLayout key={end.id} end={end} onAdd={() => setAdding(true)} onChoose={(id) => move({ endId: id })} />
      ) : (
        <StationLayout
          sheet={
            <Empty title="No suspension end yet">
              <p>
                Start one from a template: its points stand where a sound example has them, and you move them to where
                your car has them.
              </p>
              <Button variant="contained" startIcon={<PlusIcon />} onClick={() => setAdding(true)}>
                New end
              </Button>
            </Empty>
          }
          panel={<Box />}
        />
      )}
      {adding && <NewEnd count={design.ends.length} onClose={() => setAdding(false)} />}
    </>
  )
}

function NewEnd({ count, onClose }: { count: number; onClose: () => void }) {
  const { session } = useSession()
  const { move } = useTravel()
  const templates = useTemplates()
  const [name, setName] = useState(count === 0 ? 'Front' : 'Rear')
  const [template, setTemplate] = useState('double-wishbone')
  const add = useMutation({
    mutationFn: async () => {
      const id = newId()
      const found = await answer(
        api.POST('/api/ends', { body: { design: session.state().design, id, name: name.trim(), template } }),
      )
      return { id, end: found.design.ends.at(-1)! }
    },
    onSuccess: ({ id, end }) => {
      session.edit('add an end', (now) => ({ ...now, ends: [...now.ends, end] }))
      move({ endId: id })
      onClose()
    },
  })
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs" aria-labelledby="new-end">
      <DialogTitle id="new-end">New suspension end</DialogTitle>
      <DialogContent>
        <TextRow label="Name" value={name} onChange={setName} />
        <TextField
          select
          fullWidth
          size="small"
          label="Kind"
          value={template}
          onChange={(event) => setTemplate(event.target.value)}
          sx={{ mt: 1.5 }}
        >
          {templates.data?.templates.map((one) => (
            <MenuItem key={one.name} value={one.name}>
              {one.title}
            </MenuItem>
          ))}
        </TextField>
        {add.error && <Problem error={add.error} />}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave it</Button>
        <Button variant="contained" disabled={!name.trim() || add.isPending} onClick={() => add.mutate()}>
          Add the end
        </Button>
      </DialogActions>
    </Dialog>
  )
}

function EndLayout({
  end,
  onAdd,
  onChoose,
}: {
  end: SuspensionEnd
  onAdd: () => void
  onChoose: (id: string) => void
}) {
  const { design, session } = useSession()
  const { unit } = useUnits()
  const templates = useTemplates()
  const drawn = useEndDrawing(design, end.id, { travel: 0, roll: 0, steer: 0 }, unit)
  const study = useStudy()
  const template = templates.data?.templates.find((one) => one.name === end.end.template)
  const edit = (label: string, change: (now: SuspensionEnd) => SuspensionEnd) =>
    session.edit(`${end.id} ${label}`, (now) => ({
      ...now,
      ends: now.ends.map((one) => (one.id === end.id ? change(one) : one)),
    }))
  const faults = study.data?.faults ?? []
  return (
    <StationLayout
      sheet={
        <>
          <SheetHead title={<Typography variant="h1">{end.name}</Typography>} note={template?.title.toLowerCase()}>
            {design.ends.length > 1 && (
              <Segmented
                label="Which end"
                value={end.id}
                onChange={onChoose}
                options={design.ends.map((one) => ({ value: one.id, label: one.name }))}
              />
            )}
            <Button variant="contained" size="small" startIcon={<PlusIcon />} onClick={onAdd}>
              New end
            </Button>
          </SheetHead>
          <Box sx={{ flex: 1, minHeight: 0, px: 2, pb: 1 }}>
            {drawn.error && <Problem error={drawn.error} retry={() => void drawn.refetch()} />}
            {drawn.isPending && <Busy what="Drawing the end" />}
            {drawn.data?.drawing && <DrawingView drawing={drawn.data.drawing} />}
            {drawn.data && !drawn.data.drawing && (
              <Empty title="This cannot be put together">
                {drawn.data.faults.map((fault, i) => (
                  <Box key={i} role="alert">
                    {fault.message}
                  </Box>
                ))}
              </Empty>
            )}
          </Box>
        </>
      }
      panel={
        <Box sx={{ p: 2.25, overflowY: 'auto' }}>
          <Fields
            end={end}
            edit={edit}
            points={template?.points ?? []}
            faults={new Map(faults.map((fault) => [fault.field, fault.message]))}
          />
          <Section title="Lengths, centre to centre" note="what is made after; both sides alike">
            {study.data?.lengths.map((row) => (
              <LengthLine key={row.name} {...row} />
            ))}
          </Section>
          <Button
            color="error"
            size="small"
            onClick={() =>
              session.edit('remove an end', (now) => ({ ...now, ends: now.ends.filter((one) => one.id !== end.id) }))
            }
          >
            Remove this end (undo brings it back)
          </Button>
        </Box>
      }
    />
  )
}

function LengthLine({ name, length_mm }: { name: string; length_mm: number }) {
  const { main, other } = useUnits()
  return (
    <Box sx={{ display: 'flex', gap: 1, py: 0.4, borderBottom: 1, borderColor: 'divider', alignItems: 'baseline' }}>
      <Typography variant="body2" sx={{ flex: 1 }}>
        {name}
      </Typography>
      <Typography variant="body2" sx={(theme) => ({ fontFamily: theme.tirante.mono, fontWeight: 700 })}>
        {main(length_mm)}
      </Typography>
      <Typography variant="caption" sx={{ color: 'text.secondary', width: 76, textAlign: 'right' }}>
        {other(length_mm)}
      </Typography>
    </Box>
  )
}

interface FieldsProps {
  end: SuspensionEnd
  edit: (label: string, change: (now: SuspensionEnd) => SuspensionEnd) => void
  points: { name: string; what: string; measure: string }[]
  faults: Map<string, string>
}

function Fields({ end, edit, points, faults }: FieldsProps) {
  const wheel = end.end.wheel
  const setWheel = (part: Partial<typeof wheel>) =>
    edit(`wheel ${Object.keys(part).join()}`, (now) => ({
      ...now,
      end: { ...now.end, wheel: { ...now.end.wheel, ...part } },
    }))
  const setBox = (part: Partial<typeof end.box>) =>
    edit(`box ${Object.keys(part).join()}`, (now) => ({ ...now, box: { ...now.box, ...part } }))
  const setPoint = (name: string, axis: number, mm: number) =>
    edit(`point ${name}${axis}`, (now) => ({
      ...now,
      end: {
        ...now.end,
        points: {
          ...now.end.points,
          [name]: (now.end.points[name] ?? [0, 0, 0]).map((old, i) => (i === axis ? mm : old)),
        },
      },
    }))
  const extra = Object.keys(end.end.points).filter((name) => !points.some((point) => point.name === name))
  return (
    <>
      <Section title="Name">
        <TextRow label="Name" value={end.name} onChange={(name) => edit('name', (now) => ({ ...now, name }))} />
      </Section>
      <Section title="Points" note="left side; x forward, y left, z up from the ground">
        {[...points, ...extra.map((name) => ({ name, what: name.replaceAll('_', ' '), measure: '' }))].map((point) => (
          <Box key={point.name} sx={{ mb: 0.5 }} data-point={point.name}>
            <Typography
              variant="body2"
              title={point.measure}
              sx={{ color: faults.has(`points.${point.name}`) ? 'error.main' : 'text.primary' }}
            >
              {point.what}
            </Typography>
            <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', columnGap: 1.5 }}>
              {['x', 'y', 'z'].map((axis, i) => (
                <LengthField
                  key={axis}
                  hideLabel
                  signed
                  label={`${point.what}, ${axis}`}
                  value={{ mm: end.end.points[point.name]?.[i] ?? 0, typed: null }}
                  onChange={(value) => value && setPoint(point.name, i, value.mm)}
                />
              ))}
            </Box>
            {faults.has(`points.${point.name}`) && (
              <Typography role="alert" variant="caption" sx={{ color: 'error.main' }}>
                {faults.get(`points.${point.name}`)}
              </Typography>
            )}
          </Box>
        ))}
        <PointsFile
          end={end}
          onRead={(read) =>
            edit('points file', (now) => ({ ...now, end: { ...now.end, points: { ...now.end.points, ...read } } }))
          }
        />
      </Section>
      <Section title="Wheel at ride height">
        <LengthField
          label="Loaded radius"
          value={{ mm: wheel.loaded_radius_mm, typed: null }}
          onChange={(value) => value && value.mm > 0 && setWheel({ loaded_radius_mm: value.mm })}
        />
        <LengthField
          label="Tyre width"
          value={{ mm: wheel.width_mm, typed: null }}
          onChange={(value) => value && value.mm > 0 && setWheel({ width_mm: value.mm })}
        />
        <NumberField
          label="Camber, top out +"
          unit="°"
          min={-30}
          max={30}
          value={wheel.camber_deg}
          onChange={(value) => value !== null && setWheel({ camber_deg: value })}
        />
        <NumberField
          label="Toe-in, a wheel"
          unit="°"
          min={-30}
          max={30}
          value={wheel.toe_deg}
          onChange={(value) => value !== null && setWheel({ toe_deg: value })}
        />
      </Section>
      <Section title="How far to move it">
        <NumberField
          label="Bump"
          unit="mm"
          min={1}
          max={600}
          value={end.box.bump_mm}
          onChange={(value) => value !== null && setBox({ bump_mm: value })}
        />
        <NumberField
          label="Droop"
          unit="mm"
          min={1}
          max={600}
          value={end.box.droop_mm}
          onChange={(value) => value !== null && setBox({ droop_mm: value })}
        />
        <NumberField
          label="Roll, each way"
          unit="°"
          min={0}
          max={15}
          value={end.box.roll_deg}
          onChange={(value) => value !== null && setBox({ roll_deg: value })}
        />
        <NumberField
          label="Rack, each way"
          unit="mm"
          min={0}
          max={200}
          value={end.box.steer_mm}
          onChange={(value) => value !== null && setBox({ steer_mm: value })}
        />
      </Section>
    </>
  )
}
