import assert from 'node:assert/strict'
import { test } from 'node:test'
import { outside, unusual } from '../src/quantity/limits'
import { where } from '../src/ui/where'

test('a least that is not taken itself is refused, one that is taken is not', () => {
  assert.equal(outside(0, 'mm', { min: 0 }), undefined)
  assert.equal(outside(0, 'mm', { min: 0, above: true }), 'This must be more than 0 mm.')
  assert.equal(outside(91, '°', { min: 0, max: 90 }), 'This must be at least 0 ° and at most 90 °.')
  assert.equal(outside(90, '°', { min: 0, max: 90 }), undefined)
})

test('what hardly any car has is asked about, with the slip that would explain it', () => {
  const radius = [150, 600]
  assert.equal(unusual(310, 'mm', radius), undefined)
  assert.equal(unusual(150, 'mm', radius), undefined)
  assert.match(unusual(12, 'mm', radius) ?? '', /^Usually 150 mm to 600 mm\. Was 12 in, which is 304\.8 mm, meant\?$/)
  assert.match(unusual(310 * 25.4, 'mm', radius) ?? '', /Was 310 mm meant/) // typed in millimetres on a page in inches
  assert.match(unusual(3100, 'mm', radius) ?? '', /Was 310 mm meant/)
  assert.match(unusual(-310, 'mm', radius) ?? '', /Was 310 mm meant/)
  assert.match(unusual(99999, 'mm', radius) ?? '', /600 mm\. Is it meant\?$/)
  assert.match(unusual(4400, 'kg', [80, 4000]) ?? '', /4400 lb, which is 1996 kg,/)
  assert.equal(unusual(12, 'mm', undefined), undefined)
})

test('a field is told where it stands by names, in words, without its unit', () => {
  const design = { ends: [{ name: 'Front' }], parts: [{ name: 'Tie rod' }] } as unknown as Parameters<typeof where>[1]
  assert.equal(where('design.ends.0.end.wheel.loaded_radius_mm', design), 'Front, wheel, loaded radius')
  assert.equal(where('parts.0.end_a.showing_mm', design), 'Tie rod, end a, showing')
  assert.equal(where('ends.3.name', design), 'ends, 4, name')
  assert.equal(where('car.mass_kg'), 'car, mass')
})
