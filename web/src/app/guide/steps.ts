import type { Design, Evaluation } from '../../api'

/** What a step may look at to know that it is done. */
export interface Seen {
  design: Design
  evaluation: Evaluation | null
  /** Where the person is: the station, and a part of it. */
  station: string
  partId: string | undefined
  issued: boolean
}

export interface Step {
  station: string
  title: string
  how: string
  /** Whether it is done; absent where only the person knows. */
  done?: (seen: Seen) => boolean
}

const of = (design: Design, end: 'front' | 'rear') => design.ends.filter((one) => one.end.end === end)

/** From an empty job to the sheets in the shop, on the real stations. */
export const STEPS: Step[] = [
  {
    station: 'layout',
    title: 'Choose the front suspension',
    how: 'Press New end, pick what your car has by its drawing, and add it. It stands as a sound example until you move it.',
    done: ({ design }) => of(design, 'front').length > 0,
  },
  {
    station: 'layout',
    title: 'Put its points where your car has them',
    how: 'Type them under Points, drag the blue rings in a view, or paste a table. Enter takes a figure, Escape leaves it as it was.',
  },
  {
    station: 'layout',
    title: 'Say what wheel it has',
    how: 'Under Wheel: the loaded radius, from the ground to the hub’s middle, and how wide the tyre is.',
  },
  {
    station: 'layout',
    title: 'Give the damper its lengths and the spring its rate',
    how: 'Under Damper: eye to eye closed and open, and the spring’s rate. They end the travel and carry the car.',
    done: ({ design }) =>
      of(design, 'front').some(({ end: { damper } }) => damper?.closed_mm && damper.open_mm && damper.rate_n_per_mm),
  },
  {
    station: 'layout',
    title: 'Put in the rear',
    how: 'New end again, rear of the car; its points, wheel and damper as before. A car of one end may wait: go on with Next.',
    done: ({ design }) => of(design, 'rear').length > 0,
  },
  {
    station: 'layout',
    title: 'Say what the car weighs',
    how: 'Under Vehicle: the whole car and how much of it stands in front, or each corner; and what of it is unsprung.',
    done: ({ design: { car } }) => car.corners !== null || (car.mass_kg !== null && car.cg_behind_front_mm !== null),
  },
  {
    station: 'cycle',
    title: 'See it move',
    how: 'Press play at the foot, or the full stop on the keys. On the right stands what stops it at either end.',
    done: ({ station }) => station === 'cycle',
  },
  {
    station: 'loads',
    title: 'Choose what it must stand',
    how: 'Press road, circuit or off-road. Each case can be changed; each says where it comes from.',
    done: ({ design }) => design.loads.cases.length > 0,
  },
  {
    station: 'members',
    title: 'Make its parts',
    how: 'Press Make the parts of every end. Each moving member becomes a part, its length from the points.',
    done: ({ design, evaluation }) => design.parts.length > 0 && !evaluation?.not_made.some((one) => one.can),
  },
  {
    station: 'members',
    title: 'Size them',
    how: 'Press Size all, look at what was found, and use it. Every tube and joint of the catalogue is tried against every case.',
    done: ({ evaluation }) => {
      const members = evaluation?.parts.filter((part) => part.station === 'members') ?? []
      return members.length > 0 && members.every((part) => part.complete)
    },
  },
  {
    station: 'members',
    title: 'Look at the weakest',
    how: 'It is the first in the list. Open it; each check opens to what it is, its formula and its source.',
    done: ({ station, partId }) => station === 'members' && partId !== undefined,
  },
  {
    station: 'pack',
    title: 'Issue it and take the pack',
    how: 'Read what is left out, press Issue, then Pack. What you change later is told against what you issued.',
    done: ({ issued }) => issued,
  },
]
