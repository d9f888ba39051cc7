import { Box, Typography } from '@mui/material'
import type { Link } from '../../../api'
import { usePart } from '../../../app/session'
import { LengthField } from '../../../quantity'
import { Choice, Segmented, TextRow } from '../../../ui'
import { MadeFields, Tapped } from './MadeEnds'
import type { OwnField } from '.'

type EndName = 'end_a' | 'end_b'

const alike = (link: Link) => {
  const { end_a: a, end_b: b } = link
  return (
    a.kind === 'rod_end' &&
    b.kind === 'rod_end' &&
    a.joint === b.joint &&
    a.insert === b.insert &&
    a.nut === b.nut &&
    a.tapped_mm === b.tapped_mm
  )
}

type Made = Partial<Extract<Link['end_a'], { kind: 'fixed' }>>
const NAMED = ['bush sleeve', 'eye', 'clevis', 'squashed end', 'plug']

/** What an end is called once it is made another way; a name that a person gave stays. */
function named(what: string, made: Made): { what?: string } {
  if (!NAMED.includes(what)) return {}
  if (made.plug) return { what: 'plug' }
  if (made.machined) return { what: made.machined.form }
  if (made.flat) return { what: made.flat.form === 'squashed' ? 'squashed end' : made.flat.form.split(' ')[0] }
  return { what: 'bush sleeve' }
}

/** Both ends: joint, insert and nut of each, its hand, or an end that does not adjust. */
export function EndFields({ part, chosen }: OwnField) {
  return part.kind === 'link' ? <Both link={part} chosen={chosen} /> : null
}

function Both({ link, chosen }: { link: Link; chosen: OwnField['chosen'] }) {
  const { edit: change, problems, result } = usePart(link.id)
  const edit = (label: string, next: (now: Link) => Link) =>
    change(label, (now) => (now.kind === 'link' ? next(now) : now))
  const same = alike(link)
  const kind = (name: EndName, value: string) =>
    edit(`${name} kind`, (now) => ({
      ...now,
      [name]:
        value === 'fixed'
          ? (result?.begins.fixed as Link['end_a'])
          : { ...(result?.begins.rod_end as Link['end_a']), hand: value === 'lh' ? 'LH' : 'RH' },
    }))
  const hand = (name: EndName, value: 'RH' | 'LH') =>
    edit(`${name} hand`, (now) => {
      const end = now[name]
      return end.kind === 'rod_end' ? { ...now, [name]: { ...end, hand: value } } : now
    })
  const rows = (name: EndName, target: string) => {
    const end = link[name]
    if (end.kind !== 'rod_end') return null
    const tapped = end.tapped_mm !== null
    const shown = tapped ? (['joint', 'nut'] as const) : (['joint', 'insert', 'nut'] as const)
    const names: EndName[] = target === 'ends' ? ['end_a', 'end_b'] : [name]
    return [
      ...shown.map((part) => (
        <Box key={part} data-field={`${name}.${part}`}>
          <Choice
            label={part[0]!.toUpperCase() + part.slice(1)}
            value={end[part]}
            options={chosen.options(`${name}.${part}`, `${part}s`, end[part])}
            onChange={(key) => chosen.choose(`${target}.${part}`, key)}
            empty={part === 'joint' ? 'Choose tube and grade first.' : 'Choose the joint first.'}
            problem={problems.get(`${name}.${part}`)}
          />
        </Box>
      )),
      <Tapped
        key="tapped"
        depth={end.tapped_mm}
        begins={result?.begins.tapped_mm as number | undefined}
        problem={problems.get(`${name}.tapped_mm`)}
        onChange={(tapped_mm) =>
          edit(`${name} tapped`, (now) => {
            const next = { ...now }
            for (const one of names) {
              const old = now[one]
              if (old.kind === 'rod_end')
                next[one] = { ...old, tapped_mm, insert: tapped_mm === null ? old.insert : null }
            }
            return next
          })
        }
      />,
    ]
  }
  return (
    <>
      {(['end_a', 'end_b'] as const).map((name) => {
        const end = link[name]
        const letter = name === 'end_a' ? 'A' : 'B'
        return (
          <Box key={name} sx={{ mb: 1 }}>
            <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, mb: 0.5 }}>
              <Typography variant="body2" sx={{ width: 58 }}>
                End {letter}
              </Typography>
              <Segmented
                label={`End ${letter}`}
                disabled={!result}
                value={end.kind === 'fixed' ? 'fixed' : end.hand}
                onChange={(value) =>
                  value === 'fixed'
                    ? kind(name, 'fixed')
                    : end.kind === 'fixed'
                      ? kind(name, value.toLowerCase())
                      : hand(name, value as 'RH' | 'LH')
                }
                options={[
                  { value: 'RH', label: 'RH thread' },
                  { value: 'LH', label: 'LH thread' },
                  { value: 'fixed', label: 'fixed' },
                ]}
              />
            </Box>
            {end.kind === 'fixed' ? (
              <>
                <TextRow
                  label="What"
                  value={end.what}
                  onChange={(what) => edit(`${name} what`, (now) => ({ ...now, [name]: { ...now[name], what } }))}
                  problem={problems.get(`${name}.fixed.what`)}
                />
                {end.flat?.form !== 'squashed' && !end.sleeve && !end.plug && (
                  <LengthField
                    label="Centre to tube face"
                    value={end.centre_to_face}
                    onChange={(value) =>
                      value &&
                      edit(`${name} face`, (now) => ({ ...now, [name]: { ...now[name], centre_to_face: value } }))
                    }
                  />
                )}
                <MadeFields
                  end={end}
                  begins={result?.begins}
                  problems={problems}
                  at={name}
                  onChange={(made) =>
                    edit(`${name} made`, (now) => ({
                      ...now,
                      [name]: { ...now[name], ...made, ...named(end.what, made) },
                    }))
                  }
                />
              </>
            ) : (
              !same && rows(name, name)
            )}
          </Box>
        )
      })}
      {same && (
        <>
          <Typography variant="caption" sx={{ color: 'text.secondary' }}>
            both ends
          </Typography>
          {rows('end_a', 'ends')}
        </>
      )}
    </>
  )
}
