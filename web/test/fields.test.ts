import assert from 'node:assert/strict'
import { test } from 'node:test'
import { plain, problemAt, valueAt, withoutValue, withValue } from '../src/fields/fields'
import { fieldOf } from '../src/fields/served'

const frozen = <T>(value: T): T => {
  if (value && typeof value === 'object') {
    Object.values(value).forEach(frozen)
    Object.freeze(value)
  }
  return value
}
const whole = frozen({
  name: 'a',
  links: { 'drag link, 1.5': { a: null, od_mm: 20 } },
  obstacles: [{ name: 'one' }, { name: 'two', at: [1, 2, 3] }],
})

test('a value is found by its path, names with dots and blanks and places in a list too', () => {
  assert.equal(valueAt(whole, 'links/drag link, 1.5/od_mm'), 20)
  assert.equal(valueAt(whole, 'obstacles/1/at/2'), 3)
  assert.equal(valueAt(whole, 'links/other/od_mm'), undefined)
  assert.equal(valueAt(whole, 'name/more'), undefined)
  assert.equal(valueAt(null, 'name'), undefined)
})

test('another value at a path copies what stands on the way and leaves all else as it was', () => {
  const made = withValue(whole, 'obstacles/1/name', 'three')
  assert.equal(made.obstacles[1]!.name, 'three')
  assert.equal(whole.obstacles[1]!.name, 'two')
  assert.ok(Array.isArray(made.obstacles))
  assert.equal(made.links, whole.links)
  assert.equal(made.obstacles[0], whole.obstacles[0])
  // what is missing on the way is made
  assert.deepEqual(valueAt(withValue(whole, 'bushes/front/radial', 8), 'bushes/front/radial'), 8)
  for (const path of ['name', 'links/drag link, 1.5/od_mm', 'obstacles/0/name'])
    assert.deepEqual(withValue(whole, path, valueAt(whole, path)), whole)
})

test('what is taken out is gone, of a list and of names, and what was taken from stays', () => {
  assert.deepEqual(withoutValue(whole, 'obstacles/0').obstacles, [whole.obstacles[1]])
  assert.deepEqual(withoutValue(whole, 'links/drag link, 1.5').links, {})
  assert.deepEqual(Object.keys(withoutValue(whole, 'name')), ['links', 'obstacles'])
  assert.equal(whole.obstacles.length, 2)
})

test('a problem is found where the server names its field', () => {
  const problems = new Map([['links.tie rod.od_mm', 'too thin']])
  assert.equal(problemAt(problems, 'links/tie rod/od_mm'), 'too thin')
  assert.equal(problemAt(problems, 'links/tie rod'), undefined)
  assert.deepEqual([plain('ground'), plain('lower_arm')], ['the chassis', 'lower arm'])
})

const served = {
  path: 'links/{name}/{side}/limit_deg', label: 'It allows', control: 'number', unit: '°', table: '', optional: true, empty: '', choices: [],
  least: 0, most: 90, above: true, usual: null, only: '', note: '',
} as const // prettier-ignore

test('a served field keeps its limits and its unit, and takes the names that its path leaves open', () => {
  const field = fieldOf({ ...served, choices: [] }, { name: 'tie rod', side: 'b' })
  assert.deepEqual(field, {
    kind: 'number', path: 'links/tie rod/b/limit_deg', label: 'It allows', unit: '°', optional: true, empty: undefined, whole: false,
    limits: { min: 0, max: 90, above: true, usual: undefined },
  }) // prettier-ignore
})

test('a length may be negative only where the saved model takes it', () => {
  const mm = (least: number | null) => fieldOf({ ...served, choices: [], control: 'mm', unit: 'mm', least })
  assert.equal((mm(-100) as { signed?: boolean }).signed, true)
  assert.equal((mm(0) as { signed?: boolean }).signed, false)
  assert.equal((mm(null) as { signed?: boolean }).signed, false)
})

test('choices come with the field, or from the end that it is about', () => {
  const choices = [{ value: 'a', label: 'A', why: '' }]
  const bodies = [{ value: 'ground', label: 'the chassis' }]
  const of = (table: string) => fieldOf({ ...served, control: 'choice', table, choices }, {}, { bodies })
  assert.deepEqual((of('') as { options: unknown }).options, choices)
  assert.deepEqual((of('bodies') as { options: unknown }).options, bodies)
})

test('every control of the table is drawn as what it is', () => {
  const kinds = (['text', 'note', 'length', 'whole', 'switch', 'direction', 'at'] as const).map((control) => {
    const field = fieldOf({ ...served, choices: [], control })
    return [control, field.kind, 'long' in field && field.long, 'whole' in field && field.whole]
  })
  assert.deepEqual(kinds, [
    ['text', 'text', false, false],
    ['note', 'text', true, false],
    ['length', 'length', false, false],
    ['whole', 'number', false, true],
    ['switch', 'check', false, false],
    ['direction', 'direction', false, false],
    ['at', 'at', false, false],
  ])
})
