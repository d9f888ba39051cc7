import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from '@mui/material'
import type { Settings } from '../../api'
import { useDesign, useTheSession } from '../../app/session'
import { FieldRows, useForms, withValue } from '../../fields'
import { LengthField } from '../../quantity'
import { Section, Segmented, TextRow } from '../../ui'

const NO_PROBLEMS = new Map<string, string>()

/** The job's name, and how this shop works: units, thread, factors, welding. */
export function SettingsDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const session = useTheSession()
  const design = useDesign()
  const { settings } = design
  const set = (part: Partial<Settings>) =>
    session.edit(`settings ${Object.keys(part).join()}`, (now) => ({ ...now, settings: { ...now.settings, ...part } }))
  const forms = useForms()
  const rows = (form: string) => (
    <FieldRows
      whole={settings}
      fields={forms?.rows(form) ?? []}
      problems={NO_PROBLEMS}
      onChange={(path, value) =>
        session.edit(`settings ${path}`, (now) => ({ ...now, settings: withValue(now.settings, path, value) }))
      }
    />
  )
  return (
    <Dialog open={open} onClose={onClose} fullWidth maxWidth="md" aria-labelledby="settings-title">
      <DialogTitle id="settings-title">Job and shop</DialogTitle>
      <DialogContent>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', columnGap: 5 }}>
          <Box>
            <Section title="Job">
              <TextRow
                label="Name"
                value={design.name}
                onChange={(name) => session.edit('job name', (now) => ({ ...now, name }))}
              />
              <TextRow
                label="Note"
                multiline
                maxLength={2000}
                value={design.note}
                onChange={(note) => session.edit('job note', (now) => ({ ...now, note }))}
              />
            </Section>
            <Section title="Lengths" note="the other system is shown beside, always">
              <Segmented
                label="Units of the job"
                fullWidth
                value={settings.units}
                onChange={(units) => set({ units })}
                options={[
                  { value: 'mm', label: 'millimetres' },
                  { value: 'in', label: 'inches' },
                ]}
              />
              <Box sx={{ height: 8 }} />
              <Segmented
                label="Decimals of a millimetre"
                fullWidth
                value={String(settings.decimals)}
                onChange={(text) => set({ decimals: Number(text) })}
                options={['0', '1', '2'].map((value) => ({
                  value,
                  label: value === '1' ? '1 decimal' : `${value} decimals`,
                }))}
              />
              <Box sx={{ height: 8 }} />
              <Segmented
                label="Fraction of an inch"
                fullWidth
                value={String(settings.inch_denominator)}
                onChange={(text) => set({ inch_denominator: Number(text) as 16 | 32 | 64 })}
                options={['16', '32', '64'].map((value) => ({ value, label: `1/${value} in` }))}
              />
              <Box sx={{ height: 8 }} />
              <Segmented
                label="Paper of the sheets"
                fullWidth
                value={settings.paper}
                onChange={(paper) => set({ paper })}
                options={[
                  { value: 'A4', label: 'A4' },
                  { value: 'Letter', label: 'Letter' },
                ]}
              />
            </Section>
            <Section title="Thread" note="of links that do not say otherwise">
              <Segmented
                label="Thread showing"
                fullWidth
                value={settings.school}
                onChange={(school) =>
                  set({
                    school,
                    showing: school === 'exposure' ? (settings.showing ?? forms?.begins('showing') ?? null) : null,
                  })
                }
                options={[
                  { value: 'centred', label: 'centred' },
                  { value: 'buried', label: 'buried' },
                  { value: 'exposure', label: 'fixed' },
                ]}
              />
              {settings.school === 'exposure' && (
                <LengthField
                  label="Showing at each end"
                  value={settings.showing}
                  onChange={(showing) => showing && set({ showing })}
                />
              )}
              <Box sx={{ height: 8 }} />
              <Segmented
                label="Left-hand thread of new links"
                fullWidth
                value={settings.left_hand_end}
                onChange={(left_hand_end) => set({ left_hand_end })}
                options={[
                  { value: 'a', label: 'left-hand at A' },
                  { value: 'b', label: 'left-hand at B' },
                ]}
              />
            </Section>
          </Box>
          <Box>
            <Section title="Design factors" note="on the load, before each check; common practice, no source">
              {rows('factors')}
            </Section>
            <Section title="Welding and the jig">{rows('welding')}</Section>
            <Typography variant="caption" sx={{ color: 'text.secondary' }}>
              Weld quality is assumed sound, not checked. Lower a factor only with a reason you could give a reviewer.
            </Typography>
          </Box>
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  )
}
