import { Box, Button, Typography } from '@mui/material'
import type { AnyPart, LengthValue, Link } from '../../../api'
import { usePart } from '../../../app/session'
import { LengthField, useUnits } from '../../../quantity'
import { Segmented } from '../../../ui'
import type { OwnField } from '.'

type Between = Link['between']
const AXES = ['x', 'y', 'z'] as const

/** The two pivots, or the length between them. */
export function BetweenFields({ part }: OwnField) {
  const { design, edit: change, result, problems } = usePart(part.id)
  const { main, other } = useUnits()
  if (!('between' in part)) return null
  const { between } = part
  const length = result?.own && 'length_mm' in result.own ? result.own.length_mm : null
  const edit = (label: string, next: (now: Between) => Between) =>
    change(label, (now) => ('between' in now ? ({ ...now, between: next(now.between) } as AnyPart) : now))
  const become = (kind: 'pivots' | 'length') => {
    if (kind === between.kind) return
    const mm = Math.max(1, Math.round((length ?? 500) * 1000) / 1000)
    const at = (x: number): [LengthValue, LengthValue, LengthValue] => [
      { mm: x, typed: null },
      { mm: 0, typed: null },
      { mm: 0, typed: null },
    ]
    edit('between', () =>
      kind === 'length' ? { kind: 'length', length: { mm, typed: null } } : { kind: 'pivots', a: at(0), b: at(-mm) },
    )
  }
  if (between.kind === 'end') {
    const from = design.ends.find((end) => end.id === between.end_id)
    return (
      <>
        {length !== null && (
          <Typography variant="caption" component="p" sx={{ color: 'text.secondary', m: 0 }}>
            {main(length)}, {other(length)}
          </Typography>
        )}
        <Typography variant="body2">
          {from
            ? `It is the ${between.link} of ${from.name}: its length follows the points at Layout.`
            : `It was the ${between.link} of an end that is gone.`}
        </Typography>
        {problems.has('between') && (
          <Typography role="alert" variant="caption" sx={{ color: 'error.main' }}>
            {problems.get('between')}
          </Typography>
        )}
        <Button size="small" onClick={() => become('length')}>
          Untie it, keep its length
        </Button>
      </>
    )
  }
  return (
    <>
      <Segmented
        label="How its length is known"
        fullWidth
        value={between.kind}
        onChange={become}
        options={[
          { value: 'pivots', label: 'two pivots' },
          { value: 'length', label: 'its length' },
        ]}
      />
      <Box sx={{ mt: 1 }}>
        {between.kind === 'length' ? (
          <LengthField
            label="Pivot to pivot"
            value={between.length}
            problem={problems.get('between.length.length.mm')}
            onChange={(length) => length && edit('length', () => ({ kind: 'length', length }))}
          />
        ) : (
          <>
            {(['a', 'b'] as const).map((name) => (
              <Box
                key={name}
                sx={{ display: 'grid', gridTemplateColumns: '52px 1fr 1fr 1fr', columnGap: 1.25, alignItems: 'start' }}
              >
                <Typography variant="body2" sx={{ pt: 0.4 }}>
                  Pivot {name.toUpperCase()}
                </Typography>
                {AXES.map((axis, i) => (
                  <LengthField
                    key={axis}
                    hideLabel
                    signed
                    label={`Pivot ${name.toUpperCase()} ${axis}`}
                    value={between[name][i] as LengthValue}
                    onChange={(value) =>
                      value &&
                      edit(`pivot ${name}${axis}`, (now) => {
                        if (now.kind !== 'pivots') return now
                        const point = now[name].map((old, j) => (j === i ? value : old)) as [
                          LengthValue,
                          LengthValue,
                          LengthValue,
                        ]
                        return { ...now, [name]: point }
                      })
                    }
                  />
                ))}
              </Box>
            ))}
            <Typography variant="caption" sx={{ color: 'text.secondary' }}>
              x forward, y left, z up. {length !== null && `${main(length)} apart, ${other(length)}.`}
            </Typography>
          </>
        )}
      </Box>
      {[...problems]
        .filter(([path]) => path === 'between' || path === 'between.pivots')
        .map(([path, message]) => (
          <Typography key={path} role="alert" variant="caption" component="p" sx={{ color: 'error.main', m: 0 }}>
            {message}
          </Typography>
        ))}
    </>
  )
}
