import node from '@astrojs/node'
import react from '@astrojs/react'
import { defineConfig } from 'astro/config'
import { afterBuild } from './build/after-build.ts'

export default defineConfig({
  output: 'server',
  adapter: node({ mode: 'middleware' }),
  integrations: [react(), afterBuild()],
  devToolbar: { enabled: false },
  image: { service: { entrypoint: 'astro/assets/services/noop' } },
  // The origin of every writing request is checked in our own middleware, JSON included.
  security: { checkOrigin: false },
  session: { driver: 'memory' },
  // The hashes of its own scripts, sent with each page.
  experimental: { csp: true },
  vite: {
    ssr: {
      noExternal: true,
      external: [
        'better-sqlite3',
        '@node-rs/argon2',
        'piscina',
        'pino',
        'better-auth',
        'better-auth/adapters/drizzle',
        'exceljs',
        'pdfmake',
        'yauzl',
        '@cucumber/gherkin',
      ],
    },
    build: { chunkSizeWarningLimit: 1200, assetsInlineLimit: 0 },
  },
})
