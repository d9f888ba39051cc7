import assert from 'node:assert/strict'
import { test } from 'node:test'
import { plainLength } from '../src/quantity/plain'

test('a decimal is read here to the last digit, bare or with its unit, and all else by the core', () => {
  assert.deepEqual(plainLength('23.1', 'mm', false), { mm: 23.1, typed: '23.1' })
  assert.deepEqual(plainLength(' 23.1000 mm ', 'mm', false), { mm: 23.1, typed: '23.1000 mm' })
  assert.deepEqual(plainLength('1.9375 in', 'mm', false), { mm: 49.2125, typed: '1.9375 in' })
  assert.deepEqual(plainLength('1.9375', 'in', false), { mm: 49.2125, typed: '1.9375' })
  assert.deepEqual(plainLength('49.2125mm', 'in', false), { mm: 49.2125, typed: '49.2125mm' })
  assert.deepEqual(plainLength('−12.5 mm', 'mm', true), { mm: -12.5, typed: '−12.5 mm' })
  for (const text of [
    '',
    '1 15/16',
    '1 15/16 in',
    '2 ft',
    '3 m',
    '23,1',
    '12 mm mm',
    '5 cm',
    '-3 mm',
    '0 mm',
    '1e3',
    '23.1 i',
  ])
    assert.equal(plainLength(text, 'mm', false), null, text)
})
