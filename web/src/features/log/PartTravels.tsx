import { Box, Button, Typography } from '@mui/material'
import { useState, type ReactNode } from 'react'
import { Link } from 'react-router'
import type { DoneStepOut, TickTold, TravelRow } from '../../api'
import { useMe } from '../../app/me'
import { Password } from '../../app/SignIn'
import { useSessionPart } from '../../app/session'
import { NOTHING_TOLD } from '../../app/told'
import { Told, useUnits } from '../../quantity'
import { MadeList } from '../history'
import { StepPictures } from '../pictures'
import { Busy, KeptLine, Problem, TextRow } from '../../ui'
import { Measured } from './Measured'
import { usePartTravels } from './useTraveller'

/** One hand of a part, step by step: what was done, by whom, from what; the next one open. */
export function PartTravels({ row, number }: { row: TravelRow; number: number | null }) {
  const { found, mark, sign, withdraw } = usePartTravels(row, number)
  const jobId = useSessionPart((state) => state.jobId)
  const [chosen, choose] = useState<string | null>(null)
  const part = found.data
  if (found.error) return <Problem error={found.error} retry={() => void found.refetch()} />
  if (!part) return <Busy what="Reading its steps" />
  const open = chosen ?? part.steps.find((one) => !one.done)?.step.key ?? ''
  return (
    <Box component="section" aria-label={`Steps of ${part.name}`}>
      <Typography variant="h2" component="h2">
        {part.name}
        {part.hand && `, ${part.hand.toUpperCase()}`}
      </Typography>
      {part.other_metal.map((told) => (
        <KeptLine key={told} amber>
          {told}.
        </KeptLine>
      ))}
      <MadeList only={row} />
      {part.steps.some((one) => ['check', 'measure', 'torque'].includes(one.step.kind)) && <Measured row={row} />}
      {Boolean(mark.error) && <Problem error={mark.error} />}
      <Box component="ol" aria-label="Steps" sx={{ listStyle: 'none', m: 0, p: 0, mt: 1 }}>
        {part.steps.map((one) => (
          <Step
            key={one.step.key}
            one={one}
            asked={part.asked}
            open={open === one.step.key}
            busy={mark.isPending}
            pictures={<StepPictures jobId={jobId} part={row} step={one.step.key} />}
            signing={<Signing one={one} issued={number !== null} sign={sign} withdraw={withdraw} />}
            onOpen={() => choose(open === one.step.key ? '' : one.step.key)}
            onMark={(done, told) =>
              mark.mutate(
                { step: one.step, done, told },
                {
                  // another step that was opened meanwhile stays open
                  onSuccess: () =>
                    choose((now) => (now !== null && now !== one.step.key ? now : done ? null : one.step.key)),
                },
              )
            }
          />
        ))}
      </Box>
    </Box>
  )
}

interface StepProps {
  one: DoneStepOut
  asked: Record<string, string>
  open: boolean
  busy: boolean
  onOpen: () => void
  onMark: (done: boolean, told: TickTold) => void
  signing: ReactNode
  pictures: ReactNode
}

function Step({ one, asked, open, busy, onOpen, onMark, signing, pictures }: StepProps) {
  const { main } = useUnits()
  const [told, setTold] = useState(NOTHING_TOLD)
  const { step } = one
  const say = (name: keyof TickTold) => (text: string) => setTold((now) => ({ ...now, [name]: text }))
  const give = (done: boolean) => {
    onMark(done, told)
    setTold((now) => ({ ...now, note: '' }))
  }
  return (
    <Box component="li" sx={{ borderBottom: 1, borderColor: 'divider', py: 0.5 }}>
      <Box
        component="button"
        aria-expanded={open}
        onClick={onOpen}
        sx={{
          all: 'unset', cursor: 'pointer', display: 'flex', gap: 1, width: '100%', fontSize: 14,
          fontWeight: open ? 700 : 400, '&:focus-visible': { outline: 2 },
        }} // prettier-ignore
      >
        <Box component="span" role="img" aria-label={one.done ? 'done' : step.hold ? 'to be signed' : 'open'}>
          {one.done ? '✓' : step.hold ? '◇' : '○'}
        </Box>
        <span>
          <Told>{step.title}</Told>
        </span>
      </Box>
      {one.marks.map((mark, i) => (
        <KeptLine key={i} amber={!mark.done && i === one.marks.length - 1}>
          {mark.done ? 'Done' : 'Taken back'}
          {mark.number !== null && `, rev ${mark.number}`}
          {mark.told.who && `, ${mark.told.who}`}, {new Date(mark.made_at).toLocaleString()}
          {mark.late && ', while the server was away'}
          {(['heat', 'filler', 'welder', 'note'] as const)
            .filter((name) => mark.told[name])
            .map((name) => `; ${name === 'note' ? '' : `${name} `}${mark.told[name]}`)
            .join('')}
        </KeptLine>
      ))}
      {one.signed.map((of) => (
        <KeptLine key={of.id} amber={of.withdrawn !== null}>
          Signed by {of.name}, rev {of.number}, {new Date(of.at).toLocaleString()}
          {of.note && `: ${of.note}`}
          {of.withdrawn !== null && `; withdrawn by ${of.withdrawn_by}: ${of.withdrawn}`}
        </KeptLine>
      ))}
      {open && (
        <Box sx={{ pl: 2.5, pt: 0.5 }}>
          {one.waits && (
            <Typography variant="body2" sx={{ color: 'warning.main' }}>
              It waits for a signature: {one.waits}.
            </Typography>
          )}
          {step.figures.map((figure) => (
            <Typography key={figure.label} variant="body2">
              {figure.label} <b>{main(figure.mm)}</b> {figure.note}
            </Typography>
          ))}
          {step.lines.map((line) => (
            <Typography key={line} variant="body2" sx={{ color: 'text.secondary' }}>
              <Told>{line}</Told>
            </Typography>
          ))}
          {pictures}
          {step.hold ? (
            signing
          ) : (
            <>
              {step.asks.map((name) => (
                <TextRow
                  key={name}
                  label={asked[name] ?? name}
                  value={told[name as keyof TickTold]}
                  optional
                  maxLength={200}
                  onChange={say(name as keyof TickTold)}
                />
              ))}
              <TextRow label="Who" value={told.who} optional maxLength={200} onChange={say('who')} />
              <TextRow
                label={one.done ? 'Why' : 'Note'}
                value={told.note}
                optional
                maxLength={2000}
                onChange={say('note')}
              />
              <Button
                size="small"
                variant={one.done ? 'outlined' : 'contained'}
                disabled={busy}
                onClick={() => give(!one.done)}
                sx={{ mt: 0.5 }}
              >
                {one.done ? 'Not done after all' : 'Done'}
              </Button>
            </>
          )}
        </Box>
      )}
    </Box>
  )
}

interface SigningProps {
  one: DoneStepOut
  issued: boolean
  sign: ReturnType<typeof usePartTravels>['sign']
  withdraw: ReturnType<typeof usePartTravels>['withdraw']
}

/** Sign that somebody else's work was looked at, with the password typed again; or withdraw it with a reason. */
function Signing({ one, issued, sign, withdraw }: SigningProps) {
  const me = useMe()
  const [note, setNote] = useState('')
  const [password, setPassword] = useState('')
  const standing = one.signed.find((of) => of.withdrawn === null)
  const busy = sign.isPending || withdraw.isPending
  const error = standing ? withdraw.error : sign.error
  const clear = () => {
    setNote('')
    setPassword('')
  }
  if (!me?.me)
    return (
      <Typography variant="body2" sx={{ color: 'warning.main', mt: 0.5 }}>
        Somebody else signs this, and nobody has an account here: make them under <Link to="/people">People</Link>. What
        comes after it waits.
      </Typography>
    )
  if (!issued)
    return (
      <Typography variant="body2" sx={{ color: 'warning.main', mt: 0.5 }}>
        Somebody else signs this, once the job is issued: what may still change is not signed for.
      </Typography>
    )
  return (
    <Box
      component="form"
      onSubmit={(event) => {
        event.preventDefault()
        if (standing) withdraw.mutate({ id: standing.id, why: note, password }, { onSuccess: clear })
        else sign.mutate({ step: one.step.key, note, password }, { onSuccess: clear })
      }}
      sx={{ display: 'grid', gap: 1, mt: 0.5 }}
    >
      <TextRow label={standing ? 'Why' : 'Note'} value={note} optional maxLength={2000} onChange={setNote} />
      <Password small label={`Password of ${me.me.name}, again`} value={password} onChange={setPassword} />
      {error && <Problem error={error} />}
      <Button
        type="submit"
        size="small"
        variant={standing ? 'outlined' : 'contained'}
        disabled={busy || !password || (Boolean(standing) && !note.trim())}
      >
        {standing ? 'Withdraw the signature' : `Sign as ${me.me.name}`}
      </Button>
    </Box>
  )
}
