import { Alert, Box, Button, TextField, Typography } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api, type OrderOut } from '../../api'
import { useDesign } from '../../app/session'
import { Told, useUnits } from '../../quantity'
import { FileButton, Pick, Problem, Section } from '../../ui'
import { Stale } from './Ask'
import { cell } from './cell'

type List = { name: string; text: string }

/** What is to be bought, against what the shop has; two suppliers' lists beside it. */
export function Order() {
  const design = useDesign()
  const [end, setEnd] = useState('')
  const [spares, setSpares] = useState(0)
  const [lists, setLists] = useState<List[]>([])
  const asked = { design, parts: null, end_id: end || null, spares, suppliers: lists.map((list) => list.text) }
  const made = useMutation({
    mutationFn: () => answer(api.POST('/api/order', { body: asked })).then((found) => ({ found, of: design, lists })),
  })
  const file = useMutation({
    mutationFn: async () => {
      const csv = await answer(api.POST('/api/order.csv', { body: asked, parseAs: 'blob' }))
      const link = document.createElement('a')
      link.href = URL.createObjectURL(csv as Blob)
      link.download = `${design.name}-order.csv`
      link.click()
      setTimeout(() => URL.revokeObjectURL(link.href), 1000)
    },
  })
  const found = made.data?.found
  return (
    <Section
      title="To order"
      note="bolts by their length, tube by the metre, plate by its area, spares asked for; a supplier’s list is a CSV with the columns what and price, by the names that the order file has"
    >
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-end', flexWrap: 'wrap', mb: 1 }}>
        <Box sx={{ width: 200 }}>
          <Pick
            label="Of"
            value={end}
            none="the whole job"
            options={design.ends.map((one) => ({ value: one.id, label: one.name }))}
            onChange={setEnd}
          />
        </Box>
        <TextField
          type="number"
          size="small"
          variant="standard"
          label="Spare of each bought piece"
          value={spares}
          onChange={(event) => setSpares(Math.max(0, Math.min(100, Math.round(Number(event.target.value)))))}
          sx={{ width: 200, mb: 1 }}
        />
        {lists.length < 2 && (
          <FileButton
            label="A supplier’s list"
            accept=".csv,text/csv"
            variant="outlined"
            onFile={(chosen) =>
              void chosen.text().then((text) => setLists((now) => [...now, { name: chosen.name, text }].slice(0, 2)))
            }
          >
            A supplier’s list
          </FileButton>
        )}
        {lists.map((list, i) => (
          <Button key={i} size="small" onClick={() => setLists((now) => now.filter((one) => one !== list))}>
            without {list.name}
          </Button>
        ))}
        <Button variant="outlined" disabled={made.isPending} onClick={() => made.mutate()}>
          {made.isPending ? 'Adding it up' : 'Add it up'}
        </Button>
        <Button variant="outlined" disabled={file.isPending} onClick={() => file.mutate()}>
          Order, CSV
        </Button>
      </Box>
      {made.error && <Problem error={made.error} />}
      {file.error && <Problem error={file.error} />}
      {found && (
        <Box role="status" aria-label="What is to be ordered">
          {made.data?.of !== design && <Stale again="Add it up" />}
          <Lines found={found} names={made.data?.lists.map((list) => list.name) ?? []} />
          <Typography variant="body2" sx={{ mt: 1, color: 'text.secondary' }}>
            On no line: <Told>{found.not_counted.join('; ')}</Told>.
          </Typography>
          {found.left_out.length > 0 && (
            <Alert severity="warning" variant="outlined" sx={{ mt: 1 }}>
              Not among it: <Told>{found.left_out.join('; ')}</Told>
            </Alert>
          )}
        </Box>
      )}
    </Section>
  )
}

const money = (sum: number | null) => (sum === null ? 'unknown' : sum.toFixed(2))
const right = { textAlign: 'right !important', pr: '16px !important', whiteSpace: 'nowrap' }

function Lines({ found, names }: { found: OrderOut; names: string[] }) {
  const { unit } = useUnits()
  const amount = (line: OrderOut['lines'][number]) => {
    if (line.unit === 'm')
      return unit === 'mm' ? `${line.count.toFixed(2)} m` : `${(line.count / 0.3048).toFixed(2)} ft`
    if (line.unit) return unit === 'mm' ? `${line.count.toFixed(3)} m²` : `${(line.count / 0.3048 ** 2).toFixed(2)} ft²`
    return line.count ? `${line.count} ×` : 'as needed'
  }
  return (
    <Box component="table" sx={cell} aria-label="To order">
      <thead>
        <tr>
          <th>how much</th>
          <th>what</th>
          <th>the shop has</th>
          <Box component="th" sx={right}>
            cost
          </Box>
          {names.map((name) => (
            <Box component="th" key={name} sx={right}>
              {name}
            </Box>
          ))}
        </tr>
      </thead>
      <tbody>
        {found.lines.map((line, i) => {
          const least = Math.min(...line.offers.filter((one) => one !== null))
          return (
            <tr key={i}>
              <Box component="td" sx={{ whiteSpace: 'nowrap' }}>
                {amount(line)}
              </Box>
              <td>
                <Told>{line.what}</Told> {line.hand}
                {line.told && (
                  <Typography variant="caption" component="div" sx={{ color: 'text.secondary' }}>
                    {line.told}
                  </Typography>
                )}
              </td>
              <td>{line.there}</td>
              <Box component="td" sx={right}>
                {money(line.cost)}
              </Box>
              {line.offers.map((each, n) => (
                <Box
                  component="td"
                  key={n}
                  sx={{ ...right, fontWeight: each === least && names.length > 1 ? 700 : 400 }}
                >
                  {each === null ? 'not listed' : (each * line.count).toFixed(2)}
                </Box>
              ))}
            </tr>
          )
        })}
        <tr>
          <td />
          <td>
            <strong>what is known</strong>
          </td>
          <td />
          <Box component="td" sx={right}>
            {found.cost.toFixed(2)}
            {found.unknown > 0 && <div>and {found.unknown} unknown</div>}
          </Box>
          {found.offers.map((offer, n) => (
            <Box component="td" key={n} sx={right}>
              {offer.total.toFixed(2)}
              {offer.missing > 0 && <div>and {offer.missing} not listed</div>}
            </Box>
          ))}
        </tr>
      </tbody>
    </Box>
  )
}
