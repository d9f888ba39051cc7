import { Box, Button } from '@mui/material'
import { useDesign, useSessionPart, useTheSession } from '../../app/session'
import { FieldRows } from '../../fields'
import { withValue } from '../../fields'
import { Fold } from '../../ui'
import { NEW_CASE, caseFields, ofKind, type CarCase } from './caseFields'

/** The load set's cases, each to be changed; what is changed is no longer the set that shipped. */
export function CaseEditor({ open, onOpen }: { open: string | null; onOpen: (name: string | null) => void }) {
  const session = useTheSession()
  const { cases } = useDesign().loads
  const save = useSessionPart((state) => state.save)
  const change = (label: string, next: CarCase[]) =>
    session.edit(`loads ${label}`, (now) => ({
      ...now,
      loads: { name: now.loads.name.replace(/ \(changed\)$/, '') + ' (changed)', cases: next },
    }))
  const problems = (i: number) => {
    const found = new Map<string, string>()
    if (save.kind === 'refused')
      for (const issue of save.problem.issues) {
        const at = issue.path.replace(/^design\./, '')
        const own = `loads.cases.${i}`
        if (at === own) found.set('name', issue.message)
        if (at.startsWith(`${own}.`)) found.set(at.slice(own.length + 1), issue.message)
      }
    return found
  }
  const add = () => {
    const name = `case ${cases.length + 1}`
    change('add', [...cases, { ...NEW_CASE, name }])
    onOpen(name)
  }
  return (
    <>
      {cases.map((one, i) => (
        <Fold
          key={i}
          title={one.name}
          note={one.source.startsWith('common practice') ? 'common practice' : one.source}
          open={open === one.name}
          wrong={problems(i).size > 0}
        >
          <FieldRows
            whole={one}
            fields={caseFields(one.kind)}
            problems={problems(i)}
            onChange={(path, value) =>
              change(
                `${i} ${path}`,
                cases.map((old, j) =>
                  j !== i
                    ? old
                    : path === 'kind'
                      ? ofKind(old, value as CarCase['kind'])
                      : withValue(old, path, ['link', 'point', 'body'].includes(path) && value === '' ? null : value),
                ),
              )
            }
          />
          <Button
            size="small"
            color="inherit"
            onClick={() =>
              change(
                'take out',
                cases.filter((_, j) => j !== i),
              )
            }
          >
            Take this case out
          </Button>
        </Fold>
      ))}
      <Box sx={{ mt: 1 }}>
        <Button size="small" onClick={add} disabled={cases.length >= 40}>
          Another case
        </Button>
      </Box>
    </>
  )
}
