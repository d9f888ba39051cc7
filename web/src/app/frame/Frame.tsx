import { Box } from '@mui/material'
import { useState, type ReactNode } from 'react'
import { SkipLink } from './SkipLink'
import { Conflict } from './Conflict'
import { Find } from './Find'
import { FollowEnd } from './FollowEnd'
import { Header } from './Header'
import { KeysHelp } from './KeysHelp'
import { SaveNotice } from './SaveNotice'
import { StationRail } from './StationRail'
import { Guide, useProgress } from '../guide'
import { useSessionPart } from '../session'
import { TravelStrip } from '../travel'
import { useKeys } from './useKeys'

/** The frame of every station: head, the nine stations, the sheet with its panel, the foot. */
export function Frame({ children }: { children: ReactNode }) {
  const [finding, setFinding] = useState(false)
  const [helping, setHelping] = useState(false)
  const jobId = useSessionPart((state) => state.jobId)
  const [progress, onProgress] = useProgress(jobId)
  return (
    <Box
      sx={{
        height: '100vh',
        display: 'grid',
        gridTemplateRows: '48px minmax(0, 1fr) 64px',
        gridTemplateColumns: '80px minmax(0, 1fr)',
        bgcolor: 'background.default',
      }}
    >
      <SkipLink />
      <FollowEnd />
      <Keys find={() => setFinding(true)} help={() => setHelping(true)} />
      <Header onFind={() => setFinding(true)} onHelp={() => setHelping(true)} />
      <StationRail />
      <Box
        component="main"
        id="sheet"
        tabIndex={-1}
        sx={{
          minWidth: 0,
          minHeight: 0,
          position: 'relative',
          outline: 'none',
          display: 'grid',
          gridTemplateRows: 'auto auto minmax(0, 1fr)',
          gridTemplateColumns: 'minmax(0, 1fr)',
        }}
      >
        <Box>
          <SaveNotice />
        </Box>
        <Box>
          <Guide progress={progress} onProgress={onProgress} />
        </Box>
        <Box sx={{ minHeight: 0, position: 'relative' }}>{children}</Box>
      </Box>
      <Box
        component="footer"
        sx={{
          gridColumn: '1 / -1',
          borderTop: 1,
          borderColor: 'divider',
          display: 'flex',
          alignItems: 'center',
          px: 2.5,
        }}
      >
        <TravelStrip />
      </Box>
      <Conflict />
      <Find open={finding} onClose={() => setFinding(false)} />
      <KeysHelp
        open={helping}
        onClose={() => setHelping(false)}
        onLead={() => {
          onProgress({ at: progress.at, state: 'led' })
          setHelping(false)
        }}
      />
    </Box>
  )
}

/** The keys, by themselves: what they need to know of the job changes with every edit, the frame does not. */
function Keys(props: { find: () => void; help: () => void }) {
  useKeys(props)
  return null
}
