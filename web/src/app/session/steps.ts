import { createStore, del, entries, get, set, type UseStore } from 'idb-keyval'
import type { Design } from '../../api'

/** A state that can be gone back to, and what was done after it. */
export interface Step {
  design: Design
  label: string
}

/** Undo and redo of a job as this tab left them. */
interface Kept {
  /** What stood when they were kept, and the server's version then. */
  design: Design
  version: number
  past: Step[]
  future: Step[]
  at: number
}

const WEEK_MS = 7 * 24 * 3600 * 1000
const MOST = 60

let opened: UseStore | null = null
const store = () => (opened ??= createStore('tirante', 'steps'))

/** Keep them for a page that is loaded again; what several states share is kept once. */
export async function keepSteps(key: string, steps: Omit<Kept, 'at'>): Promise<void> {
  const { past, future } = steps
  try {
    await set(key, { ...steps, past: past.slice(-MOST), future: future.slice(-MOST), at: Date.now() }, store())
  } catch {
    // a forbidden or full storage: undo lasts as long as the page does
  }
}

/** Those that this tab left, if what stands is what it left: nobody else's work is undone with them. */
export async function keptSteps(key: string, design: Design, version: number): Promise<Kept | null> {
  try {
    const found = await get<Kept>(key, store())
    void forgetOld()
    if (!found) return null
    const same = JSON.stringify(found.design) === JSON.stringify(design)
    if (same) return found
    if (found.version !== version) return null
    return { ...found, past: [...found.past, { design: found.design, label: 'left' }], future: [] }
  } catch {
    return null
  }
}

async function forgetOld(): Promise<void> {
  for (const [key, kept] of await entries<string, Kept>(store()))
    if (Date.now() - kept.at > WEEK_MS) await del(key, store())
}
