import { Box, LinearProgress, Typography } from '@mui/material'
import { useState } from 'react'
import type { TravellerOut } from '../../api'
import { Segmented } from '../../ui'
import { rowKey } from './useTraveller'

type Which = 'all' | 'begun' | 'waits'

interface Props {
  traveller: TravellerOut
  selected: string
  onSelect: (key: string) => void
}

/** The whole car at a glance: each hand of each part, what it is by now, what comes next and who is waited for. */
export function Travels({ traveller, selected, onSelect }: Props) {
  const [which, show] = useState<Which>('all')
  const { rows } = traveller
  const shown = rows.filter((row) => which === 'all' || (which === 'begun' ? row.done > 0 && row.next : row.waits))
  const count = (of: number, what: string) => `${what} (${of})`
  return (
    <Box sx={{ px: 3, pb: 2 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mb: 1, flexWrap: 'wrap' }}>
        <Segmented
          label="Which parts"
          value={which}
          onChange={show}
          options={[
            { value: 'all', label: count(rows.length, 'All') },
            { value: 'begun', label: count(rows.filter((row) => row.done > 0 && row.next).length, 'Begun') },
            { value: 'waits', label: count(rows.filter((row) => row.waits).length, 'Wait for a second look') },
          ]}
        />
        <Typography variant="body2" sx={{ color: traveller.draft ? 'warning.main' : 'text.secondary' }}>
          {traveller.issued && !traveller.draft
            ? `As issued: rev ${traveller.issued.number}, ${traveller.issued.name}`
            : 'By the draft: nothing is to be made from it until it is issued.'}
        </Typography>
      </Box>
      <Box
        component="table"
        aria-label="How far each part is made"
        sx={{
          width: '100%', borderCollapse: 'collapse', fontSize: 13.5,
          '& th': { textAlign: 'left', fontWeight: 600, fontSize: 12.5, color: 'text.secondary', pb: 0.5 },
          '& td': { py: 0.5, pr: 1, borderTop: 1, borderColor: 'divider', verticalAlign: 'top' },
        }} // prettier-ignore
      >
        <thead>
          <tr>
            {['part', 'by now', 'steps', 'next'].map((head) => (
              <th key={head}>{head}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {shown.map((row) => {
            const key = rowKey(row)
            return (
              <Box component="tr" key={key} sx={{ bgcolor: selected === key ? 'action.selected' : undefined }}>
                <td>
                  <Box
                    component="button"
                    aria-pressed={selected === key}
                    onClick={() => onSelect(key)}
                    sx={{ all: 'unset', cursor: 'pointer', color: 'primary.main', '&:focus-visible': { outline: 2 } }}
                  >
                    {row.name}
                    {row.hand && `, ${row.hand.toUpperCase()}`}
                  </Box>
                </td>
                <td>
                  {row.is_now || '—'}
                  {row.unsigned.length > 0 && (
                    <Box component="span" sx={{ display: 'block', color: 'warning.main' }}>
                      past {row.unsigned.length === 1 ? 'a second look' : `${row.unsigned.length} second looks`} that
                      nobody signed
                    </Box>
                  )}
                  {row.left_out.length > row.unsigned.length && (
                    <Box
                      component="span"
                      title={row.left_out.join(', ')}
                      sx={{ display: 'block', color: 'warning.main' }}
                    >
                      {row.left_out.length - row.unsigned.length} before it not ticked
                    </Box>
                  )}
                  {row.otherwise > 0 && (
                    <Box component="span" sx={{ display: 'block', color: 'warning.main' }}>
                      {row.otherwise} done before it changed
                    </Box>
                  )}
                </td>
                <td>
                  <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, minWidth: 110 }}>
                    <LinearProgress
                      aria-hidden
                      variant="determinate"
                      value={(100 * row.done) / row.of}
                      sx={{ flex: 1, height: 5, borderRadius: 1 }}
                    />
                    <span>
                      {row.done}/{row.of}
                    </span>
                  </Box>
                </td>
                <td>{row.next ? `${row.waits ? '◇ ' : ''}${row.next}` : 'all done'}</td>
              </Box>
            )
          })}
        </tbody>
      </Box>
      {shown.length === 0 && (
        <Typography variant="body2" sx={{ color: 'text.secondary', py: 1 }}>
          {which === 'begun' ? 'Nothing is begun.' : 'Nothing waits for a second look.'}
        </Typography>
      )}
      {traveller.no_steps.length > 0 && (
        <Typography variant="body2" sx={{ color: 'warning.main', mt: 1 }}>
          Not here, since they cannot be made yet: {traveller.no_steps.join(', ')}.
        </Typography>
      )}
      {traveller.gone.length > 0 && (
        <Typography variant="body2" sx={{ color: 'warning.main', mt: 1 }}>
          {traveller.gone.length === 1
            ? 'A part that was begun is'
            : `${traveller.gone.length} parts that were begun are`}{' '}
          in the job no more.
        </Typography>
      )}
      <Typography variant="caption" component="p" sx={{ color: 'text.secondary', mt: 1 }}>
        Not kept yet: {traveller.not_kept.join('; ')}.
      </Typography>
    </Box>
  )
}
