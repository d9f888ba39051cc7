import { useQuery } from '@tanstack/react-query'

/** Whether this browser keeps cards for when the server is away: only where it trusts the shop's certificate. */
export type Keeping = 'keeps' | 'no trust' | 'cannot'

async function begin(): Promise<Keeping> {
  if (!('serviceWorker' in navigator)) return 'cannot'
  try {
    await navigator.serviceWorker.register('/away.js')
    await navigator.serviceWorker.ready
  } catch {
    return 'no trust'
  }
  // what this page fetched before anything was kept
  const kept = await caches.open('tirante-page')
  const names = performance.getEntriesByType('resource').map((one) => new URL(one.name))
  const own = names.filter((one) => one.origin === location.origin && one.pathname.startsWith('/assets/'))
  const missing = []
  for (const one of own) if (!(await kept.match(one.href))) missing.push(one.href)
  await kept.addAll([...new Set(missing), ...((await kept.match('/')) ? [] : ['/'])])
  return 'keeps'
}

/** Asks the browser to keep the page; over the shop's network only, this machine itself is never away. */
export function useKeeping(lan: boolean) {
  return useQuery({ queryKey: ['keeping'], queryFn: begin, enabled: lan, staleTime: 15_000, retry: false }).data
}

export const NO_TRUST =
  'This phone does not trust the shop’s certificate: nothing is kept on it, and without the server it shows nothing.'
