const PLACES = 2
let free = PLACES
const waiting: (() => void)[] = []

/** Ask in turn what can wait, two at a time: a browser keeps six connections to a server, and what is pressed needs one that is free.
 *
 * Who is aborted while he waits leaves the row and asks nothing. */
export async function inTurn<T>(signal: AbortSignal, ask: () => Promise<T>): Promise<T> {
  if (free > 0) free -= 1
  else await place(signal)
  try {
    signal.throwIfAborted()
    return await ask()
  } finally {
    const next = waiting.shift()
    if (next) next()
    else free += 1
  }
}

function place(signal: AbortSignal): Promise<void> {
  return new Promise((resolve, reject) => {
    const go = () => {
      signal.removeEventListener('abort', leave)
      resolve()
    }
    const leave = () => {
      waiting.splice(waiting.indexOf(go), 1)
      reject(signal.reason as Error)
    }
    waiting.push(go)
    signal.addEventListener('abort', leave, { once: true })
  })
}
