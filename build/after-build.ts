import { readFileSync, readdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { brotliCompressSync, constants, gzipSync } from 'node:zlib'
import type { AstroIntegration } from 'astro'
import { build } from 'esbuild'

/** What Astro does not build: the worker and the commands, and the compressed twins of what the browser loads. */
export function afterBuild(): AstroIntegration {
  return {
    name: 'rovant-after-build',
    hooks: {
      'astro:build:done': async () => {
        const home = fileURLToPath(new URL('..', import.meta.url))
        await bundle(home, 'src/server/app/worker.ts', 'dist/workers/jobs.mjs')
        compress(join(home, 'dist/client'))
      },
    },
  }
}

/** One file for Node, packages left outside: they are installed beside it. */
export async function bundle(home: string, from: string, to: string): Promise<void> {
  await build({
    entryPoints: [join(home, from)],
    outfile: join(home, to),
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    packages: 'external',
    logLevel: 'warning',
  })
}

function compress(folder: string): void {
  for (const entry of readdirSync(folder, { withFileTypes: true, recursive: true })) {
    if (!entry.isFile() || !/\.(js|css|svg|json)$/.test(entry.name)) continue
    const file = join(entry.parentPath, entry.name)
    const bytes = readFileSync(file)
    writeFileSync(`${file}.br`, brotliCompressSync(bytes, { params: { [constants.BROTLI_PARAM_QUALITY]: 11 } }))
    writeFileSync(`${file}.gz`, gzipSync(bytes))
  }
}
