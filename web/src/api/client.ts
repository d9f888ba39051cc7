import createClient from 'openapi-fetch'
import type { paths } from './generated'
import type { ProblemBody } from './types'

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

const client = createClient<paths>({ baseUrl: '' })

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

export const api = client
