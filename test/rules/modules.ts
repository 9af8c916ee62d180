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
