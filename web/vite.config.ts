import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [react()],
  html: { cspNonce: '__NONCE__' },
  build: {
    assetsInlineLimit: 0,
    sourcemap: false,
    chunkSizeWarningLimit: 900,
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            { name: 'react', test: /node_modules[\\/](react|react-dom|react-router|scheduler)[\\/]/, priority: 30 },
            // what a phone's card needs, in one piece rather than in crumbs
            { name: 'cards', test: /src[\\/]features[\\/]cards[\\/]/, priority: 20 },
            { name: 'base', test: /@mui[\\/]material[\\/](Box|Typography|styles)[\\/]/, priority: 20 },
          ],
        },
      },
    },
  },
})
