import { existsSync } from 'node:fs'
import { mkdir, open, opendir, rename, rm, stat } from 'node:fs/promises'
import { join } from 'node:path'
import type { EvidenceStore } from '#core/talk/evidence-store.ts'
import { comingName } from './coming.ts'

/** Evidence in a folder of this machine, a file each under its hash. */
export function folderStore(folder: string): EvidenceStore {
  return {
    place: folder,
    put: async (hash, file) => {
      await mkdir(folder, { recursive: true })
      await rename(file, join(folder, hash))
    },
    read: async (hash) => (await open(join(folder, hash)).catch(nothingThere))?.createReadStream() ?? null,
    list: async function* () {
      if (!existsSync(folder)) return
      for await (const entry of await opendir(folder)) {
        if (!entry.isFile() || entry.name.startsWith(comingName)) continue
        // One of them may be taken away meanwhile.
        const known = await stat(join(folder, entry.name)).catch(nothingThere)
        if (known) yield { hash: entry.name, bytes: known.size, at: known.mtimeMs }
      }
    },
    remove: (hash) => rm(join(folder, hash), { force: true }),
  }
}

const nothingThere = (error: unknown): null => {
  if (error instanceof Error && 'code' in error && error.code === 'ENOENT') return null
  throw error
}
