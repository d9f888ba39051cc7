import { Box, Button, Typography } from '@mui/material'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { answer, api, type RackRow } from '../../api'
import { newId } from '../../app/session'
import { FieldRows, useForms, withValue } from '../../fields'
import { useUnits } from '../../quantity'
import { Busy, Empty, LongBody, PlusIcon, Problem, SheetHead, StationLayout } from '../../ui'

type Kept = { row: RackRow; version: number }

/** The shop's rack: what stands there, how long and where. What is cut from it is said at Cut & pack. */
export function RackView() {
  const go = useNavigate()
  const queries = useQueryClient()
  const forms = useForms()
  const [scroll, setScroll] = useState<HTMLElement | null>(null)
  const found = useQuery({ queryKey: ['rack'], queryFn: () => answer(api.GET('/api/rack')), staleTime: 0 })
  const [open, setOpen] = useState<Kept | null>(null)
  const taken = (rack: NonNullable<typeof found.data>, kept: Kept) => {
    queries.setQueryData(['rack'], rack)
    // another row may have been opened meanwhile
    setOpen((now) => (now?.row.id === kept.row.id ? null : now))
  }
  const keep = useMutation({
    mutationFn: ({ row, version }: Kept) => answer(api.POST('/api/rack', { body: { row, version } })),
    onSuccess: taken,
    onError: () => void found.refetch(),
  })
  const remove = useMutation({
    mutationFn: ({ row, version }: Kept) =>
      answer(api.POST('/api/rack/{row_id}/remove', { params: { path: { row_id: row.id } }, body: { version } })),
    onSuccess: taken,
    onError: () => void found.refetch(),
  })
  const begin = (kept: Kept) => {
    keep.reset()
    remove.reset()
    setOpen(kept)
  }
  const rows = found.data?.rows ?? []
  const trouble = keep.error ?? remove.error
  return (
    <Box component="main" sx={{ height: '100vh', bgcolor: 'background.default' }}>
      <StationLayout
        sheet={
          <>
            <SheetHead
              title={<Typography variant="h1">The shop’s rack</Typography>}
              note="what stands there and where; what is cut from it is said at Cut & pack"
            >
              <Button onClick={() => void go(-1)}>Back</Button>
              <Button
                variant="contained"
                size="small"
                startIcon={<PlusIcon />}
                disabled={!forms}
                onClick={() => forms && begin({ row: { ...forms.begins<RackRow>('row'), id: newId() }, version: 0 })}
              >
                Put something in
              </Button>
            </SheetHead>
            <Box
              ref={setScroll}
              tabIndex={0}
              role="region"
              aria-label="What lies in the shop"
              sx={{ flex: 1, minHeight: 0, overflow: 'auto', px: 3, pb: 2 }}
            >
              {found.error && <Problem error={found.error} retry={() => void found.refetch()} />}
              {found.isPending && <Busy what="Reading the rack" />}
              {found.data && rows.length === 0 && (
                <Empty title="The rack is empty">
                  Put in what stands in the shop: full lengths, sheets, and offcuts worth keeping.
                </Empty>
              )}
              {rows.length > 0 && <Rows rows={rows} scroll={scroll} open={open?.row.id} onOpen={begin} />}
            </Box>
          </>
        }
        panel={
          <Box sx={{ p: 2.25, overflowY: 'auto' }}>
            {!open && (
              <Typography variant="body2" sx={{ color: 'text.secondary' }}>
                Choose a row to change it.
              </Typography>
            )}
            {open && (
              <>
                <FieldRows
                  whole={open.row}
                  fields={forms?.rows(open.row.sort === 'sheet' ? 'row of sheet' : 'row') ?? []}
                  problems={problemsOf(trouble)}
                  onChange={(path, value) =>
                    setOpen({ ...open, row: changed(open.row, path, value, forms?.begins('row of sheet') ?? {}) })
                  }
                />
                {Boolean(trouble) && <Problem error={trouble} />}
                <Box sx={{ display: 'flex', gap: 1, mt: 1.5 }}>
                  <Button variant="contained" disabled={keep.isPending} onClick={() => keep.mutate(open)}>
                    Keep
                  </Button>
                  <Button onClick={() => setOpen(null)}>Leave it</Button>
                  {open.version > 0 && (
                    <Button color="error" disabled={remove.isPending} onClick={() => remove.mutate(open)}>
                      Take it out
                    </Button>
                  )}
                </Box>
              </>
            )}
          </Box>
        }
      />
    </Box>
  )
}

/** A sheet has a width and may have a thickness; nothing else has. */
const changed = (row: RackRow, path: string, value: unknown, sheet: Partial<RackRow>): RackRow => {
  const next = withValue(row, path, value)
  return path === 'sort'
    ? {
        ...next,
        width_mm: value === 'sheet' ? (row.width_mm ?? sheet.width_mm ?? null) : null,
        thick_mm: value === 'sheet' ? row.thick_mm : null,
      }
    : next
}

const problemsOf = (error: unknown): Map<string, string> => {
  const issues = (error as { body?: { issues?: { path: string; message: string }[] } } | null)?.body?.issues ?? []
  return new Map(issues.map((issue) => [issue.path.replace(/^row\./, ''), issue.message]))
}

interface RowsProps {
  rows: Kept[]
  open?: string
  scroll: HTMLElement | null
  onOpen: (kept: Kept) => void
}

function Rows({ rows, open, scroll, onOpen }: RowsProps) {
  const { main, other } = useUnits()
  return (
    <Box
      component="table"
      aria-rowcount={rows.length + 1}
      sx={{
        width: '100%',
        borderCollapse: 'collapse',
        '& th': { textAlign: 'left', fontWeight: 600, fontSize: 12.5, color: 'text.secondary', pb: 0.5 },
        '& td': { py: 0.5, pr: 2, borderTop: 1, borderColor: 'divider', fontSize: 14 },
      }}
    >
      <thead>
        <tr>
          {['what', 'material', 'long', 'how many', 'where', ''].map((name) => (
            <th key={name}>{name}</th>
          ))}
        </tr>
      </thead>
      <LongBody
        scroll={scroll}
        rows={rows}
        columns={6}
        height={34}
        row={({ row, version }, given) => (
          <Box component="tr" key={row.id} {...given} sx={{ bgcolor: row.id === open ? 'action.selected' : undefined }}>
            <td>
              {row.stock}, {row.sort}
              {row.offcut && ', offcut'}
            </td>
            <td>{row.material}</td>
            <Box component="td" sx={(theme) => ({ fontFamily: theme.tirante.mono, whiteSpace: 'nowrap' })}>
              {main(row.length_mm)}
              {row.width_mm !== null && ` × ${main(row.width_mm)}`}
              {row.thick_mm !== null && ` × ${main(row.thick_mm)}`}{' '}
              <Box component="span" sx={{ color: 'text.secondary' }}>
                {row.width_mm === null && other(row.length_mm)}
              </Box>
            </Box>
            <td>{row.count}</td>
            <td>{[row.place, row.heat && `heat ${row.heat}`].filter(Boolean).join(', ')}</td>
            <td>
              <Button size="small" onClick={() => onOpen({ row, version })} aria-label={`Change ${row.stock}`}>
                Change
              </Button>
            </td>
          </Box>
        )}
      />
    </Box>
  )
}
