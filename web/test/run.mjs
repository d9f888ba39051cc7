// Runs the front end's own tests, those of what needs no page: `node test/run.mjs`, called by pytest. Vite reads the TypeScript.
import { readdirSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { createServer } from 'vite'

const root = fileURLToPath(new URL('..', import.meta.url))
const server = await createServer({
  root,
  configFile: false,
  appType: 'custom',
  logLevel: 'error',
  optimizeDeps: { noDiscovery: true },
  server: { middlewareMode: true, ws: false, watch: null },
})
const names = readdirSync(new URL('.', import.meta.url)).filter((one) => one.endsWith('.test.ts'))
await Promise.all(names.map((name) => server.ssrLoadModule(`/test/${name}`)))
