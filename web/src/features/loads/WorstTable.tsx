import { Box, Button, Typography } from '@mui/material'
import type { LoadsOut } from '../../api'
import { force } from './useLoads'

type Row = LoadsOut['links'][number]

/** The hardest that every part is pulled and pushed, and by which case; a case opens its drawing. */
export function WorstTable({ found, onChoose }: { found: LoadsOut; onChoose: (name: string) => void }) {
  return (
    <Box sx={{ overflow: 'auto', height: '100%' }}>
      <Table
        title="Links, springs and stops"
        rows={found.links}
        heads={['pulled', 'by', 'pushed', 'by']}
        onChoose={onChoose}
      />
      <Table title="Joints" rows={found.joints} heads={['loaded', 'by']} onChoose={onChoose} />
    </Box>
  )
}

function Table(props: { title: string; rows: Row[]; heads: string[]; onChoose: (name: string) => void }) {
  const both = props.heads.length > 2
  return (
    <Box
      component="table"
      sx={{
        borderCollapse: 'collapse', width: '100%', mb: 3, fontSize: 13.5,
        '& th, & td': { textAlign: 'left', py: 0.4, pr: 2, borderBottom: 1, borderColor: 'divider', verticalAlign: 'baseline' },
        '& td.n': { textAlign: 'right', whiteSpace: 'nowrap' },
      }} // prettier-ignore
    >
      <Typography component="caption" variant="h3" sx={{ textAlign: 'left', py: 1 }}>
        {props.title}
      </Typography>
      <thead>
        <tr>
          <th>part</th>
          {props.heads.map((head, i) => (
            <th key={i} style={head === 'by' ? undefined : { textAlign: 'right' }}>
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {props.rows.map((row) => (
          <tr key={row.part}>
            <td>{row.part}</td>
            <Force value={row.pull_n} />
            <td>
              <Case name={row.pull_case} onChoose={props.onChoose} />
            </td>
            {both && (
              <>
                <Force value={row.push_n} />
                <td>
                  <Case name={row.push_case} onChoose={props.onChoose} />
                </td>
              </>
            )}
          </tr>
        ))}
      </tbody>
    </Box>
  )
}

function Force({ value }: { value: number }) {
  return (
    <Box component="td" className="n" sx={(theme) => ({ fontFamily: theme.tirante.mono })}>
      {Math.abs(value) < 0.5 ? '–' : force(value)}
    </Box>
  )
}

function Case({ name, onChoose }: { name: string; onChoose: (name: string) => void }) {
  if (!name) return null
  return (
    <Button size="small" onClick={() => onChoose(name)} sx={{ py: 0, fontWeight: 400, textAlign: 'left' }}>
      {name}
    </Button>
  )
}
