import assert from 'node:assert/strict'
import { test } from 'node:test'
import { dependsOn, jointsOf, withPatch, withoutPart } from '../src/api/tied'
import type { Design } from '../src/api'

const link = { id: 'l', kind: 'link', between: { kind: 'end', end_id: 'e1' } }
const free = { id: 'f', kind: 'link', between: { kind: 'length' } }
const tab = { id: 't', kind: 'tab_pair' }
const joint = { id: 'j', held: { kind: 'end_of_link', part: 'l', end: 'a' }, by: 't', bolt: null }
const made = (change: Record<string, unknown> = {}): Design =>
  ({
    parts: [link, free, tab], joints: [joint], mounts: [], settings: { units: 'mm' }, catalogue: { tubes: [{ key: 'x', od: 1 }], joints: [] },
    ends: [{ id: 'e1', name: 'Front', end: { points: 1 }, box: 1 }, { id: 'e2', name: 'Rear', end: { points: 2 }, box: 2 }],
    car: { mass: 1 }, loads: { cases: [] }, note: '', ...change,
  }) as unknown as Design // prettier-ignore

const key = (design: Design, ids: string[]) => JSON.stringify(dependsOn(design, ids))

test('the figures of a part tied to an end follow the car, the loads and that end, and no other end', () => {
  const before = key(made(), ['l'])
  assert.notEqual(key(made({ car: { mass: 2 } }), ['l']), before)
  assert.notEqual(key(made({ loads: { cases: [1] } }), ['l']), before)
  assert.notEqual(key(made({ settings: { units: 'in' } }), ['l']), before)
  const ends = (points: number[]) =>
    points.map((p, i) => ({ id: `e${i + 1}`, name: '', end: { points: p }, box: i + 1 }))
  assert.notEqual(key(made({ ends: ends([9, 2]) }), ['l']), before)
  assert.equal(key(made({ ends: ends([1, 9]) }), ['l']), before)
  assert.equal(key(made({ note: 'other' }), ['l']), before)
})

test('a bracket follows what it holds, and what that follows', () => {
  const before = key(made(), ['t'])
  assert.notEqual(key(made({ parts: [{ ...link, note: 'changed' }, free, tab] }), ['t']), before)
  assert.notEqual(key(made({ car: { mass: 2 } }), ['t']), before)
  assert.equal(key(made({ parts: [link, { ...free, note: 'changed' }, tab] }), ['t']), before)
})

test('a part of no end asks nothing of the car', () => {
  const before = key(made(), ['f'])
  assert.equal(key(made({ car: { mass: 2 } }), ['f']), before)
  assert.notEqual(key(made({ catalogue: { tubes: [], joints: [] } }), ['f']), before)
})

test('an answer goes in the place of what has its id, what is new is added, and all else stays itself', () => {
  const design = made()
  const patch = {
    parts: [{ ...tab, note: 'new' }, { id: 'n', kind: 'link' }], joints: [{ ...joint, bolt: 'b' }], rows: { tubes: [{ key: 'y' }, { key: 'x', od: 2 }] },
  } as unknown as Parameters<typeof withPatch>[1] // prettier-ignore
  const found = withPatch(design, patch)
  assert.deepEqual(found.parts.map((part) => part.id), ['l', 'f', 't', 'n']) // prettier-ignore
  assert.equal(found.parts[0], design.parts[0])
  assert.equal((found.parts[2] as { note?: string }).note, 'new')
  assert.equal(found.joints[0]!.bolt, 'b')
  assert.deepEqual(found.catalogue.tubes, [{ key: 'x', od: 2 }, { key: 'y' }])
  assert.equal(found.catalogue.joints, design.catalogue.joints)
  assert.equal(design.joints[0]!.bolt, null)
})

test('a part that is taken out takes the joints with it at which it was held, or held another', () => {
  assert.equal(jointsOf(made(), 'l').length, 1)
  assert.equal(jointsOf(made(), 't').length, 1)
  assert.equal(jointsOf(made(), 'f').length, 0)
  for (const id of ['l', 't']) assert.deepEqual(withoutPart(made(), id).joints, [])
  assert.equal(withoutPart(made(), 'f').joints.length, 1)
  assert.deepEqual(withoutPart(made(), 'l').parts.map((part) => part.id), ['f', 't']) // prettier-ignore
})
