import assert from 'node:assert/strict'
import { test } from 'node:test'
import { fieldText, figure, lengthText, lengthWithUnit, otherUnit, told } from '../src/quantity/format'

const style = { decimals: 1, denominator: 32 }
const read = (text: string): number => {
  const sign = text.startsWith('−') ? -1 : 1
  const parts = text.replace('−', '').split(' ')
  const value = parts.reduce((sum, part) => {
    const [top = '0', bottom = '1'] = part.split('/')
    return sum + Number(top) / Number(bottom)
  }, 0)
  return sign * value
}

test('an inch is 25.4 mm exactly, and a fraction is told in its lowest terms', () => {
  assert.equal(lengthText(25.4, 'in', style), '1')
  assert.equal(lengthText(546.1, 'in', style), '21 1/2')
  assert.equal(lengthText(12.7, 'in', style), '1/2')
  assert.equal(lengthText(25.4 * (3 + 14 / 32), 'in', style), '3 7/16')
  assert.equal(lengthText(0, 'in', style), '0')
})

test('what is written of a length is within half a step of it, whatever the step', () => {
  for (const denominator of [16, 32, 64])
    for (let mm = -700; mm < 700; mm += 13.37) {
      const found = read(lengthText(mm, 'in', { decimals: 1, denominator })) * 25.4
      assert.ok(Math.abs(found - mm) <= 25.4 / denominator / 2 + 1e-9, `${mm}: ${found}`)
    }
  for (const decimals of [0, 1, 2, 3])
    for (let mm = -70; mm < 70; mm += 1.2347) {
      const found = Number(lengthText(mm, 'mm', { decimals, denominator: 32 }).replace('−', '-'))
      assert.ok(Math.abs(found - mm) <= 0.5 * 10 ** -decimals + 1e-9, `${mm}: ${found}`)
    }
})

test('nothing is never told as less than nothing', () => {
  assert.equal(lengthText(-0.01, 'mm', style), '0.0')
  assert.equal(lengthText(-0.1, 'in', style), '0')
  assert.equal(lengthText(-12.7, 'in', style), '−1/2')
  assert.equal(lengthText(-12.75, 'mm', style), '−12.8')
})

test('a field shows all the digits that were typed, three at most, and never fewer than the shop writes', () => {
  assert.equal(fieldText(546.125, 'mm', style), '546.125')
  assert.equal(fieldText(546.12345, 'mm', style), '546.123')
  assert.equal(fieldText(546, 'mm', style), '546.0')
  assert.equal(fieldText(-0.5, 'mm', { ...style, decimals: 2 }), '−0.50')
  assert.equal(fieldText(546.1, 'in', style), '21 1/2')
})

test('a unit stands beside every length, and the other one is the other', () => {
  assert.equal(lengthWithUnit(546.1, 'mm', style), '546.1 mm')
  assert.equal(lengthWithUnit(546.1, 'in', style), '21 1/2″')
  assert.deepEqual([otherUnit('mm'), otherUnit('in')], ['in', 'mm'])
})

test('a capacity is never rounded up, a demand to the nearest', () => {
  assert.equal(figure(19_999, 'N', true), '19.9 kN')
  assert.equal(figure(19_999, 'N'), '20.0 kN')
  assert.equal(figure(1_239, 'N', true), '1.23 kN')
  assert.equal(figure(123_900, 'N', true), '123 kN')
  assert.equal(figure(99.96, 'MPa', true), '99.9 MPa')
  assert.equal(figure(3.456, ''), '3.46')
  assert.equal(figure(-1_239, 'N', true), '-1.24 kN')
  for (const value of [Number.NaN, Infinity]) assert.equal(figure(value, 'N'), '–')
  for (let force = 1; force < 400_000; force *= 1.37)
    assert.ok(parseFloat(figure(force, 'N', true)) * 1000 <= force + 1e-6, `${force}`)
})

test('a half is rounded away from zero as it is read, as the core does', () => {
  const of = (mm: number) => lengthText(mm, 'mm', style)
  assert.deepEqual([819.15, 1022.35, 0.25, 0.35, -819.15].map(of), ['819.2', '1022.4', '0.3', '0.4', '−819.2'])
  assert.equal(of(1016 - 196.85), '819.2')
  assert.equal(of(819.149), '819.1')
})

test('a bound in a sentence is read in inches on its right side', () => {
  // 32 mm are 1.2598 in, 4.7 mm are 0.18504 in
  for (const [text, inches] of [
    ['saw 546.1 mm off', 'saw 21 1/2″ (546.1 mm) off'],
    ['make it 32.0 mm or more, not 32.0 mm', 'make it 1 9/32″ (32.0 mm) or more, not 1 1/4″ (32.0 mm)'],
    ['32 mm wide or less', '1 1/4″ (32 mm) wide or less'],
    ['41.0 mm long or less', '1 19/32″ (41.0 mm) long or less'],
    ['at least 4.7 mm', 'at least 0.186″ (4.7 mm)'],
    ['4.7 mm at most', '0.185″ (4.7 mm) at most'],
    ['25.4 mm or more, 50.8 mm or less', '1″ (25.4 mm) or more, 2″ (50.8 mm) or less'],
    ['cold, ± 0.5 mm', 'cold, ± 0.019″ (0.5 mm)'],
    ['other sizes ±0.3 mm', 'other sizes ±0.011″ (0.3 mm)'],
    ['± 25.4 mm', '± 1.000″ (25.4 mm)'],
    ['hole ⌀14.4 mm', 'hole ⌀0.567″ (14.4 mm)'],
    ['hole ⌀16.27 mm', 'hole ⌀41/64″ (16.27 mm)'],
    ['a ⌀12.7 mm bar', 'a ⌀1/2″ (12.7 mm) bar'],
    ['⌀26 × 1.0 mm', '⌀1.024 × 0.039″ (26 × 1.0 mm)'],
  ] as const) {
    assert.equal(told(text, 'in', style), inches)
    assert.equal(told(text, 'mm', style), text)
  }
})
