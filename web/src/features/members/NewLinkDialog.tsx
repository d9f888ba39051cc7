import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { answer, api, type LengthValue, type Link } from '../../api'
import { newId, useKinds, usePartsOf, useSessionPart, useTheSession } from '../../app/session'
import { LengthField } from '../../quantity'
import { Problem, Segmented, TextRow } from '../../ui'

type Way = 'pivots' | 'length' | 'bought'
type TypedPoint = (LengthValue | null)[]

const POINT: TypedPoint = [null, null, null]
const AXES = ['x forward', 'y left', 'z up']

type Measured = 'tube' | 'centres'
const lengthOf = (measured: Measured, length: LengthValue) => ({
  tube_length: measured === 'tube' ? length : null,
  centres: measured === 'centres' ? length : null,
})

/** A link from two pivots, from a length, or a bought one to be shortened. */
export function NewLinkDialog({ onClose }: { onClose: () => void }) {
  const session = useTheSession()
  const members = usePartsOf('members')
  const jobId = useSessionPart((state) => state.jobId)
  const go = useNavigate()
  const [way, setWay] = useState<Way>('pivots')
  const [name, setName] = useState(`Link ${members.length + 1}`)
  const kinds = useKinds()?.filter((one) => one.stands_between) ?? []
  const [kind, setKind] = useState('link')
  const [side, setSide] = useState<Link['side']>('pair')
  const [points, setPoints] = useState<[TypedPoint, TypedPoint]>([POINT, POINT])
  const [length, setLength] = useState<LengthValue | null>(null)
  const [bought, setBought] = useState<LengthValue | null>(null)
  const [measured, setMeasured] = useState<Measured>('tube')
  const complete =
    way === 'pivots' ? points.flat().every(Boolean) : length !== null && (way === 'length' || bought !== null)
  const add = useMutation({
    mutationFn: async () => {
      const id = newId()
      const triple = (point: TypedPoint) => point as [LengthValue, LengthValue, LengthValue]
      const between: Link['between'] =
        way === 'pivots'
          ? { kind: 'pivots', a: triple(points[0]), b: triple(points[1]) }
          : { kind: 'length', length: length! }
      const found = await answer(
        api.POST('/api/links', {
          body: { design: session.state().design, id, name: name.trim(), side, between, kind },
        }),
      )
      return { id, found }
    },
    onSuccess: ({ id, found }) => {
      const parts = found.parts.map((part) =>
        way === 'bought' && bought && part.kind === 'link'
          ? { ...part, bought: { measured, ...lengthOf(measured, bought), keep: 'a' as const, with_joints: true } }
          : part,
      )
      session.patch('add a link', { ...found, parts })
      onClose()
      void go(`/jobs/${jobId}/members/${id}?panel=set`)
    },
  })
  const setCoordinate = (which: 0 | 1, axis: number, value: LengthValue | null) =>
    setPoints(
      (now) =>
        now.map((point, i) => (i === which ? point.map((c, j) => (j === axis ? value : c)) : point)) as [
          TypedPoint,
          TypedPoint,
        ],
    )
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs" aria-labelledby="new-link">
      <DialogTitle id="new-link">New link</DialogTitle>
      <DialogContent>
        <TextRow label="Name" value={name} onChange={setName} />
        <Box sx={{ my: 1.5 }}>
          <Segmented
            label="Side"
            fullWidth
            value={side}
            onChange={setSide}
            options={[
              { value: 'pair', label: 'pair' },
              { value: 'left', label: 'left' },
              { value: 'right', label: 'right' },
              { value: 'centre', label: 'centre' },
            ]}
          />
        </Box>
        <Box sx={{ mb: 1.5 }}>
          <Segmented
            label="What is made"
            fullWidth
            value={kind}
            onChange={setKind}
            options={kinds.map((one) => ({ value: one.key, label: one.word }))}
          />
        </Box>
        <Box sx={{ mb: 2 }}>
          <Segmented
            label="How its length is known"
            fullWidth
            value={way}
            onChange={setWay}
            options={[
              { value: 'pivots', label: 'two pivots' },
              { value: 'length', label: 'its length' },
              { value: 'bought', label: 'bought' },
            ]}
          />
        </Box>
        {way === 'pivots' &&
          ([0, 1] as const).map((which) => (
            <Box key={which} sx={{ mb: 1 }}>
              <Typography variant="h3">Pivot {'AB'[which]}</Typography>
              <Box sx={{ position: 'relative', display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 2 }}>
                {AXES.map((axis, i) => (
                  <Box key={axis}>
                    <Typography variant="caption" sx={{ color: 'text.secondary' }}>
                      {axis}
                    </Typography>
                    <LengthField
                      hideLabel
                      signed
                      label={`Pivot ${'AB'[which]}, ${axis}`}
                      value={points[which][i] ?? null}
                      onChange={(value) => setCoordinate(which, i, value)}
                    />
                  </Box>
                ))}
              </Box>
            </Box>
          ))}
        {way !== 'pivots' && <LengthField label="Pivot to pivot" value={length} onChange={setLength} />}
        {way === 'bought' && (
          <>
            <Segmented
              label="What was measured of the bought one"
              fullWidth
              value={measured}
              onChange={setMeasured}
              options={[
                { value: 'tube', label: 'its bare tube' },
                { value: 'centres', label: 'pin to pin' },
              ]}
            />
            <LengthField
              label={measured === 'tube' ? 'Its tube as bought, end to end' : 'Pin to pin as bought'}
              value={bought}
              onChange={setBought}
            />
            <Typography variant="caption" sx={{ color: 'text.secondary' }}>
              One end stays as it came; the other is cut off and fitted anew.
              {measured === 'centres' && ' Measure it with as much thread showing as this link is to show.'}
            </Typography>
          </>
        )}
        {way === 'pivots' && (
          <Typography variant="caption" sx={{ color: 'text.secondary' }}>
            In the car’s axes, on its left side: x forward, y left, z up from the ground. A pair is mirrored to the
            right.
          </Typography>
        )}
        {add.error && (
          <Box sx={{ mt: 1 }}>
            <Problem error={add.error} />
          </Box>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave it</Button>
        <Button variant="contained" disabled={!complete || !name.trim() || add.isPending} onClick={() => add.mutate()}>
          Add the link
        </Button>
      </DialogActions>
    </Dialog>
  )
}
