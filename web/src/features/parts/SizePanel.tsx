import { Box, Button, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { answer, api, type SizedOut } from '../../api'
import { useKinds, usePart, useTheSession } from '../../app/session'
import { Busy, Problem } from '../../ui'
import { OnlyTubes } from './OnlyTubes'

/** The catalogue searched for the lightest parts that pass every check; the runner-up beside it. */
export function SizePanel({ partId, onUsed }: { partId: string; onUsed: () => void }) {
  const session = useTheSession()
  const { part, result } = usePart(partId)
  const kind = useKinds()?.find((one) => one.key === part?.kind)
  const size = useMutation({
    mutationFn: () => answer(api.POST('/api/size', { body: { design: session.state().design, part_id: partId } })),
  })
  const use = (sized: SizedOut) => {
    session.patch('size', sized.patch)
    onUsed()
  }
  const cases = result?.own && 'cases' in result.own ? result.own.cases : null
  const loaded = cases === null || cases.some((one) => one.axial_n || one.strike_n || one.side_n)
  return (
    <>
      <Typography variant="body2" sx={{ mb: 1.5 }}>
        {kind?.searches} The lightest that passes wins.
      </Typography>
      {kind?.of_tubes && <OnlyTubes />}
      <Button variant="contained" fullWidth disabled={size.isPending || !loaded} onClick={() => size.mutate()}>
        Size it
      </Button>
      {!loaded && (
        <Typography variant="caption" component="p" sx={{ color: 'warning.main' }}>
          No load is entered. Say what it sees under “What it is” first.
        </Typography>
      )}
      {size.isPending && <Busy what="Searching the catalogue" />}
      {size.error && (
        <Box sx={{ mt: 2 }}>
          <Problem error={size.error} />
        </Box>
      )}
      {size.data && (
        <Box sx={{ mt: 2 }}>
          {size.data.winner && <Proposal title="Lightest that holds" sized={size.data.winner} onUse={use} primary />}
          {size.data.runner_up && <Proposal title="Runner-up" sized={size.data.runner_up} onUse={use} />}
          {size.data.nearest && <Proposal title="Nearest, does not hold" sized={size.data.nearest} onUse={use} />}
          <Typography variant="body2" data-testid="advice">
            {size.data.advice}
          </Typography>
          <Typography variant="caption" sx={{ color: 'text.secondary' }}>
            {size.data.considered} sets fit together; searched in order of mass.
          </Typography>
        </Box>
      )}
    </>
  )
}

function Proposal({
  title,
  sized,
  onUse,
  primary,
}: {
  title: string
  sized: SizedOut
  onUse: (sized: SizedOut) => void
  primary?: boolean
}) {
  return (
    <Box
      sx={{
        border: 1,
        borderColor: primary ? 'primary.main' : 'divider',
        p: 1.5,
        mb: 1.5,
        bgcolor: 'background.paper',
      }}
    >
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline' }}>
        <Typography variant="h3">{title}</Typography>
        <Typography sx={(theme) => ({ fontFamily: theme.tirante.mono })}>{sized.mass_kg.toFixed(2)} kg</Typography>
      </Box>
      <Typography variant="body2">{sized.tube}</Typography>
      <Typography variant="body2">{sized.grade}</Typography>
      {sized.joint && <Typography variant="body2">{sized.joint}</Typography>}
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
        weakest: {sized.worst}
        {sized.worst_case && ` in ${sized.worst_case}`}
      </Typography>
      <Button size="small" variant={primary ? 'contained' : 'outlined'} sx={{ mt: 1 }} onClick={() => onUse(sized)}>
        Use these parts
      </Button>
    </Box>
  )
}
