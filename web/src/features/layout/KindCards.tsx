import { Box, ButtonBase, Typography } from '@mui/material'
import { useQuery } from '@tanstack/react-query'
import { useRef, useState, type KeyboardEvent } from 'react'
import { answer, api, type EndKind } from '../../api'
import { DrawingView } from '../../drawing'
import { Busy, Problem, Segmented } from '../../ui'

/** Something that an end may be begun from, as it is said to the server. */
export interface KindCard {
  value: string
  title: string
  says: string
  axle: 'independent' | 'beam'
  /** Of a kind that ships, whose drawing stands on the card. */
  sketch?: string
}

type Axle = 'all' | KindCard['axle']

export const shipped = (kinds: EndKind[]): KindCard[] =>
  kinds.map(({ name, title, says, axle }) => ({ value: `template:${name}`, title, says, axle, sketch: name }))

/** The kinds of suspension to choose from: a small drawing of each, what it is for and what it asks. */
export function KindCards(props: { cards: KindCard[]; value: string; onChoose: (value: string) => void }) {
  const [axle, setAxle] = useState<Axle>('all')
  const sketches = useQuery({
    queryKey: ['sketches'],
    queryFn: () => answer(api.GET('/api/templates/sketches')),
    staleTime: Infinity,
  })
  const group = useRef<HTMLDivElement>(null)
  const shown = props.cards.filter((one) => axle === 'all' || one.axle === axle)
  const reached = shown.some((one) => one.value === props.value) ? props.value : shown[0]?.value
  // one stop of the Tab key; the arrows go from card to card
  const walk = (event: KeyboardEvent) => {
    const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key]
    if (!by) return
    event.preventDefault()
    const at = shown.findIndex((one) => one.value === reached)
    const to = (at + by + shown.length) % shown.length
    const next = shown[to]
    if (!next) return
    props.onChoose(next.value)
    group.current?.querySelectorAll<HTMLElement>('[role=radio]')[to]?.focus()
  }
  return (
    <>
      <Segmented<Axle>
        label="Which kinds are shown"
        value={axle}
        onChange={setAxle}
        options={[
          { value: 'all', label: 'all' },
          { value: 'independent', label: 'each wheel by itself' },
          { value: 'beam', label: 'both on one axle' },
        ]}
      />
      {sketches.error && <Problem error={sketches.error} retry={() => void sketches.refetch()} />}
      {sketches.isPending && <Busy what="Drawing the kinds" />}
      <Box
        ref={group}
        role="radiogroup"
        aria-label="Kind of suspension"
        onKeyDown={walk}
        sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(230px, 1fr))', gap: 1, mt: 1.5 }}
      >
        {shown.map((one) => {
          const drawing = one.sketch ? sketches.data?.sketches[one.sketch] : undefined
          const chosen = one.value === props.value
          return (
            <ButtonBase
              key={one.value}
              role="radio"
              aria-checked={chosen}
              aria-label={one.title}
              tabIndex={one.value === reached ? 0 : -1}
              onClick={() => props.onChoose(one.value)}
              sx={(theme) => ({
                display: 'block', textAlign: 'left', p: 1.25, border: 1, bgcolor: chosen ? theme.tirante.select : 'background.paper',
                borderColor: chosen ? 'primary.main' : 'divider', '&:hover, &:focus-visible': { borderColor: 'primary.main' },
              })} // prettier-ignore
            >
              {drawing && (
                <Box sx={{ height: 104, mb: 0.5 }} aria-hidden>
                  <DrawingView drawing={drawing} />
                </Box>
              )}
              <Typography variant="body2" sx={{ fontWeight: 600, lineHeight: 1.3 }}>
                {one.title}
              </Typography>
              <Typography variant="caption" component="p" sx={{ m: 0, mt: 0.25, color: 'text.secondary' }}>
                {one.says}
              </Typography>
            </ButtonBase>
          )
        })}
      </Box>
    </>
  )
}
