import { fileURLToPath } from 'node:url'
import { bundle } from './after-build.ts'

const home = fileURLToPath(new URL('..', import.meta.url))
await bundle(home, 'src/cli/main.ts', 'dist/cli/main.mjs')
for (const name of ['tracker', 'mail', 'sign-on', 'crossing-desk'])
  await bundle(home, `standins/${name}/main.ts`, `dist/standins/${name}.mjs`)
