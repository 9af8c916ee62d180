import { fileURLToPath } from 'node:url'
import { bundle } from './after-build.ts'

await bundle(fileURLToPath(new URL('..', import.meta.url)), 'src/cli/main.ts', 'dist/cli/main.mjs')
await bundle(fileURLToPath(new URL('..', import.meta.url)), 'standins/tracker/main.ts', 'dist/standins/tracker.mjs')
