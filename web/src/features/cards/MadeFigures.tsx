import { Typography } from '@mui/material'
import type { MadePartOut } from '../../api'
import { useUnits } from '../../quantity'

/** Of a part as it was made: what comes off, what thread is then left, what it could be made anew from. */
export function MadeFigures({ one }: { one: MadePartOut }) {
  const { main } = useUnits()
  return (
    <>
      {one.off.map((off) => (
        <Typography key={off.piece} variant="body2">
          {off.piece || 'its tube'}: {main(off.off_mm)} come off
        </Typography>
      ))}
      {one.ends.length > 0 && (
        <Typography variant="body2" sx={{ color: 'text.secondary' }}>
          {one.ends
            .map(
              (end) =>
                `end ${end.end}: ${main(end.showing_mm)} of thread show, ${main(end.engaged_mm)} engaged of ${main(end.needed_mm)} needed`,
            )
            .join('; ')}
        </Typography>
      )}
      {one.sources.map((from) => (
        <Typography key={from.piece} variant="body2" sx={{ color: 'text.secondary' }}>
          {from.piece || 'its tube'}, {main(from.length_mm)}: from {from.what}, {main(from.there_mm)}
        </Typography>
      ))}
      {one.not_found.map((told) => (
        <Typography key={told} variant="body2" sx={{ color: 'text.secondary' }}>
          {told}
        </Typography>
      ))}
    </>
  )
}
