import { Box, Button, Checkbox, FormControlLabel, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { answer, api, type Link } from '../../api'
import { useLink } from '../../app/session'
import { LengthField, MmField, NumberField } from '../../quantity'
import { Problem, Section, Segmented, TextRow } from '../../ui'
import { BetweenFields } from './BetweenFields'
import { CaseFields } from './CaseFields'
import { EndFields } from './EndFields'
import { SCHOOLS } from './schools'
import { fieldOf } from './selection'
import { BoxedFields, SpliceFields } from './SpliceBox'
import { useParts } from './useParts'
import { Choice } from '../../ui'

interface Props {
  linkId: string
  selection: string | null
  onRemoved: () => void
}

/** What the link is: its pivots, what it sees, its parts, its thread, its welds. */
export function SetPanel({ linkId, selection, onRemoved }: Props) {
  const { link } = useLink(linkId)
  const panel = useRef<HTMLDivElement>(null)
  const field = selection ? fieldOf(selection) : null
  useEffect(() => {
    if (!field) return
    const parts = field.split('.')
    const place = [field, parts[0]].map((name) => panel.current?.querySelector(`[data-field="${name}"]`)).find(Boolean)
    place?.scrollIntoView({ block: 'start' })
    const target =
      place?.querySelector<HTMLElement>('input:not([type=checkbox])') ?? place?.querySelector<HTMLElement>('button')
    target?.focus({ preventScroll: true })
  }, [field])
  if (!link) return null
  return (
    <Box ref={panel}>
      <Fields link={link} onRemoved={onRemoved} />
    </Box>
  )
}

function Fields({ link, onRemoved }: { link: Link; onRemoved: () => void }) {
  const { session, edit, problems } = useLink(link.id)
  return (
    <>
      <Section title="Name and side">
        <TextRow
          label="Name"
          value={link.name}
          onChange={(name) => edit('name', (now) => ({ ...now, name }))}
          problem={problems.get('name')}
        />
        <Segmented
          label="Side"
          fullWidth
          value={link.side}
          onChange={(side) => edit('side', (now) => ({ ...now, side }))}
          options={(['pair', 'left', 'right', 'centre'] as const).map((value) => ({ value, label: value }))}
        />
      </Section>
      <Box data-field="between">
        <BetweenFields link={link} />
      </Box>
      <Box data-field="cases">
        <CaseFields link={link} />
      </Box>
      {!link.boxed && <TubeFields link={link} />}
      {!link.boxed && (
        <Box data-field="splice">
          <SpliceFields link={link} />
        </Box>
      )}
      <Box data-field="boxed">
        <BoxedFields link={link} />
      </Box>
      {!link.boxed && <Bought link={link} />}
      <Section title="Note">
        <TextRow
          label="Note"
          multiline
          maxLength={2000}
          value={link.note}
          onChange={(note) => edit('note', (now) => ({ ...now, note }))}
          problem={problems.get('note')}
        />
      </Section>
      <Button
        color="error"
        size="small"
        onClick={() => {
          session.edit('remove a link', (now) => ({ ...now, links: now.links.filter((one) => one.id !== link.id) }))
          onRemoved()
        }}
      >
        Remove this link (undo brings it back)
      </Button>
    </>
  )
}

/** What a link of tube is made of: tube, ends, thread, welds, straightness. */
function TubeFields({ link }: { link: Link }) {
  const { edit, problems, design } = useLink(link.id)
  const parts = useParts(link)
  const school = link.school ?? design.settings.school
  const trade = SCHOOLS.find((one) => one.key === school)?.trade
  const weld = (change: Partial<Link['welding']>) =>
    edit('welding', (now) => ({ ...now, welding: { ...now.welding, ...change } }))
  return (
    <>
      {parts.error && <Problem error={parts.error} />}
      <Section title="Tube" note="only what fits together is offered; what follows changes with it">
        <Box data-field="tube">
          <Choice
            label="Size"
            value={link.tube}
            options={parts.options('tube', 'tubes', link.tube)}
            onChange={(key) => parts.choose('tube', key)}
            problem={problems.get('tube')}
          />
        </Box>
        <Box data-field="grade">
          <Choice
            label="Grade"
            value={link.grade}
            options={parts.options('grade', 'grades', link.grade)}
            onChange={(key) => parts.choose('grade', key)}
            problem={problems.get('grade')}
            empty="Choose the tube first."
          />
        </Box>
      </Section>
      <Box data-field="ends">
        <EndFields link={link} parts={parts} />
      </Box>
      <Box data-field="school">
        <Section title="Thread showing" note={trade}>
          <Segmented
            label="Thread showing"
            fullWidth
            value={school}
            onChange={(value) =>
              edit('school', (now) => ({
                ...now,
                school: value,
                showing: value === 'exposure' ? (now.showing ?? { mm: 5, typed: null }) : null,
              }))
            }
            options={SCHOOLS.map((one) => ({ value: one.key, label: one.label }))}
          />
          {school !== 'centred' && (
            <Box sx={{ mt: 1 }}>
              <LengthField
                label={school === 'buried' ? 'Showing (two pitches if empty)' : 'Showing at each end'}
                optional={school === 'buried'}
                value={link.showing}
                onChange={(showing) => edit('showing', (now) => ({ ...now, school, showing }))}
                problem={problems.get('showing')}
              />
            </Box>
          )}
          <Engagement linkId={link.id} />
        </Section>
      </Box>
      <Box data-field="welding">
        <Section title="Insert welds" note="ring at the tube’s end, and plug welds through its wall">
          <MmField
            label="Fillet leg"
            min={0}
            max={50}
            value={link.welding.leg_mm}
            onChange={(leg) => leg !== null && weld({ leg_mm: leg })}
            problem={problems.get('welding.leg_mm')}
          />
          <MmField
            label="Plug weld diameter"
            min={0}
            max={100}
            value={link.welding.plug_mm}
            onChange={(plug) => plug !== null && weld({ plug_mm: plug })}
            problem={problems.get('welding.plug_mm')}
          />
          <NumberField
            label="Plug welds an end"
            unit=""
            min={0}
            max={8}
            value={link.welding.plugs}
            onChange={(plugs) => plugs !== null && weld({ plugs: Math.round(plugs) })}
            problem={problems.get('welding.plugs')}
          />
          <NumberField
            label="of them in one cross-section"
            unit=""
            min={0}
            max={8}
            value={link.welding.plugs_in_section}
            onChange={(n) => n !== null && weld({ plugs_in_section: Math.round(n) })}
            problem={problems.get('welding.plugs_in_section')}
          />
        </Section>
      </Box>
      <Section title="Straightness and clocking">
        <MmField
          label="Crookedness (length/1000 if empty)"
          min={0}
          optional
          value={link.bow_mm}
          onChange={(bow) => edit('bow', (now) => ({ ...now, bow_mm: bow }))}
          problem={problems.get('bow_mm')}
        />
        <NumberField
          label="Bolt of B turned against A"
          unit="°"
          min={-180}
          max={180}
          value={link.clocking_deg}
          onChange={(angle) => angle !== null && edit('clocking', (now) => ({ ...now, clocking_deg: angle }))}
          problem={problems.get('clocking_deg')}
        />
        <FormControlLabel
          control={
            <Checkbox
              size="small"
              checked={link.mid_welded}
              onChange={(event) => edit('mid-welded', (now) => ({ ...now, mid_welded: event.target.checked }))}
            />
          }
          label="something is welded on along the span"
        />
        <FormControlLabel
          control={
            <Checkbox
              size="small"
              checked={link.bent !== null}
              onChange={(event) => {
                const bent = event.target.checked ? { offset: { mm: 20, typed: null }, from_ends: null } : null
                edit('bent', (now) => ({ ...now, bent }))
              }}
            />
          }
          label="bent round something"
        />
        {link.bent && (
          <>
            <LengthField
              label="Off the line by"
              min={0.1}
              value={link.bent.offset}
              onChange={(offset) =>
                offset && edit('bent offset', (now) => ({ ...now, bent: { ...now.bent!, offset } }))
              }
              problem={problems.get('bent.offset')}
            />
            <LengthField
              label="Bends from either pivot (one in the middle if empty)"
              optional
              value={link.bent.from_ends}
              onChange={(from) => edit('bends', (now) => ({ ...now, bent: { ...now.bent!, from_ends: from } }))}
              problem={problems.get('bent.from_ends')}
            />
            <BendToClear link={link} />
          </>
        )}
      </Section>
    </>
  )
}

/** The offset that the clearance found in Cycle asks for. */
function BendToClear({ link }: { link: Link }) {
  const { session, edit } = useLink(link.id)
  const found = useMutation({
    mutationFn: () =>
      answer(api.POST('/api/study/bend', { body: { design: session.state().design, link_id: link.id } })),
    onSuccess: ({ offset_mm }) =>
      offset_mm !== null &&
      edit('bent offset', (now) => ({
        ...now,
        bent: now.bent && { ...now.bent, offset: { mm: offset_mm, typed: null } },
      })),
  })
  return (
    <>
      <Button size="small" onClick={() => found.mutate()} disabled={found.isPending}>
        Take the offset from the clearance in Cycle
      </Button>
      {found.error && <Problem error={found.error} />}
      {found.data && (
        <Typography variant="caption" component="p" role="status" sx={{ mt: 0 }}>
          {found.data.says}
        </Typography>
      )}
    </>
  )
}

/** The four rules of least engagement, beside each other. */
function Engagement({ linkId }: { linkId: string }) {
  const { result } = useLink(linkId)
  const ends = result?.stack?.ends.filter((end) => end.one_diameter_mm !== null) ?? []
  const end = ends[0]
  if (!end || end.engagement_mm === null) return null
  const rows: [string, number | null][] = [
    ['1 × diameter (trade)', end.one_diameter_mm],
    ['what the load needs against strip', end.for_load_mm],
    ['shank breaks first (FED-STD-H28)', end.shank_breaks_first_mm],
    ['two thirds of the thread (kits)', end.two_thirds_of_thread_mm],
  ]
  return (
    <Box
      component="table"
      sx={{ width: '100%', fontSize: 12.5, mt: 1, borderCollapse: 'collapse', '& td': { py: 0.25 } }}
    >
      <tbody>
        {rows.map(([name, least]) => (
          <tr key={name}>
            <td>{name}</td>
            <Box component="td" sx={(theme) => ({ fontFamily: theme.tirante.mono, textAlign: 'right' })}>
              {least?.toFixed(1)}
            </Box>
            <Box component="td" sx={{ textAlign: 'right', color: 'text.secondary', width: 56 }}>
              {least !== null && end.engagement_mm! >= least - 1e-9 ? 'met' : 'not met'}
            </Box>
          </tr>
        ))}
        <tr>
          <td>
            <b>in the insert, as built</b>
          </td>
          <Box component="td" sx={(theme) => ({ fontFamily: theme.tirante.mono, textAlign: 'right', fontWeight: 700 })}>
            {end.engagement_mm.toFixed(1)}
          </Box>
          <Box component="td" sx={{ textAlign: 'right', color: 'text.secondary' }}>
            mm
          </Box>
        </tr>
      </tbody>
    </Box>
  )
}

function Bought({ link }: { link: Link }) {
  const { edit, result, problems } = useLink(link.id)
  const bought = link.bought
  return (
    <Box data-field="bought">
      <Section title="Bought link">
        <FormControlLabel
          control={
            <Checkbox
              size="small"
              checked={bought !== null}
              onChange={(event) =>
                edit('bought', (now) => ({
                  ...now,
                  bought: event.target.checked
                    ? { tube_length: { mm: Math.max(10, result?.stack?.tube_cut_mm ?? 500), typed: null }, keep: 'a' }
                    : null,
                }))
              }
            />
          }
          label="it is a bought link, to be shortened"
        />
        {bought && (
          <>
            <LengthField
              label="Its tube as bought"
              value={bought.tube_length}
              onChange={(length) =>
                length &&
                edit('bought length', (now) => ({
                  ...now,
                  bought: now.bought && { ...now.bought, tube_length: length },
                }))
              }
              problem={problems.get('bought.tube_length')}
            />
            <Segmented
              label="The end that stays"
              fullWidth
              value={bought.keep}
              onChange={(keep) => edit('keep', (now) => ({ ...now, bought: now.bought && { ...now.bought, keep } }))}
              options={[
                { value: 'a', label: 'end A stays' },
                { value: 'b', label: 'end B stays' },
              ]}
            />
            <Box
              sx={{ mt: 1, fontSize: 13.5, color: result?.bought?.possible === false ? 'error.main' : 'text.primary' }}
              role="status"
            >
              {result?.bought?.instruction}
            </Box>
          </>
        )}
      </Section>
    </Box>
  )
}
