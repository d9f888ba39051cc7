import { Box, Typography } from '@mui/material'
import { useState } from 'react'
import { useParams } from 'react-router'
import { useDesign, usePart, usePartsOf } from '../../app/session'
import { DrawingView, useDrawing } from '../../drawing'
import { Told, useUnits } from '../../quantity'
import { Busy, Empty, Problem, Section, SheetHead, StationLayout } from '../../ui'
import { PartList } from '../parts'

/** Station 7: how a member is held while it is welded. */
export function JigsStation() {
  const { partId } = useParams()
  const members = usePartsOf('members')
  if (partId && members.some((part) => part.id === partId)) return <JigView key={partId} partId={partId} />
  return (
    <StationLayout
      sheet={
        <Empty title="Which member’s jig?">
          {members.length ? 'Choose a member on the right.' : 'There is no member yet. Add one at station 5.'}
        </Empty>
      }
      panel={
        <Box sx={{ p: 2.25, overflowY: 'auto' }}>
          <PartList of="members" station="jigs" />
        </Box>
      }
    />
  )
}

function JigView({ partId }: { partId: string }) {
  const design = useDesign()
  const { part, result } = usePart(partId)
  const { unit, main, other, told } = useUnits()
  const [picked, setPicked] = useState<string | null>(null)
  const jig = result?.jig
  const drawn = useDrawing({ design, partId, view: jig?.view, unit })
  if (!part) return null
  const drawing = drawn.data?.drawing
  return (
    <StationLayout
      sheet={
        <>
          <SheetHead
            title={
              <Typography variant="h1" noWrap sx={{ maxWidth: 360 }}>
                {part.name}
              </Typography>
            }
            note="jig: rail, two dummy bolts, stops"
          />
          <Box sx={{ flex: 1, minHeight: 0, px: 2 }}>
            {drawn.error && <Problem error={drawn.error} retry={() => void drawn.refetch()} />}
            {(!result || (jig && drawn.isPending)) && <Busy what="Drawing the jig" />}
            {drawing && jig && <DrawingView drawing={drawing} selected={picked ? [picked] : []} onSelect={setPicked} />}
            {result && !jig && (
              <Empty title="No jig here">
                {result.complete
                  ? `No jig is drawn for this kind of part (${result.word}) yet. Hold it by its joints’ centres, as its drawing gives them.`
                  : told(result.headline)}
              </Empty>
            )}
          </Box>
        </>
      }
      panel={
        <Box sx={{ p: 2.25, overflowY: 'auto' }}>
          {jig ? (
            <>
              <Section title="Check before and after welding">
                <Typography
                  sx={(theme) => ({
                    fontFamily: theme.tirante.mono,
                    fontSize: 24,
                    fontWeight: 700,
                    color: 'primary.main',
                  })}
                >
                  {main(jig.check_length_mm)}
                </Typography>
                <Typography variant="body2" sx={{ color: 'text.secondary' }}>
                  ± {main(jig.tolerance_mm)} pin to pin, cold · {other(jig.check_length_mm)}
                </Typography>
                {jig.set_length_mm !== jig.check_length_mm && (
                  <Typography variant="body2">
                    Set the dummy bolts at {main(jig.set_length_mm)}: the welds draw it in.
                  </Typography>
                )}
              </Section>
              <Section title="Order of the work">
                <Box component="ol" sx={{ pl: 2.5, m: 0, '& li': { mb: 1 } }}>
                  {jig.steps.map((step) => (
                    <Typography component="li" variant="body2" key={step}>
                      <Told>{step}</Told>
                    </Typography>
                  ))}
                </Box>
              </Section>
              <Section title="Welding">
                <Box component="ul" sx={{ pl: 2.5, m: 0, '& li': { mb: 0.75 } }}>
                  {result?.welding.map((note) => (
                    <Typography component="li" variant="body2" key={note}>
                      <Told>{note}</Told>
                    </Typography>
                  ))}
                </Box>
              </Section>
            </>
          ) : (
            <PartList of="members" station="jigs" />
          )}
        </Box>
      }
    />
  )
}
