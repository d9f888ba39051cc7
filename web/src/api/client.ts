import createClient from 'openapi-fetch'
import { useSyncExternalStore } from 'react'
import type { paths } from './generated'
import type { PicturesBody, ProblemBody } from './types'

/** An answer of the server that is not what was asked for; `status` 0: no answer at all. */
export class ApiProblem extends Error {
  readonly status: number
  readonly body: ProblemBody

  constructor(status: number, body: ProblemBody) {
    super(body.message)
    this.status = status
    this.body = body
  }

  /** Worth trying again by itself: the server or its database is away or busy. */
  get passing(): boolean {
    return this.status === 0 || this.status === 502 || this.status === 503
  }
}

const away: ProblemBody = {
  code: 'server_away',
  message: 'The server does not answer. Your edits are kept on this page and saved when it is back.',
  issues: [],
  request_id: null,
  current: null,
}

// whether the last answer was one that this phone had kept, and from when
const kept = { at: null as string | null, tell: new Set<() => void>() }

function toldKept(at: string | null) {
  if (at === kept.at) return
  kept.at = at
  kept.tell.forEach((one) => one())
}

/** From when what is shown is, where the server is away and this phone had kept it; null while the server answers. */
export function useKeptAt(): string | null {
  return useSyncExternalStore(
    (tell) => {
      kept.tell.add(tell)
      return () => kept.tell.delete(tell)
    },
    () => kept.at,
  )
}

const client = createClient<paths>({ baseUrl: '' })

// of the session: what every change brings along, and who is told when it has ended
const session = { mark: '', ended: () => undefined as void }
client.use({
  onRequest: ({ request }) => {
    if (session.mark && request.method !== 'GET') request.headers.set('X-Csrf', session.mark)
    return request
  },
  onResponse: ({ response }) => {
    if (response.status === 401) session.ended()
    toldKept(response.headers.get('X-Kept-At'))
    return response
  },
})

/** What changes bring along from here on. */
export function bringMark(mark: string) {
  session.mark = mark
}

/** Whom to tell when the server asks to sign in. */
export function whenEnded(tell: () => void) {
  session.ended = tell
}

/** The data of an answer, or an `ApiProblem`. */
export async function answer<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<NonNullable<T>> {
  let found
  try {
    found = await call
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw error
    throw new ApiProblem(0, away)
  }
  if (found.data !== undefined && found.data !== null) return found.data
  throw new ApiProblem(found.response.status, (found.error as ProblemBody | undefined) ?? away)
}

/** Sends a picture as the camera made it; the server writes it anew. */
export async function sendPicture(jobId: string, file: File, of: Record<string, string>): Promise<PicturesBody> {
  const asked = new URLSearchParams(of)
  let found
  try {
    found = await fetch(`/api/jobs/${jobId}/pictures?${asked.toString()}`, {
      method: 'POST',
      body: file,
      headers: { 'Content-Type': file.type || 'image/jpeg', 'X-Csrf': session.mark },
    })
  } catch {
    throw new ApiProblem(0, {
      ...away,
      message: 'The server does not answer, and a picture is not kept here. Take it again when it is back.',
    })
  }
  if (found.status === 401) session.ended()
  const body = (await found.json().catch(() => away)) as unknown
  if (found.ok) return body as PicturesBody
  throw new ApiProblem(found.status, body as ProblemBody)
}

export const api = client
/** Random version-7 UUID: the time in front, so that ids sort by when they were made. */
export function newId(now = Date.now()): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16))
  for (let i = 0; i < 6; i++) bytes[i] = Math.floor(now / 2 ** (8 * (5 - i))) % 256
  bytes[6] = (bytes[6]! & 0x0f) | 0x70
  bytes[8] = (bytes[8]! & 0x3f) | 0x80
  const hex = [...bytes].map((byte) => byte.toString(16).padStart(2, '0')).join('')
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`
}
