import { Box, Button, Dialog, DialogContent, IconButton, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { useState, type MouseEvent } from 'react'
import { answer, api, type LengthValue, type PictureOut, type SurveyEntry, type SurveyOut } from '../../api'
import { newId, useSessionPart } from '../../app/session'
import { LengthField, useUnits } from '../../quantity'
import { Choice, Problem, Segmented, TextRow } from '../../ui'
import { TakePicture, addressOf, usePictures } from '../pictures'

interface Props {
  survey: SurveyOut
  onTake: (entries: SurveyEntry[], done: () => void) => void
  busy: boolean
}

/** Photographs of flat things, kept with the job; each is opened to be measured in. */
export function Photographs({ survey, onTake, busy }: Props) {
  const jobId = useSessionPart((state) => state.jobId)
  const { pictures, add } = usePictures(jobId)
  const [open, setOpen] = useState<PictureOut | null>(null)
  const own = pictures.filter((one) => one.sort === 'survey')
  return (
    <>
      <Typography variant="body2" sx={{ color: 'text.secondary', mb: 1 }}>
        Of something flat, with a rectangle of known sides in its plane: a square, a sheet of paper, four scribed marks.
        It is made smaller, and what a camera writes into it (place, time) is not kept.
      </Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1 }}>
        {own.map((one, i) => (
          <Box
            key={one.id}
            component="button"
            onClick={() => setOpen(one)}
            aria-label={`Measure in photograph ${i + 1}`}
            sx={{ all: 'unset', cursor: 'pointer', '&:focus-visible': { outline: 2 } }}
          >
            <Box
              component="img"
              loading="lazy"
              alt=""
              src={addressOf(jobId, one)}
              sx={{ width: 120, height: 90, objectFit: 'cover', display: 'block', border: 1, borderColor: 'divider' }}
            />
          </Box>
        ))}
      </Box>
      <TakePicture
        label="Add a photograph"
        busy={add.isPending}
        onFile={(file) =>
          add.mutate({ file, of: { sort: 'survey' } }, { onSuccess: (after) => setOpen(after.pictures.at(-1) ?? null) })
        }
      />
      {add.error && <Problem error={add.error} />}
      {open && (
        <MeasureIn
          picture={open}
          jobId={jobId}
          survey={survey}
          onTake={onTake}
          busy={busy}
          onClose={() => setOpen(null)}
        />
      )}
    </>
  )
}

type Dot = [number, number]

/** One photograph: marks, places, and what lies between them. */
function MeasureIn({
  picture,
  jobId,
  survey,
  onTake,
  busy,
  onClose,
}: Props & { picture: PictureOut; jobId: string; onClose: () => void }) {
  const { main, finely } = useUnits()
  const [known, setKnown] = useState<'rectangle' | 'ruler'>('rectangle')
  const [zoom, setZoom] = useState(1)
  const [marks, setMarks] = useState<Dot[]>([])
  const [sides, setSides] = useState<(LengthValue | null)[]>([null, null])
  const [places, setPlaces] = useState<Record<string, Dot>>({})
  const [key, setKey] = useState<string | null>(null)
  const [off, setOff] = useState<LengthValue | null>(null)
  const [camera, setCamera] = useState<LengthValue | null>(null)
  const [who, setWho] = useState('')
  const [coarse, setCoarse] = useState(0) // px of the picture to one of the screen, where it was clicked coarsest
  const [taken, setTaken] = useState<string[]>([])
  const names = new Map(survey.places.map((one) => [one.key, one.name]))
  const needs = known === 'rectangle' ? 4 : 2
  const [first, second] = sides
  const measure = useMutation({
    mutationFn: () => {
      const long = first?.mm ?? 0
      return answer(
        api.POST('/api/survey/photograph', {
          body: {
            size_px: [picture.wide, picture.high], marks_px: marks, sides_mm: [long, known === 'ruler' ? long : (second?.mm ?? 0)], places_px: places,
            ...(off && { off_plane_mm: off.mm }), ...(camera && { camera_mm: camera.mm }), click_px: Math.max(1, coarse),
          } as never,
        }),
      )
    }, // prettier-ignore
  })
  const fresh = measure.data && !measure.isPending ? measure.data : null
  const click = (event: MouseEvent<HTMLDivElement>) => {
    const box = event.currentTarget.getBoundingClientRect()
    const dot: Dot = [
      Math.round(((event.clientX - box.left) / box.width) * picture.wide * 10) / 10,
      Math.round(((event.clientY - box.top) / box.height) * picture.high * 10) / 10,
    ]
    measure.reset()
    setCoarse(Math.max(coarse, picture.wide / box.width))
    if (marks.length < needs) setMarks([...marks, dot])
    else if (key) setPlaces({ ...places, [key]: dot })
  }
  const lacks =
    marks.length < needs
      ? `click mark ${marks.length + 1} of ${needs}${known === 'rectangle' ? ', one after the other round the rectangle' : ''}`
      : !first || (known === 'rectangle' && !second)
        ? 'say how long its sides are'
        : Object.keys(places).length < 2
          ? key
            ? `click ${names.get(key) ?? 'it'}`
            : 'choose a place, then click it'
          : null
  const scale = Math.max(0.05, Math.min(1, 780 / picture.wide, 640 / picture.high)) * zoom
  const chosen = fresh?.distances.filter((one) => taken.includes(one.of.join(' '))) ?? []
  return (
    <Dialog
      open
      onClose={onClose}
      maxWidth={false}
      fullWidth
      aria-labelledby="photograph-title"
      slotProps={{ paper: { sx: { height: '94vh' } } }}
    >
      <DialogContent sx={{ display: 'flex', gap: 2, p: 2, minHeight: 0, flexDirection: { xs: 'column', md: 'row' } }}>
        <Box
          sx={{ flex: 1, minWidth: 0, minHeight: 240, overflow: 'auto', bgcolor: 'background.default' }}
          tabIndex={0}
          role="region"
          aria-label="The photograph"
        >
          <Box
            onClick={click}
            role="presentation"
            data-picture
            sx={{
              position: 'relative',
              width: picture.wide * scale,
              height: picture.high * scale,
              cursor: 'crosshair',
            }}
          >
            <Box
              component="img"
              alt="Photograph to be measured in"
              src={addressOf(jobId, picture)}
              sx={{ width: '100%', height: '100%', display: 'block' }}
            />
            <Box
              component="svg"
              viewBox={`0 0 ${picture.wide} ${picture.high}`}
              sx={{ position: 'absolute', inset: 0, width: '100%', height: '100%', pointerEvents: 'none' }}
            >
              {marks.length === 4 && (
                <polygon
                  points={marks.map((one) => one.join(',')).join(' ')}
                  fill="none"
                  stroke="#1f4e9a"
                  strokeWidth={2 / scale}
                />
              )}
              {marks.map((one, i) => (
                <Cross key={i} at={one} scale={scale} colour="#1f4e9a" text={`${i + 1}`} />
              ))}
              {Object.entries(places).map(([name, at]) => (
                <Cross key={name} at={at} scale={scale} colour="#8a4b00" text={names.get(name) ?? ''} />
              ))}
            </Box>
          </Box>
        </Box>
        <Box sx={{ width: { xs: '100%', md: 320 }, overflowY: 'auto' }}>
          <Box sx={{ display: 'flex', alignItems: 'baseline' }}>
            <Typography id="photograph-title" variant="h2" component="h2" sx={{ flex: 1 }}>
              Measure in a photograph
            </Typography>
            <IconButton aria-label="Close" onClick={onClose}>
              ×
            </IconButton>
          </Box>
          <Segmented
            label="What is known in it"
            value={known}
            options={[
              { value: 'rectangle', label: 'a rectangle' },
              { value: 'ruler', label: 'a ruler alone' },
            ]}
            onChange={(value) => {
              setKnown(value)
              setMarks([])
              measure.reset()
            }}
          />
          <Box sx={{ height: 8 }} />
          <Segmented
            label="Size of the picture"
            value={String(zoom)}
            options={['1', '2', '4'].map((one) => ({ value: one, label: `${one}×` }))}
            onChange={(value) => setZoom(Number(value))}
          />
          <Typography role="status" sx={{ fontWeight: 700, my: 1 }}>
            {lacks ? `Now: ${lacks}.` : 'Ready to be measured.'}
          </Typography>
          {known === 'ruler' && (
            <Typography variant="body2" sx={{ color: 'warning.main' }}>
              A ruler gives scale alone: a camera that is not square to it is not taken out.
            </Typography>
          )}
          <LengthField
            label={known === 'ruler' ? 'Between its marks' : 'From mark 1 to 2'}
            value={first ?? null}
            optional
            onChange={(value) => setSides([value, second ?? null])}
          />
          {known === 'rectangle' && (
            <LengthField
              label="From mark 2 to 3"
              value={second ?? null}
              optional
              onChange={(value) => setSides([first ?? null, value])}
            />
          )}
          <Choice
            label="Place"
            value={key}
            options={survey.places.map((one) => ({ key: one.key, label: one.name }))}
            empty="No such place. Other places are marks."
            onChange={setKey}
          />
          <LengthField
            label="Stands off its plane by up to"
            value={off}
            optional
            placeholder="flat"
            onChange={setOff}
          />
          <LengthField label="Camera over it" value={camera} optional placeholder="1000 mm" onChange={setCamera} />
          <Box sx={{ display: 'flex', gap: 1, my: 1 }}>
            <Button
              variant="contained"
              size="small"
              disabled={lacks !== null || measure.isPending}
              onClick={() => measure.mutate()}
            >
              Measure
            </Button>
            <Button
              size="small"
              disabled={marks.length === 0}
              onClick={() => {
                measure.reset()
                const last = Object.keys(places).at(-1)
                if (last) setPlaces(Object.fromEntries(Object.entries(places).filter(([name]) => name !== last)))
                else setMarks(marks.slice(0, -1))
              }}
            >
              Last click back
            </Button>
          </Box>
          {measure.error && <Problem error={measure.error} />}
          {fresh && (
            <>
              <Box component="ul" aria-label="Distances in the photograph" sx={{ listStyle: 'none', p: 0, m: 0 }}>
                {fresh.distances.map((one) => {
                  const pair = one.of.join(' ')
                  return (
                    <Box component="li" key={pair} sx={{ py: 0.25 }}>
                      <label>
                        <input
                          type="checkbox"
                          checked={taken.includes(pair)}
                          onChange={() =>
                            setTaken(taken.includes(pair) ? taken.filter((other) => other !== pair) : [...taken, pair])
                          }
                        />{' '}
                        <b>{main(one.mm)}</b> ± {finely(one.sd)}: {one.of.map((name) => names.get(name)).join(' → ')}
                      </label>
                    </Box>
                  )
                })}
              </Box>
              {fresh.said.map((one) => (
                <Typography key={one} variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
                  {one}
                </Typography>
              ))}
              <TextRow label="Who" value={who} optional onChange={setWho} maxLength={200} />
              <Button
                variant="contained"
                size="small"
                disabled={busy || chosen.length === 0}
                onClick={() =>
                  onTake(
                    chosen.map((one) => ({
                      sort: 'reading' as const, id: newId(), kind: 'distance' as const, of: [...one.of], read: { mm: Math.round(one.mm * 100) / 100, typed: null }, unit: 'mm' as const,
                      deg: null, bar: null, swing: null, added: [], touched: [], instrument: 'other' as const, sd: Math.max(0.01, Math.round(one.sd * 100) / 100),
                      set_up: `photograph ${picture.id.slice(-6)}`, who, note: `measured in a photograph, ${fresh.perspective ? 'perspective taken out' : 'by a ruler alone'}`,
                    })), // prettier-ignore
                    onClose,
                  )
                }
              >
                Put down as {chosen.length === 1 ? 'a reading' : `${chosen.length} readings`}
              </Button>
            </>
          )}
        </Box>
      </DialogContent>
    </Dialog>
  )
}

function Cross({ at: [x, y], scale, colour, text }: { at: Dot; scale: number; colour: string; text: string }) {
  const arm = 9 / scale
  return (
    <g stroke={colour} strokeWidth={1.6 / scale} fill="none">
      <path d={`M${x - arm} ${y}H${x + arm}M${x} ${y - arm}V${y + arm}`} />
      <text
        x={x + arm}
        y={y - arm / 2}
        fill={colour}
        stroke="#fff"
        strokeWidth={3 / scale}
        paintOrder="stroke"
        fontSize={13 / scale}
      >
        {text}
      </text>
    </g>
  )
}
