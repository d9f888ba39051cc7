// Kept on a phone that trusts the shop's certificate: the page, and the cards that were opened, for when the server is away.
// What is fetched comes from the server as long as it answers; a card that was kept says since when.
const PAGE = 'tirante-page'
const CARDS = 'tirante-cards'
const KEPT = /^\/api\/(me|jobs\/[^/]+\/(bench(\/steps)?|made))$/
const WAIT = 8000 // ms: on a wireless out of reach a request would hang for minutes

self.addEventListener('install', () => self.skipWaiting())
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()))

self.addEventListener('fetch', (event) => {
  const { request } = event
  const url = new URL(request.url)
  if (url.origin !== self.location.origin) return
  if (request.method === 'GET' && request.mode === 'navigate' && !url.pathname.startsWith('/api/'))
    event.respondWith(page(request))
  else if (request.method === 'GET' && url.pathname.startsWith('/assets/')) event.respondWith(asset(request))
  else if (request.method === 'GET' && KEPT.test(url.pathname)) event.respondWith(card(request))
  else if (request.method === 'POST' && url.pathname === '/api/sign-out') event.respondWith(signedOut(request))
})

async function fromServer(request) {
  const patience = new AbortController()
  const timer = setTimeout(() => patience.abort(), WAIT)
  try {
    return await fetch(request, { signal: patience.signal })
  } finally {
    clearTimeout(timer)
  }
}

const scriptOf = (text) => /\/assets\/[^"']+\.js/.exec(text)?.[0]

async function page(request) {
  const kept = await caches.open(PAGE)
  try {
    const found = await fromServer(request)
    if (found.ok && (found.headers.get('Content-Type') ?? '').startsWith('text/html')) {
      const before = await kept.match('/')
      const other = before && scriptOf(await before.text()) !== scriptOf(await found.clone().text())
      if (other) for (const one of await kept.keys()) await kept.delete(one) // another build: its old pieces are not wanted
      await kept.put('/', found.clone())
    }
    return found
  } catch (error) {
    const before = await kept.match('/')
    if (before) return before
    throw error
  }
}

async function asset(request) {
  const kept = await caches.open(PAGE)
  const before = await kept.match(request) // its name changes with what is in it
  if (before) return before
  const found = await fetch(request)
  if (found.ok) await kept.put(request, found.clone())
  return found
}

async function card(request) {
  const kept = await caches.open(CARDS)
  let found
  try {
    found = await fromServer(request)
  } catch (error) {
    const before = await kept.match(request.url)
    if (before) return before
    throw error
  }
  const out = new URL(request.url).pathname === '/api/me' && found.ok && !(await found.clone().json()).me
  if (out || found.status === 401 || found.status === 403) await caches.delete(CARDS)
  else if (found.ok) {
    const headers = new Headers(found.headers)
    headers.set('X-Kept-At', new Date().toISOString())
    headers.delete('Content-Encoding')
    await kept.put(request.url, new Response(await found.clone().blob(), { status: 200, headers }))
  }
  return found
}

async function signedOut(request) {
  await caches.delete(CARDS)
  return fetch(request)
}
