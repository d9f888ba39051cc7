import type { Car } from '../../api'
import { NumberField } from '../../quantity'

type Corners = NonNullable<Car['corners']>

const round = (kg: number) => Math.round(kg * 1000) / 1000

/** The car's mass as a person says it: the whole, how much of it stands in front, how much on the left. */
export function Shares({ corners, onChange }: { corners: Corners; onChange: (corners: Corners) => void }) {
  const { front_left_kg: fl, front_right_kg: fr, rear_left_kg: rl, rear_right_kg: rr } = corners
  const whole = fl + fr + rl + rr
  const scaled = (front: number, rear: number, left: number, right: number) =>
    onChange({
      front_left_kg: round(fl * front * left),
      front_right_kg: round(fr * front * right),
      rear_left_kg: round(rl * rear * left),
      rear_right_kg: round(rr * rear * right),
    })
  // what stands there keeps its split the other way
  const front = (share: number) => scaled((share * whole) / (fl + fr), ((1 - share) * whole) / (rl + rr), 1, 1)
  const left = (share: number) => scaled(1, 1, (share * whole) / (fl + rl), ((1 - share) * whole) / (fr + rr))
  return (
    <>
      <NumberField
        label="Whole car"
        unit="kg"
        min={20}
        max={20000}
        value={round(whole)}
        onChange={(kg) => kg !== null && scaled(kg / whole, kg / whole, 1, 1)}
      />
      <NumberField
        label="Of it in front"
        unit="%"
        min={5}
        max={95}
        value={Math.round(((fl + fr) / whole) * 1e4) / 100}
        onChange={(share) => share !== null && front(share / 100)}
      />
      <NumberField
        label="Of it on the left"
        unit="%"
        min={5}
        max={95}
        value={Math.round(((fl + rl) / whole) * 1e4) / 100}
        onChange={(share) => share !== null && left(share / 100)}
      />
    </>
  )
}

/** Where the mass stands, as a person says it: how much of it in front; the same as a distance behind the front axle. */
export function FrontShare({ car, onChange }: { car: Car; onChange: (part: Partial<Car>) => void }) {
  const { cg_behind_front_mm: behind, wheelbase_mm: wheelbase } = car
  return (
    <NumberField
      label="or, of it in front"
      unit="%"
      min={5}
      max={95}
      optional
      placeholder="none"
      value={behind === null ? null : Math.round((1 - behind / wheelbase) * 1e4) / 100}
      onChange={(share) =>
        share !== null && onChange({ cg_behind_front_mm: Math.round((1 - share / 100) * wheelbase * 10) / 10 })
      }
    />
  )
}
