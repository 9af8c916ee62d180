import { readdirSync, readFileSync } from 'node:fs'
import { join, relative } from 'node:path'
import { fileURLToPath } from 'node:url'

export const home = fileURLToPath(new URL('../..', import.meta.url))

export interface Module {
  readonly file: string
  readonly layer: string
  readonly imports: readonly string[]
}

/** Every module below a folder, its tests aside, with what it imports. */
export function modulesOf(root: string, folder: string): Module[] {
  return readdirSync(join(root, folder), { withFileTypes: true, recursive: true })
    .filter((entry) => entry.isFile() && /\.(tsx?|astro)$/.test(entry.name) && !/\.test\.|\.d\.ts$/.test(entry.name))
    .map((entry) => {
      const file = relative(root, join(entry.parentPath, entry.name))
      const parts = file.split('/')
      const text = readFileSync(join(root, file), 'utf8')
      return {
        file,
        layer: (parts[0] === 'src' ? parts[1] : parts[0]) ?? '',
        imports: Array.from(
          text.matchAll(/^(?:import|export)\s[^;'"]*?from '([^']+)'|^import '([^']+)'|import\('([^']+)'\)/gm),
          (match) => match[1] ?? match[2] ?? match[3] ?? '',
        ),
      }
    })
}

export type Graph = ReadonlyMap<string, ReadonlySet<string>>

/** Which layer imports which, and in a layer which area imports which; from the imports themselves. */
export function graphOf(modules: readonly Module[], place: (path: string) => string | undefined): Graph {
  const graph = new Map<string, Set<string>>()
  for (const { file, imports } of modules) {
    const from = place(file)
    if (from === undefined) continue
    const known = graph.get(from) ?? new Set()
    for (const target of imports) {
      const to = target.startsWith('#') ? place(target.replace(/^#demo/, 'demo').replace(/^#/, 'src/')) : undefined
      if (to !== undefined && to !== from) known.add(to)
    }
    graph.set(from, known)
  }
  return graph
}

/** Tells the area of a layer that a module is in. */
export const areaOf =
  (layer: string) =>
  (path: string): string | undefined =>
    new RegExp(`^src/${layer}/([^/]+)/`).exec(path)?.[1]
