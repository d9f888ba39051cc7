import assert from 'node:assert/strict'
import { beforeEach, mock, test } from 'node:test'
import type { Design, DraftOut } from '../src/api'

// the browser, as far as a session asks for it
const kept = new Map<string, string>()
const storage = {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, text: string) => void kept.set(key, text),
  removeItem: (key: string) => void kept.delete(key),
}
const local = new Proxy(storage, {
  ownKeys: () => [...kept.keys()],
  getOwnPropertyDescriptor: () => ({ enumerable: true, configurable: true }),
})
type Asked = {
  method: string
  path: string
  body: Record<string, unknown>
  version: string | null
  signal: AbortSignal
}
type Reply = { status: number; body: unknown } | 'away' | 'never'
let asked: Asked[] = []
const leaving: (() => void)[] = []
let reply: (call: Asked) => Reply = () => ({ status: 200, body: {} })
const server = async (request: Request): Promise<Response> => {
  const text = await request.clone().text()
  const body = text ? (JSON.parse(text) as Record<string, unknown>) : {}
  const call = {
    method: request.method, path: new URL(request.url).pathname, body, version: request.headers.get('If-Match'), signal: request.signal,
  } // prettier-ignore
  asked.push(call)
  const found = reply(call)
  if (found === 'away') throw new TypeError('no connection')
  if (found === 'never')
    return new Promise((_, stop) =>
      request.signal.addEventListener('abort', () => stop(new DOMException('aborted', 'AbortError'))),
    )
  return new Response(JSON.stringify(found.body), {
    status: found.status,
    headers: { 'Content-Type': 'application/json' },
  })
}
class LocalRequest extends Request {
  constructor(input: RequestInfo | URL, init?: RequestInit) {
    super(typeof input === 'string' ? new URL(input, 'http://127.0.0.1') : input, init)
  }
}
Object.assign(globalThis, {
  window: globalThis,
  localStorage: local,
  sessionStorage: storage,
  fetch: server,
  Request: LocalRequest,
  addEventListener: (name: string, act: () => void) => name === 'pagehide' && leaving.push(act),
  removeEventListener: (_: string, act: () => void) => void leaving.splice(leaving.indexOf(act), 1),
})
const { Session } = await import('../src/app/session/session')
const { newId } = await import('../src/api')

const draft = (change: Partial<DraftOut> = {}): DraftOut => ({
  job_id: 'job', version: 1, based_on: null, saved_at: '2026-01-01T00:00:00Z', told: [],
  design: { name: 'first', note: '', parts: [], joints: [], mounts: [], catalogue: {}, settings: {} } as unknown as Design, ...change,
}) // prettier-ignore
const named = (name: string) => (now: Design) => ({ ...now, name })
const problem = (code: string, more: Record<string, unknown> = {}) => ({
  code,
  message: code,
  issues: [],
  request_id: null,
  current: null,
  ...more,
})
const saves = () => asked.filter((call) => call.method === 'PUT')
const settled = async () => {
  for (let i = 0; i < 20; i++) await new Promise((done) => setImmediate(done))
}
const after = async (ms: number) => {
  mock.timers.tick(ms)
  await settled()
}
const good = (call: Asked): Reply =>
  call.method === 'PUT'
    ? { status: 200, body: { version: Number(call.version) + 1 } }
    : { status: 200, body: { parts: [] } }

beforeEach(() => {
  mock.timers.reset()
  mock.timers.enable({ apis: ['setTimeout', 'Date'], now: 1_767_225_600_000 })
  kept.clear()
  asked = []
  reply = good
})

test('an edit is saved a moment after the last one, once, with the version that it was made from', async () => {
  const session = new Session(draft())
  session.edit('name', named('a'))
  await after(400)
  session.edit('name', named('ab'))
  assert.equal(saves().length, 0)
  await after(600)
  assert.deepEqual(saves().map((call) => [(call.body.design as Design).name, call.version]), [['ab', '1']]) // prettier-ignore
  assert.deepEqual([session.state().save.kind, session.state().version], ['saved', 2])
  await after(5000)
  assert.equal(saves().length, 1)
})

test('all of a job is worked out after the picture of its newest edit, and a picture that never comes holds it back no longer than 0.4 s', async () => {
  let drawn: () => void = () => undefined
  const session = new Session(draft(), () => new Promise((done) => (drawn = done)))
  const evaluated = () =>
    asked.filter((call) => call.path === '/api/evaluate').map((call) => (call.body.design as Design).parts.length)
  const more = (now: Design) => ({ ...now, parts: [...now.parts, {}] }) as Design
  session.edit('part', more)
  const first = drawn
  session.edit('part', more)
  await after(100)
  assert.deepEqual([evaluated(), session.state().evaluating], [[], true])
  first()
  await settled()
  assert.deepEqual(evaluated(), [])
  drawn()
  await settled()
  assert.deepEqual([evaluated(), session.state().evaluating], [[2], false])
  session.edit('part', more)
  await after(399)
  assert.deepEqual(evaluated(), [2])
  await after(1)
  assert.deepEqual(evaluated(), [2, 3])
})

test('edits of one field within a second are one step back, and steps go both ways', async () => {
  const session = new Session(draft())
  session.edit('name', named('a'))
  session.edit('name', named('ab'))
  session.edit('note', (now) => ({ ...now, note: 'n' }))
  await after(1500)
  session.edit('note', (now) => ({ ...now, note: 'nn' }))
  const names = () => [session.state().design.name, session.state().design.note]
  session.undo()
  assert.deepEqual(names(), ['ab', 'n'])
  session.undo()
  session.undo()
  assert.deepEqual([...names(), session.state().canUndo], ['first', '', false])
  session.redo()
  session.redo()
  assert.deepEqual([...names(), session.state().canRedo], ['ab', 'n', true])
  session.edit('name', named('other'))
  assert.equal(session.state().canRedo, false)
})

test('what is dragged is one step back however long it takes, and the next drag another', async () => {
  const session = new Session(draft())
  session.edit('point in drag 1', named('a'))
  await after(5000)
  session.edit('point in drag 1', named('b'))
  session.edit('point in drag 2', named('c'))
  session.undo()
  assert.equal(session.state().design.name, 'b')
  session.undo()
  assert.equal(session.state().design.name, 'first')
})

test('a save without an answer is tried again with the same id, and stands in the browser until then', async () => {
  const session = new Session(draft())
  reply = (call) => (call.method === 'PUT' ? 'away' : good(call))
  session.edit('name', named('kept'))
  await after(600)
  assert.equal(session.state().save.kind, 'away')
  assert.match([...kept.values()].join(), /kept/)
  await after(1500)
  reply = good
  await after(1500)
  const ids = saves().map((call) => call.body.save_id)
  assert.equal(ids.length, 3)
  assert.equal(new Set(ids).size, 1)
  assert.equal(session.state().save.kind, 'saved')
  assert.ok(![...kept.keys()].some((key) => key.startsWith('tirante:unsaved')))
})

test('an error of the server is tried again; what it refuses by a field is not, until it is changed', async () => {
  const session = new Session(draft())
  reply = (call) => (call.method === 'PUT' ? { status: 500, body: problem('internal') } : good(call))
  session.edit('name', named('a'))
  await after(600)
  assert.equal(session.state().save.kind, 'away')
  reply = (call) =>
    call.method === 'PUT'
      ? { status: 422, body: problem('invalid', { issues: [{ path: 'design.name' }] }) }
      : good(call)
  await after(1500)
  assert.equal(session.state().save.kind, 'refused')
  const before = saves().length
  await after(10_000)
  assert.equal(saves().length, before)
  reply = good
  session.edit('name', named('b'))
  await after(600)
  assert.equal(session.state().save.kind, 'saved')
  const ids = saves().map((call) => call.body.save_id)
  assert.notEqual(ids.at(-1), ids[0])
})

test('a newer draft of somebody else is a conflict: nothing is saved over it, and taking theirs leaves mine one step back', async () => {
  const session = new Session(draft())
  const theirs = draft({ version: 7, design: { ...draft().design, name: 'theirs' } })
  reply = (call) => (call.method === 'PUT' ? { status: 409, body: problem('stale', { current: theirs }) } : good(call))
  session.edit('name', named('mine'))
  await after(600)
  assert.equal(session.state().save.kind, 'conflict')
  session.edit('name', named('mine still'))
  await after(5000)
  assert.equal(saves().length, 1)
  assert.equal(await session.saveNow(), false)
  session.takeTheirs()
  assert.deepEqual(
    [session.state().design.name, session.state().version, session.state().save.kind],
    ['theirs', 7, 'saved'],
  )
  session.undo()
  assert.equal(session.state().design.name, 'mine still')
})

test('a newer draft that is this very edit, saved by a page that was closed, is no conflict', async () => {
  const session = new Session(draft())
  reply = (call) =>
    call.method === 'PUT'
      ? { status: 409, body: problem('stale', { current: draft({ version: 2, design: call.body.design as Design }) }) }
      : good(call)
  session.edit('name', named('mine'))
  await after(600)
  assert.deepEqual(
    [session.state().save.kind, session.state().version, session.state().design.name],
    ['saved', 2, 'mine'],
  )
})

test('mine kept as a branch names what it was based on, and the newer draft is gone on with', async () => {
  const session = new Session(draft({ based_on: 3 }))
  const theirs = draft({ version: 7, design: { ...draft().design, name: 'theirs' } })
  reply = (call) => (call.method === 'PUT' ? { status: 409, body: problem('stale', { current: theirs }) } : good(call))
  session.edit('name', named('mine'))
  await after(600)
  reply = (call) => (call.path.endsWith('/branches') ? { status: 200, body: { number: 9 } } : good(call))
  assert.equal(await session.keepMineAsBranch('my way'), 9)
  const branch = asked.find((call) => call.path.endsWith('/branches'))!
  assert.deepEqual([branch.body.name, branch.body.based_on, (branch.body.design as Design).name], ['my way', 3, 'mine'])
  assert.equal(session.state().design.name, 'theirs')
})

test('an answer that is overtaken is aborted and never shown', async () => {
  const session = new Session(draft())
  reply = () => 'never'
  session.open()
  await settled()
  const first = asked.find((call) => call.path === '/api/evaluate')!
  reply = (call) => ({ status: 200, body: { parts: [], of: (call.body.design as Design | undefined)?.name } })
  session.edit('parts', (now) => ({ ...now, name: 'second', parts: [{ id: 'x' }] as unknown as Design['parts'] }))
  await settled()
  assert.equal(first.signal.aborted, true)
  assert.equal((session.state().evaluation as unknown as { of: string }).of, 'second')
  assert.equal(session.state().evaluating, false)
})

test('what a closed page left unsaved is taken up, and is a conflict only when somebody saved meanwhile', async () => {
  const left = { version: 1, design: { ...draft().design, name: 'left' } }
  kept.set('tirante:unsaved:job:gone', JSON.stringify(left))
  const session = new Session(draft())
  session.open()
  await settled()
  assert.equal(session.state().design.name, 'left')
  await after(600)
  assert.equal(session.state().save.kind, 'saved')
  session.undo()
  assert.equal(session.state().design.name, 'first')
  kept.clear()
  kept.set('tirante:unsaved:job:gone', JSON.stringify(left))
  const later = new Session(draft({ version: 4 }))
  later.open()
  await settled()
  assert.equal(later.state().save.kind, 'conflict')
  // unless what stands there is what this page had sent
  kept.clear()
  kept.set('tirante:unsaved:job:gone', JSON.stringify({ ...left, sent: draft().design }))
  const own = new Session(draft({ version: 2 }))
  own.open()
  await settled()
  assert.equal(own.state().save.kind, 'unsaved')
})

const merged = (change: object) => ({
  theirs: draft({ version: 5, design: { ...draft().design, note: 'theirs' } }),
  merged: { ...draft().design, name: 'mine', note: 'theirs' },
  fault: '',
  clashes: [],
  mine: ['the job: Name'],
  others: ['the job: Note'],
  ...change,
})
const refuseOnce = (answer: object) => {
  let refused = false
  reply = (call) => {
    if (call.path.endsWith('/merge')) return { status: 200, body: answer }
    if (call.method !== 'PUT') return { status: 200, body: { parts: [] } }
    if (refused) return { status: 200, body: { version: 6 } }
    refused = true
    return { status: 409, body: { code: 'stale', message: '', issues: [], current: merged({}).theirs } }
  }
}

test('what two people changed in different fields goes together, is told, and is saved over the newer version', async () => {
  const session = new Session(draft())
  session.open()
  await settled()
  refuseOnce(merged({}))
  session.edit('name', (now) => ({ ...now, name: 'mine' }))
  await after(600)
  await settled()
  const asking = asked.find((call) => call.path.endsWith('/merge'))!
  assert.deepEqual([(asking.body.base as Design).name, (asking.body.mine as Design).name], ['first', 'mine'])
  assert.equal(session.state().design.note, 'theirs')
  assert.equal(session.state().design.name, 'mine')
  assert.match(session.state().told[0]!, /Theirs: the job: Note/)
  await after(700)
  await settled()
  const saves = asked.filter((call) => call.method === 'PUT')
  assert.equal(saves.at(-1)!.version, '5')
  assert.equal((saves.at(-1)!.body.design as Design).note, 'theirs')
  assert.equal(session.state().save.kind, 'saved')
  session.undo()
  assert.deepEqual([session.state().design.name, session.state().design.note], ['mine', ''])
})

test('what both changed is asked about, and nothing is saved before it is chosen', async () => {
  const clash = { key: 'name', of: 'the job', field: 'Name', base: 'first', mine: 'mine', theirs: 'other' }
  const session = new Session(draft())
  session.open()
  await settled()
  refuseOnce(merged({ clashes: [clash] }))
  session.edit('name', (now) => ({ ...now, name: 'mine' }))
  await after(600)
  await settled()
  const { save } = session.state()
  assert.equal(save.kind, 'conflict')
  assert.deepEqual(save.kind === 'conflict' && save.merge?.clashes, [clash])
  const before = asked.filter((call) => call.method === 'PUT').length
  await after(3000)
  assert.equal(asked.filter((call) => call.method === 'PUT').length, before)
  const done = session.putTogether({ name: 'mine' })
  await settled()
  assert.equal(await done, true)
  assert.deepEqual(asked.filter((call) => call.path.endsWith('/merge')).at(-1)!.body.take, { name: 'mine' })
})

test('an edit stands in the browser a moment later, and at once when the page is left', async () => {
  const session = new Session(draft())
  session.open()
  await settled()
  reply = () => 'away'
  session.edit('name', (now) => ({ ...now, name: 'left' }))
  const written = () =>
    [...kept.entries()].filter(([key]) => key.startsWith('tirante:unsaved:job')).map(([, text]) => text)
  assert.deepEqual(written(), [])
  leaving.forEach((act) => act())
  const [text] = written()
  const found = JSON.parse(text!) as { design: Design; base: Design }
  assert.deepEqual([found.design.name, found.base.name], ['left', 'first'])
})

test('ids sort by when they were made and are version 7', () => {
  const ids = [0, 1, 255, 256, 65_536, 1_767_225_600_000].map((now) => newId(now))
  assert.deepEqual([...ids].sort(), ids)
  for (const id of ids) assert.match(id, /^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/)
  assert.equal(parseInt(newId(1_767_225_600_000).replaceAll('-', '').slice(0, 12), 16), 1_767_225_600_000)
  assert.notEqual(newId(5), newId(5))
})

test('what is foreseen is told to whoever works ahead, and nothing of it is kept, saved or judged', async () => {
  const session = new Session(draft())
  session.open()
  await settled()
  asked = []
  const told: string[] = []
  let changed = 0
  const leave = session.onForeseen((design) => told.push(design.name))
  session.subscribe(() => changed++)
  session.foresee(named('as it is typed'))
  session.foresee((now) => now)
  leave()
  session.foresee(named('nobody listens'))
  await after(5000)
  assert.deepEqual(told, ['as it is typed'])
  assert.equal(session.state().design.name, 'first')
  assert.equal(changed, 0)
  assert.deepEqual(asked, [])
  session.close()
})

test('what is being worked out gives way to a figure that is typed, and is asked again when no more is typed', async () => {
  const session = new Session(draft())
  reply = () => 'never'
  session.open()
  await settled()
  const evaluations = () => asked.filter((call) => call.path === '/api/evaluate')
  const [first] = evaluations()
  session.foresee(named('1'))
  await after(800)
  session.foresee(named('12'))
  await after(800)
  assert.deepEqual([evaluations().length, first!.signal.aborted, session.state().evaluating], [1, true, true])
  reply = good
  await after(100)
  assert.deepEqual([evaluations().length, session.state().evaluating], [2, false])
  session.foresee(named('123'))
  await after(5000)
  assert.equal(evaluations().length, 2) // what is worked out already is not asked again
  session.foresee(named('1234'))
  session.edit('name', named('1234'))
  await after(250)
  assert.equal((evaluations().at(-1)!.body.design as Design).name, '1234')
  session.close()
})
