import { Alert, Box, Button, Tab, Tabs, TextField, Typography } from '@mui/material'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { answer, api, type Catalogue } from '../../api'
import { Busy, LongBody, Problem } from '../../ui'

type Table = keyof Catalogue
const KINDS: Table[] = ['tubes', 'grades', 'joints', 'inserts', 'nuts', 'bolts', 'spacers']

const shown = (value: unknown) =>
  value === null ? '' : typeof value === 'number' ? String(Math.round(value * 1000) / 1000) : String(value)

/** The shop's parts with the source of every row; more by CSV, all rows or none. */
export function CatalogueView() {
  const go = useNavigate()
  const [kind, setKind] = useState<Table>('tubes')
  const [filter, setFilter] = useState('')
  const file = useRef<HTMLInputElement>(null)
  const [scroll, setScroll] = useState<HTMLElement | null>(null)
  const queries = useQueryClient()
  const found = useQuery({ queryKey: ['catalogue'], queryFn: () => answer(api.GET('/api/catalogue')) })
  const load = useMutation({
    mutationFn: async (chosen: File) => {
      const text = await chosen.text()
      return answer(api.POST('/api/catalogue/{kind}', { params: { path: { kind } }, body: { text } }))
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: ['catalogue'] }),
  })
  const rows = (found.data?.[kind] ?? []) as Record<string, unknown>[]
  const columns = [...Object.keys(rows[0] ?? {}).filter((name) => name !== 'key' && name !== 'source'), 'source']
  const kept = rows.filter(
    (row) => !filter || Object.values(row).some((value) => shown(value).toLowerCase().includes(filter.toLowerCase())),
  )
  return (
    <Box
      component="main"
      sx={{
        height: '100vh',
        display: 'flex',
        flexDirection: 'column',
        bgcolor: 'background.default',
        p: 3,
        gap: 1.5,
      }}
    >
      <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 2, rowGap: 1 }}>
        <Button onClick={() => void go(-1)}>Back</Button>
        <Typography variant="h1" sx={{ flex: 1 }}>
          Catalogue of parts
        </Typography>
        <TextField
          size="small"
          label="Show those with"
          value={filter}
          onChange={(event) => setFilter(event.target.value)}
        />
        <Button variant="outlined" component="a" href={`/api/catalogue/${kind}.csv`} download>
          Take away as CSV
        </Button>
        <Button variant="contained" onClick={() => file.current?.click()} disabled={load.isPending}>
          Load {kind} from CSV
        </Button>
        <input
          ref={file}
          type="file"
          accept=".csv,text/csv"
          hidden
          aria-label="Catalogue file"
          onChange={(event) => {
            const chosen = event.target.files?.[0]
            if (chosen) load.mutate(chosen)
            event.target.value = ''
          }}
        />
      </Box>
      <Tabs
        value={kind}
        onChange={(_, value: Table) => {
          setKind(value)
          load.reset()
        }}
        sx={{ '& .MuiTab-root': { textTransform: 'none' } }}
      >
        {KINDS.map((one) => (
          <Tab key={one} value={one} label={one} />
        ))}
      </Tabs>
      {load.error && <Problem error={load.error} />}
      {load.data && (
        <Alert severity="success" variant="outlined">
          {load.data.added} added, {load.data.replaced} replaced. Designs keep the rows they were built with.
        </Alert>
      )}
      {found.error && <Problem error={found.error} retry={() => void found.refetch()} />}
      {found.isPending && <Busy what="Reading the catalogue" />}
      <Box
        sx={{ flex: 1, minHeight: 0, overflow: 'auto', bgcolor: 'background.paper', border: 1, borderColor: 'divider' }}
        ref={setScroll}
        tabIndex={0}
        role="region"
        aria-label={kind}
      >
        <Box
          component="table"
          aria-rowcount={kept.length + 1}
          sx={{
            borderCollapse: 'collapse',
            fontSize: 13,
            '& th': {
              position: 'sticky',
              top: 0,
              bgcolor: 'background.paper',
              textAlign: 'left',
              p: 1,
              whiteSpace: 'nowrap',
              borderBottom: 1,
              borderColor: 'divider',
            },
            '& td': { px: 1, py: 0.4, borderBottom: 1, borderColor: 'divider', whiteSpace: 'nowrap' },
          }}
        >
          <thead>
            <tr>
              {columns.map((name) => (
                <th key={name}>{name.replaceAll('_', ' ')}</th>
              ))}
            </tr>
          </thead>
          <LongBody
            scroll={scroll}
            rows={kept}
            columns={columns.length}
            height={28}
            row={(row, given) => (
              <tr key={String(row.key)} {...given}>
                {columns.map((name) => (
                  <Box
                    component="td"
                    key={name}
                    sx={(theme) =>
                      typeof row[name] === 'number' ? { fontFamily: theme.tirante.mono, textAlign: 'right' } : {}
                    }
                  >
                    {shown(row[name])}
                  </Box>
                ))}
              </tr>
            )}
          />
        </Box>
      </Box>
    </Box>
  )
}
