import assert from 'node:assert/strict'
import { test } from 'node:test'
import { hashKey } from '@tanstack/react-query'
import { hashOfKey } from '../src/app/queryKeys'

test('two keys come to one hash exactly where their contents are one, whichever objects hold them', () => {
  const keys = [
    ['drawing', { a: 1, b: [1, 2] }, 0, null],
    ['drawing', { b: [1, 2], a: 1 }, 0, null],
    ['drawing', { a: 1, b: [1, 2] }, 0, undefined],
    ['drawing', { a: 1, b: [2, 1] }, 0, null],
    ['drawing', '{"a":1,"b":[1,2]}', 0, null],
    ['drawing', { a: 1, b: [1, 2] }, '0', null],
    ['drawing', '[{"a":1,"b":[1,2]}]', 0, null],
    ['drawing'],
    ['drawing', {}],
    ['drawing', []],
  ]
  for (const one of keys) {
    assert.equal(hashOfKey(one), hashOfKey(structuredClone(one)))
    for (const other of keys) assert.equal(hashOfKey(one) === hashOfKey(other), hashKey(one) === hashKey(other))
  }
})
