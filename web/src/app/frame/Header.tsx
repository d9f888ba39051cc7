import { Box, Button, IconButton, Tooltip, Typography } from '@mui/material'
import { memo, useState } from 'react'
import { Link as RouterLink, useLocation, useParams } from 'react-router'
import { ChangesDialog, HistoryDialog, useChanges, useMade } from '../../features/history'
import { SettingsDialog } from '../../features/settings'
import { useUnits } from '../../quantity'
import { GaugeIcon, MoonIcon, RedoIcon, Segmented, SunIcon, UndoIcon } from '../../ui'
import { useMode } from '../mode'
import { STATIONS } from '../stations'
import { type SaveState, useSessionPart, useTheSession } from '../session'
import { Holds } from './Holds'

const SAVING: Record<SaveState['kind'], string> = {
  saved: 'saved',
  unsaved: 'saving soon',
  saving: 'saving',
  away: 'kept here, server away',
  refused: 'not saved, see the mark',
  conflict: 'two versions',
}

/** Job, part, revision and saving on the left; find, holds, units on the right. */
export const Header = memo(function Header({ onFind, onHelp }: { onFind: () => void; onHelp: () => void }) {
  const name = useSessionPart((state) => state.design.name)
  const basedOn = useSessionPart((state) => state.basedOn)
  const { partId, jobId } = useParams()
  const { pathname } = useLocation()
  const here = STATIONS.find((one) => one.path === pathname.split('/')[3])
  const partName = useSessionPart((state) => state.design.parts.find((one) => one.id === partId)?.name)
  const { unit, toggle } = useUnits()
  const { mode, toggle: toggleMode } = useMode()
  const [history, setHistory] = useState(false)
  const [settings, setSettings] = useState(false)
  return (
    <Box
      component="header"
      sx={{
        gridColumn: '1 / -1',
        display: 'flex',
        alignItems: 'center',
        gap: 2,
        px: 2.25,
        borderBottom: 1,
        borderColor: 'divider',
        minWidth: 0,
      }}
    >
      <Typography
        component={RouterLink}
        to="/"
        variant="h2"
        noWrap
        title="All jobs"
        sx={{ color: 'text.primary', textDecoration: 'none', maxWidth: 240, '&:hover': { color: 'primary.main' } }}
      >
        {name}
      </Typography>
      {partName && here && (
        <Typography noWrap sx={{ maxWidth: 360 }}>
          <Box
            component={RouterLink}
            to={`/jobs/${jobId}/${here.path}`}
            sx={{ color: 'text.secondary', '&:hover': { color: 'primary.main' } }}
          >
            {here.name}
          </Box>{' '}
          › {partName}
        </Typography>
      )}
      <Button
        size="small"
        color="inherit"
        onClick={() => setHistory(true)}
        sx={{ color: 'text.secondary', fontWeight: 400 }}
        aria-haspopup="dialog"
      >
        {basedOn === null ? 'no revision yet' : `rev ${basedOn}`}
      </Button>
      <Saving />
      <Changed />
      <Box sx={{ flex: 1 }} />
      <Steps />
      <Button size="small" color="inherit" onClick={onFind} sx={{ color: 'text.secondary', fontWeight: 400 }}>
        / find
      </Button>
      <Holds />
      <Segmented
        label="Units"
        value={unit}
        options={[
          { value: 'mm', label: 'mm' },
          { value: 'in', label: 'in' },
        ]}
        onChange={(chosen) => chosen !== unit && toggle()}
      />
      <IconButton size="small" onClick={() => setSettings(true)} aria-label="Job and shop settings">
        <GaugeIcon />
      </IconButton>
      <IconButton size="small" onClick={toggleMode} aria-label={mode === 'light' ? 'Dark, for a dim shop' : 'Light'}>
        {mode === 'light' ? <MoonIcon /> : <SunIcon />}
      </IconButton>
      <IconButton size="small" onClick={onHelp} aria-label="Keys and words">
        <Typography component="span" variant="body2">
          ?
        </Typography>
      </IconButton>
      {settings && <SettingsDialog open onClose={() => setSettings(false)} />}
      {history && <HistoryDialog open onClose={() => setHistory(false)} />}
    </Box>
  )
})

/** That the job is not what was issued any more, and what that means for what was made. */
function Changed() {
  const [open, setOpen] = useState(false)
  const { data } = useChanges()
  const made = useMade().data?.parts.filter((one) => one.askew).length ?? 0
  if (!data?.since || (data.since.current && data.otherwise.length === 0 && made === 0)) return null
  const many = data.parts.length
  return (
    <>
      <Button
        size="small"
        color="inherit"
        aria-haspopup="dialog"
        onClick={() => setOpen(true)}
        sx={{ color: many > 0 ? 'warning.main' : 'text.secondary', fontWeight: 400, whiteSpace: 'nowrap', minWidth: 0 }}
      >
        {many === 1 ? '1 part' : many === 0 ? 'no part' : `${many} parts`} changed since rev {data.since.number}
        {made > 0 && `, ${made} made ${made === 1 ? 'does' : 'do'} not fit as ${made === 1 ? 'it is' : 'they are'}`}
      </Button>
      {open && <ChangesDialog onClose={() => setOpen(false)} />}
    </>
  )
}

function Saving() {
  const saving = useSessionPart((state) => state.save.kind)
  const trouble = saving === 'away' || saving === 'refused' || saving === 'conflict'
  return (
    <Typography
      variant="body2"
      role="status"
      noWrap
      sx={{ color: trouble ? 'warning.main' : 'text.secondary' }}
      data-testid="save-state"
    >
      {SAVING[saving]}
    </Typography>
  )
}

function Steps() {
  const session = useTheSession()
  const canUndo = useSessionPart((state) => state.canUndo)
  const canRedo = useSessionPart((state) => state.canRedo)
  return (
    <>
      <Tooltip title="Undo (Ctrl Z)">
        <span>
          <IconButton size="small" aria-label="Undo" disabled={!canUndo} onClick={session.undo}>
            <UndoIcon />
          </IconButton>
        </span>
      </Tooltip>
      <Tooltip title="Redo (Ctrl Shift Z)">
        <span>
          <IconButton size="small" aria-label="Redo" disabled={!canRedo} onClick={session.redo}>
            <RedoIcon />
          </IconButton>
        </span>
      </Tooltip>
    </>
  )
}
