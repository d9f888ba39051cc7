import type { Design } from '../../api'

/** An edit that is not saved yet, in the browser's storage. */
export interface Stashed {
  version: number
  design: Design
  /** What it grew from, so that another's edit can be put together with it. */
  base?: Design
  /** What is on its way to the server: found there later, it is this page's own and no other's. */
  sent?: Design
}

const PREFIX = 'tirante:unsaved:'
const lockName = (tab: string) => `tirante:tab:${tab}`

const KEY = 'tirante:tab'
let tab = read(() => sessionStorage.getItem(KEY)) ?? fresh()

function read<T>(get: () => T): T | null {
  try {
    return get()
  } catch {
    return null // a forbidden storage leaves the page itself as the only keeper
  }
}

function fresh(): string {
  const made = crypto.randomUUID()
  read(() => sessionStorage.setItem(KEY, made))
  return made
}

/** Hold this tab's name while it is open; a duplicated tab, which copies the name, takes another. */
let held: Promise<void> | null = null
function hold(): Promise<void> {
  held ??= new Promise<void>((named) => {
    // a page that is not served over a safe connection has no locks: then its own name is all there is
    if (!navigator.locks) return named()
    void navigator.locks.request(lockName(tab), { ifAvailable: true }, (lock) => {
      if (lock) {
        named()
        return new Promise(() => undefined)
      }
      tab = fresh()
      held = null
      void hold().then(named)
    })
  })
  return held
}

/** What this tab's own keeping of a job is called, once the tab has its name. */
export async function ownKey(jobId: string): Promise<string> {
  await hold()
  return keyOf(jobId)
}

const keyOf = (jobId: string, of = tab) => `${PREFIX}${jobId}:${of}`

/** Keep an edit until it is saved; each tab has its own, so that two of them never lose one another's. */
export const keep = (jobId: string, stashed: Stashed) =>
  read(() => localStorage.setItem(keyOf(jobId), JSON.stringify(stashed)))

/** It is saved. */
export const drop = (jobId: string) => read(() => localStorage.removeItem(keyOf(jobId)))

/** What this tab, or one that was closed, left unsaved; it is this tab's to save from now on. */
export async function takeOver(jobId: string): Promise<Stashed | null> {
  await hold()
  const living = new Set((navigator.locks ? await navigator.locks.query() : {}).held?.map((lock) => lock.name))
  const mine = keyOf(jobId)
  const keys = read(() => Object.keys(localStorage).filter((key) => key.startsWith(`${PREFIX}${jobId}:`))) ?? []
  const left = keys.filter((key) => key !== mine && !living.has(lockName(key.split(':').at(-1) ?? '')))
  const from = keys.includes(mine) ? mine : left[0]
  if (!from) return null
  const text = read(() => localStorage.getItem(from))
  try {
    const found = JSON.parse(text ?? '') as Stashed
    if (from !== mine) read(() => (localStorage.setItem(mine, text!), localStorage.removeItem(from)))
    return found
  } catch {
    read(() => localStorage.removeItem(from))
    return null
  }
}
