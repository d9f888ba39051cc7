import { Box, Typography } from '@mui/material'
import { useState } from 'react'
import { useParams } from 'react-router'
import { useLink, useDesign } from '../../app/session'
import { DrawingView, useDrawing } from '../../drawing'
import { useUnits } from '../../quantity'
import { Busy, Empty, Problem, Section } from '../../ui'
import { LinkList, SheetHead, StationLayout } from '../members'

/** Station 7: the rail jig of a link. */
export function JigsStation() {
  const { linkId } = useParams()
  const design = useDesign()
  const known = design.links.some((link) => link.id === linkId)
  if (known && linkId) return <JigView key={linkId} linkId={linkId} />
  return (
    <StationLayout
      sheet={
        <Empty title="Which link’s jig?">
          {design.links.length ? 'Choose a link on the right.' : 'There is no link yet. Add one at station 5.'}
        </Empty>
      }
      panel={
        <Box sx={{ p: 2.25, overflowY: 'auto' }}>
          <LinkList station="jigs" />
        </Box>
      }
    />
  )
}

function JigView({ linkId }: { linkId: string }) {
  const design = useDesign()
  const { link, result } = useLink(linkId)
  const { unit, main, other } = useUnits()
  const [picked, setPicked] = useState<string | null>(null)
  const drawn = useDrawing({ design, linkId, view: 'jig', unit })
  if (!link) return null
  const drawing = drawn.data?.drawing
  const jig = result?.jig
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
            note="jig: rail, two dummy bolts, stops"
          />
          <Box sx={{ flex: 1, minHeight: 0, px: 2 }}>
            {drawn.error && <Problem error={drawn.error} retry={() => void drawn.refetch()} />}
            {drawn.isPending && <Busy what="Drawing the jig" />}
            {drawing && <DrawingView drawing={drawing} selected={picked ? [picked] : []} onSelect={setPicked} />}
            {drawn.data && !drawing && <Empty title="No jig yet">{drawn.data.faults[0]?.message}</Empty>}
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
                      {step}
                    </Typography>
                  ))}
                </Box>
              </Section>
              <Section title="Welding">
                <Box component="ul" sx={{ pl: 2.5, m: 0, '& li': { mb: 0.75 } }}>
                  {result.welding_notes.map((note) => (
                    <Typography component="li" variant="body2" key={note}>
                      {note}
                    </Typography>
                  ))}
                </Box>
              </Section>
            </>
          ) : (
            <LinkList station="jigs" />
          )}
        </Box>
      }
    />
  )
}
