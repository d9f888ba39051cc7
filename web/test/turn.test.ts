import assert from 'node:assert/strict'
import { test } from 'node:test'
import { inTurn } from '../src/api/turn'

/** Let what is settled be told to those who wait. */
const rest = () => new Promise((done) => setTimeout(done, 0))

test('two ask at a time, in the order they came; who is aborted while waiting asks nothing', async () => {
  const asked: string[] = []
  const ends = new Map<string, () => void>()
  const ask = (name: string) => () =>
    new Promise<string>((done) => {
      asked.push(name)
      ends.set(name, () => done(name))
    })
  const quiet = new AbortController()
  const gone = new AbortController()
  const first = inTurn(quiet.signal, ask('first'))
  const second = inTurn(quiet.signal, () => Promise.reject(new Error('refused')))
  const third = inTurn(gone.signal, ask('third'))
  const fourth = inTurn(quiet.signal, ask('fourth'))
  const fifth = inTurn(quiet.signal, ask('fifth'))
  const left = assert.rejects(third, { name: 'AbortError' })
  gone.abort()
  await left
  await assert.rejects(second, /refused/) // its place passes on all the same
  await rest()
  assert.deepEqual(asked, ['first', 'fourth'])
  ends.get('fourth')!()
  await rest()
  assert.deepEqual(asked, ['first', 'fourth', 'fifth'])
  ends.get('first')!()
  ends.get('fifth')!()
  assert.deepEqual(await Promise.all([first, fourth, fifth]), ['first', 'fourth', 'fifth'])
  // all places are free again: two at once, the third waits
  const again = ['a', 'b', 'c'].map((name) => inTurn(quiet.signal, ask(name)))
  await rest()
  assert.deepEqual(asked.slice(3), ['a', 'b'])
  for (const name of ['a', 'b', 'c']) {
    await rest()
    ends.get(name)!()
  }
  await Promise.all(again)
})
