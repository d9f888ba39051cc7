import { Checkbox, FormControlLabel, Typography } from '@mui/material'
import type { Link } from '../../api'
import { useLink } from '../../app/session'
import { LengthField, MmField, NumberField } from '../../quantity'
import { Section, Segmented } from '../../ui'

type Splice = NonNullable<Link['splice']>
type Boxed = NonNullable<Link['boxed']>
const mm = (value: number) => ({ mm: value, typed: null })

/** Two lengths of tube joined by a sleeve. */
export function SpliceFields({ link }: { link: Link }) {
  const { edit, problems, result } = useLink(link.id)
  const { splice } = link
  const made = (): Splice => ({
    at: mm(Math.round((result?.length_mm ?? 600) / 3)),
    sleeve: 'inside',
    length: mm(120),
    wall_mm: 4,
    plugs: 2,
    plugs_in_section: 1,
    plug_mm: 9.5,
    leg_mm: 4,
  })
  const change = (part: Partial<Splice>) =>
    edit(`splice ${Object.keys(part).join()}`, (now) => ({ ...now, splice: { ...now.splice!, ...part } }))
  return (
    <Section title="Splice">
      <FormControlLabel
        control={
          <Checkbox
            size="small"
            checked={splice !== null}
            onChange={(event) => {
              const next = event.target.checked ? made() : null
              edit('splice', (now) => ({ ...now, splice: next }))
            }}
          />
        }
        label="two lengths of tube joined by a sleeve"
      />
      {splice && (
        <>
          <LengthField
            label="Joined, from pivot A"
            value={splice.at}
            problem={problems.get('splice.at')}
            onChange={(at) => at && change({ at })}
          />
          <Segmented
            label="Sleeve"
            fullWidth
            value={splice.sleeve}
            onChange={(sleeve) => change({ sleeve })}
            options={[
              { value: 'inside', label: 'inside the tube' },
              { value: 'outside', label: 'outside it' },
            ]}
          />
          <LengthField label="Sleeve, long" value={splice.length} onChange={(length) => length && change({ length })} />
          <MmField
            label="Sleeve’s wall"
            min={0.1}
            value={splice.wall_mm}
            problem={problems.get('splice.wall_mm')}
            onChange={(wall) => wall !== null && change({ wall_mm: wall })}
          />
          <NumberField
            label="Plug welds on either side"
            unit=""
            min={0}
            max={8}
            value={splice.plugs}
            onChange={(plugs) => plugs !== null && change({ plugs: Math.round(plugs) })}
          />
          <MmField
            label="Plug weld diameter"
            min={0}
            value={splice.plug_mm}
            onChange={(plug) => plug !== null && change({ plug_mm: plug })}
          />
          <MmField
            label="Ring’s leg"
            min={0}
            value={splice.leg_mm}
            onChange={(leg) => leg !== null && change({ leg_mm: leg })}
          />
        </>
      )}
    </Section>
  )
}

const PLATES = [
  ['side_mm', 'Side plates'],
  ['top_mm', 'Top plate'],
  ['bottom_mm', 'Bottom plate'],
  ['leg_mm', 'Seams’ leg'],
] as const

/** A link of four plates with a pad along its top. */
export function BoxedFields({ link }: { link: Link }) {
  const { edit, problems, result } = useLink(link.id)
  const { boxed } = link
  const made = (): Boxed => ({
    height: mm(70),
    width: mm(60),
    side_mm: 5,
    top_mm: 6,
    bottom_mm: 5,
    pad_at: mm(Math.round((result?.length_mm ?? 600) / 2)),
    pad_offset_mm: 0,
    leg_mm: 4,
    plate_name: 'S355 plate',
    yield_mpa: 355,
    uts_mpa: 470,
  })
  const change = (part: Partial<Boxed>) =>
    edit(`boxed ${Object.keys(part).join()}`, (now) => ({ ...now, boxed: { ...now.boxed!, ...part } }))
  return (
    <Section title="Boxed of plates" note="for a bump stop that lands on the link: sides, top, bottom and a pad">
      <FormControlLabel
        control={
          <Checkbox
            size="small"
            checked={boxed !== null}
            onChange={(event) => {
              const next = event.target.checked ? made() : null
              edit('boxed', (now) => ({ ...now, boxed: next, bent: null, splice: null, bought: null }))
            }}
          />
        }
        label="it is boxed of four plates, not a tube"
      />
      {boxed && (
        <>
          <Typography variant="caption" component="p" sx={{ color: 'text.secondary', mt: 0 }}>
            What strikes it pushes square on its pad: type the stop’s force as the strike of a case.
          </Typography>
          <LengthField
            label="High, outside"
            value={boxed.height}
            problem={problems.get('boxed.height')}
            onChange={(height) => height && change({ height })}
          />
          <LengthField
            label="Wide, outside"
            value={boxed.width}
            problem={problems.get('boxed.width')}
            onChange={(width) => width && change({ width })}
          />
          {PLATES.map(([field, label]) => (
            <MmField
              key={field}
              label={label}
              min={0.1}
              value={boxed[field]}
              problem={problems.get(`boxed.${field}`)}
              onChange={(found) => found !== null && change({ [field]: found })}
            />
          ))}
          <LengthField
            label="Pad, from pivot A"
            value={boxed.pad_at}
            problem={problems.get('boxed.pad_at')}
            onChange={(pad_at) => pad_at && change({ pad_at })}
          />
          <MmField
            label="Pad off the middle"
            signed
            value={boxed.pad_offset_mm}
            min={-200}
            max={200}
            onChange={(off) => off !== null && change({ pad_offset_mm: off })}
          />
          <NumberField
            label="Plate’s yield"
            unit="MPa"
            min={50}
            max={3000}
            value={boxed.yield_mpa}
            onChange={(found) => found !== null && change({ yield_mpa: found })}
          />
        </>
      )}
    </Section>
  )
}
