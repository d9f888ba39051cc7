import { Box, Button } from '@mui/material'
import type { Design } from '../../api'
import { useDesign, useSessionPart, useTheSession } from '../../app/session'
import { FieldRows, useForms, withValue } from '../../fields'
import { Busy, Fold } from '../../ui'

type CarCase = Design['loads']['cases'][number]

/** The load set's cases, each to be changed; what is changed is no longer the set that shipped. */
export function CaseEditor({ open, onOpen }: { open: string | null; onOpen: (name: string | null) => void }) {
  const session = useTheSession()
  const { cases } = useDesign().loads
  const save = useSessionPart((state) => state.save)
  const forms = useForms()
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
  if (!forms) return <Busy what="Asking what may be set" />
  const add = () => {
    const name = `case ${cases.length + 1}`
    change('add', [...cases, { ...forms.begins<CarCase>('case'), name }])
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
            fields={forms.rows(`case: ${one.kind}`)}
            problems={problems(i)}
            onChange={(path, value) => {
              const taken = ['link', 'point', 'body'].includes(path) && value === '' ? null : value
              const next =
                path === 'kind'
                  ? ofKind(one, value as CarCase['kind'], forms.begins(`case: ${String(value)}`))
                  : renamed(one, path, withValue(one, path, taken), cases)
              if (open === one.name && next.name !== one.name) onOpen(next.name)
              change(
                `${i} ${path}`,
                cases.map((old, j) => (j === i ? next : old)),
              )
            }}
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

/** A case that becomes one of another kind: with what that kind must have, but for the point that it has already. */
function ofKind(now: CarCase, kind: CarCase['kind'], begins: Partial<CarCase>): CarCase {
  return { ...now, ...begins, kind, point: now.point ?? begins.point ?? null }
}

/** A case whose name says a factor that was edited says the new one: "corner 0.8 g" of 1.1 g is "corner 1.1 g". */
function renamed(old: CarCase, path: string, next: CarCase, cases: CarCase[]): CarCase {
  const [before, after] = [old[path as keyof CarCase], next[path as keyof CarCase]]
  if (path === 'name' || typeof before !== 'number' || typeof after !== 'number' || before === after) return next
  const said = new RegExp(`(?<![\\d.])${String(Math.abs(before)).replace('.', '\\.')}(?![\\d.]*\\d)`, 'g')
  const times = (old.name.match(said) ?? []).length
  if (times === 0) return next
  // which of two like figures is meant is not told by the name alone
  const plain = old.name.replace(/ \(changed\)$/, '')
  const name = times === 1 ? old.name.replace(said, String(Math.abs(after))) : `${plain} (changed)`
  return cases.some((one) => one !== old && one.name === name) ? next : { ...next, name }
}
