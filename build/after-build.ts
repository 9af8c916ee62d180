import { readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { join, parse } from 'node:path'
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
        await bundle(home, 'src/server/app/checkpoint-worker.ts', 'dist/workers/checkpoints.mjs')
        compress(join(home, 'dist/client'))
      },
    },
  }
}

/** A program for Node, in parts that are loaded when they are asked for; packages are left outside: they are installed beside it. */
export async function bundle(home: string, from: string, to: string): Promise<void> {
  const { dir, name, ext } = parse(join(home, to))
  rmSync(join(dir, `${name}-parts`), { recursive: true, force: true })
  await build({
    entryPoints: [{ in: join(home, from), out: name }],
    outdir: dir,
    outExtension: { '.js': ext },
    splitting: true,
    chunkNames: `${name}-parts/[name]-[hash]`,
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
