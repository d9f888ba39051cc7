import { Box, Button, Checkbox, FormControlLabel, Tab, Tabs, Typography } from '@mui/material'
import { useState } from 'react'
import { useNavigate, useParams, useSearchParams } from 'react-router'
import type { Link, TabPair } from '../../api'
import { useLink, useDesign } from '../../app/session'
import { DrawingView, useDrawing } from '../../drawing'
import { LengthField, MmField, NumberField, useUnits } from '../../quantity'
import { Busy, Choice, Empty, Problem, Section, Segmented, TextRow } from '../../ui'
import { ChecksPanel, LinkList, SheetHead, StationLayout, fieldOf, refsOf, useParts } from '../members'

/** Station 6: the double-shear tab pair of a link. */
export function BracketsStation() {
  const { linkId } = useParams()
  const design = useDesign()
  const known = design.links.some((link) => link.id === linkId)
  if (known && linkId) return <TabView key={linkId} linkId={linkId} />
  return (
    <StationLayout
      sheet={
        <Empty title="Which link’s tab pair?">
          {design.links.length ? 'Choose a link on the right.' : 'There is no link yet. Add one at station 5.'}
        </Empty>
      }
      panel={
        <Box sx={{ p: 2.25, overflowY: 'auto' }}>
          <LinkList station="brackets" />
        </Box>
      }
    />
  )
}

function TabView({ linkId }: { linkId: string }) {
  const design = useDesign()
  const { link, result } = useLink(linkId)
  const { unit } = useUnits()
  const [search, setSearch] = useSearchParams()
  const [panel, setPanel] = useState<'hold' | 'set'>('set')
  const selection = search.get('show')
  const drawn = useDrawing({ design, linkId, view: 'tab', unit })
  if (!link) return null
  const show = (ref: string | null) => setSearch(ref ? { show: ref } : {}, { replace: true })
  const drawing = link.tab ? drawn.data?.drawing : null
  return (
    <StationLayout
      sheet={
        <>
          <SheetHead
            title={
              <Typography variant="h1" noWrap sx={{ maxWidth: 360 }}>
                {link.name}
              </Typography>
            }
            note="tab pair, double shear"
          />
          <Box sx={{ flex: 1, minHeight: 0, px: 2 }}>
            {!link.tab && <NoTab link={link} />}
            {link.tab && drawn.error && <Problem error={drawn.error} retry={() => void drawn.refetch()} />}
            {link.tab && drawn.isPending && <Busy what="Drawing the tab" />}
            {drawing && (
              <DrawingView
                drawing={drawing}
                selected={refsOf(selection, result?.checks ?? [])}
                onSelect={(ref) => {
                  show(ref)
                  setPanel(ref.startsWith('check:') ? 'hold' : 'set')
                }}
              />
            )}
            {link.tab && drawn.data && !drawing && (
              <Empty title="It cannot be drawn yet">
                {drawn.data.faults.map((fault, i) => (
                  <Box key={i} role="alert">
                    {fault.message}
                  </Box>
                ))}
              </Empty>
            )}
          </Box>
          {result?.tab && result.tab.warnings.length > 0 && (
            <Box sx={{ px: 3, pb: 1.5, color: 'warning.main', fontSize: 13.5 }} role="status">
              {result.tab.warnings.map((warning) => (
                <Box key={warning}>▲ {warning}</Box>
              ))}
            </Box>
          )}
        </>
      }
      panel={
        <>
          <Tabs
            value={panel}
            onChange={(_, value: 'hold' | 'set') => setPanel(value)}
            variant="fullWidth"
            sx={{
              minHeight: 42,
              borderBottom: 1,
              borderColor: 'divider',
              '& .MuiTab-root': { minHeight: 42, textTransform: 'none' },
            }}
          >
            <Tab value="set" label="What it is" />
            <Tab value="hold" label="Will it hold?" />
          </Tabs>
          <Box sx={{ flex: 1, overflowY: 'auto', p: 2.25 }} role="tabpanel">
            {panel === 'hold' && (
              <ChecksPanel linkId={linkId} parts={['tab', 'bolt']} selection={selection} onSelect={show} />
            )}
            {panel === 'set' && link.tab && (
              <TabFields link={link} tab={link.tab} selected={selection ? fieldOf(selection) : null} />
            )}
            {panel === 'set' && !link.tab && <LinkList station="brackets" />}
          </Box>
        </>
      }
    />
  )
}

function NoTab({ link }: { link: Link }) {
  const parts = useParts(link)
  return (
    <Empty title="No tab pair yet">
      <p>Two plates that hold the joint between them, proportioned to the bolt that goes through its ball.</p>
      <Button variant="contained" onClick={parts.addTab}>
        Add a tab pair
      </Button>
      {parts.error && (
        <Box sx={{ mt: 2 }}>
          <Problem error={parts.error} />
        </Box>
      )}
    </Empty>
  )
}

function TabFields({ link, tab, selected }: { link: Link; tab: TabPair; selected: string | null }) {
  const { edit, problems, result } = useLink(link.id)
  const { main } = useUnits()
  const parts = useParts(link)
  const go = useNavigate()
  const set = (label: string, part: Partial<TabPair>) =>
    edit(`tab ${label}`, (now) => (now.tab ? { ...now, tab: { ...now.tab, ...part } } : now))
  const length = (field: 'plate' | 'hole' | 'head_radius' | 'edge' | 'base_width' | 'height', label: string) => (
    <Box
      data-field={`tab.${field}`}
      sx={{ bgcolor: selected === `tab.${field}` ? (theme) => theme.tirante.select : undefined }}
    >
      <LengthField
        label={label}
        value={tab[field]}
        onChange={(value) => value && set(field, { [field]: value })}
        problem={problems.get(`tab.${field}`)}
      />
    </Box>
  )
  const saddle = tab.base.kind === 'saddle' ? tab.base : null
  return (
    <>
      <Section title="Where">
        <Segmented
          label="At which end"
          fullWidth
          value={tab.ends}
          onChange={(ends) => set('ends', { ends })}
          options={[
            { value: 'a', label: 'end A' },
            { value: 'b', label: 'end B' },
            { value: 'both', label: 'both' },
          ]}
        />
        {problems.get('tab.ends') && (
          <Typography role="alert" variant="caption" sx={{ color: 'error.main' }}>
            {problems.get('tab.ends')}
          </Typography>
        )}
        <Box sx={{ mt: 1 }}>
          <Segmented
            label="It stands on"
            fullWidth
            value={tab.base.kind}
            onChange={(kind) =>
              set('base', {
                base:
                  kind === 'flat'
                    ? { kind: 'flat', wall_mm: tab.base.wall_mm }
                    : {
                        kind: 'saddle',
                        tube_od: { mm: 76.2, typed: '3 in' },
                        angle_deg: 90,
                        wall_mm: tab.base.wall_mm,
                      },
              })
            }
            options={[
              { value: 'flat', label: 'a flat' },
              { value: 'saddle', label: 'a round tube' },
            ]}
          />
        </Box>
        {saddle && (
          <Box sx={{ mt: 1 }}>
            <LengthField
              label="Tube outside"
              value={saddle.tube_od}
              onChange={(value) => value && set('base od', { base: { ...saddle, tube_od: value } })}
              problem={problems.get('tab.base.tube_od')}
            />
            <NumberField
              label="Plate to tube axis"
              unit="°"
              min={-180}
              max={180}
              value={saddle.angle_deg}
              onChange={(angle) => angle !== null && set('base angle', { base: { ...saddle, angle_deg: angle } })}
              problem={problems.get('tab.base.angle_deg')}
            />
          </Box>
        )}
        <MmField
          label="Wall it is welded to"
          min={0}
          optional
          placeholder="not known"
          value={tab.base.wall_mm}
          onChange={(wall) => set('wall', { base: { ...tab.base, wall_mm: wall } })}
        />
      </Section>
      <Section title="Plate">
        {length('plate', 'Thickness')}
        {length('hole', 'Hole')}
        {length('head_radius', 'Head radius')}
        {length('edge', 'Hole to free end')}
        {length('base_width', 'Foot width')}
        {length('height', 'Foot to hole')}
        <TextRow label="Grade" value={tab.grade_name} onChange={(grade_name) => set('grade', { grade_name })} />
        <NumberField
          label="Yield"
          unit="MPa"
          min={1}
          max={5000}
          value={tab.yield_mpa}
          onChange={(value) => value !== null && set('yield', { yield_mpa: value })}
          problem={problems.get('tab.yield_mpa')}
        />
        <NumberField
          label="Ultimate"
          unit="MPa"
          min={1}
          max={5000}
          value={tab.uts_mpa}
          onChange={(value) => value !== null && set('ultimate', { uts_mpa: value })}
          problem={problems.get('tab.uts_mpa')}
        />
      </Section>
      <Section
        title="Bolt"
        note={result?.tab ? `gap ${main(result.tab.gap_mm)}, grip ${main(result.tab.grip_mm)}` : undefined}
      >
        {parts.error && <Problem error={parts.error} />}
        <Choice
          label="Spacer"
          clearable
          value={tab.spacer}
          options={parts.options('tab.spacer', 'spacers', tab.spacer)}
          onChange={(key) => parts.choose('tab.spacer', key)}
          problem={problems.get('tab.spacer')}
        />
        <Choice
          label="Bolt"
          value={tab.bolt}
          options={parts.options('tab.bolt', 'bolts', tab.bolt)}
          onChange={(key) => parts.choose('tab.bolt', key)}
          problem={problems.get('tab.bolt')}
        />
        <MmField
          label="Shim each side"
          min={0}
          max={100}
          value={tab.shim_mm}
          onChange={(value) => value !== null && set('shim', { shim_mm: value })}
        />
        <FormControlLabel
          control={
            <Checkbox
              size="small"
              checked={tab.thread_in_plane}
              onChange={(event) => set('thread', { thread_in_plane: event.target.checked })}
            />
          }
          label="the bolt’s thread stands in the shear plane"
        />
      </Section>
      <Section title="Load and weld">
        <NumberField
          label="Pull from the tab’s axis"
          unit="°"
          min={-180}
          max={180}
          value={tab.load_angle_deg}
          onChange={(value) => value !== null && set('angle', { load_angle_deg: value })}
        />
        <MmField
          label="Fillet leg, both faces"
          min={0.5}
          max={50}
          value={tab.weld_leg_mm}
          onChange={(value) => value !== null && set('leg', { weld_leg_mm: value })}
          problem={problems.get('tab.weld_leg_mm')}
        />
      </Section>
      <Button
        color="error"
        size="small"
        onClick={() => {
          edit('remove the tab pair', (now) => ({ ...now, tab: null }))
          void go('.', { replace: true })
        }}
      >
        Remove the tab pair (undo brings it back)
      </Button>
    </>
  )
}
