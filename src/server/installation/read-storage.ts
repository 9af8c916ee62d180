import { statfsSync, statSync } from 'node:fs'
import { readdir, stat } from 'node:fs/promises'
import { join } from 'node:path'
import type { readStorage as contract } from '#core/installation/contract.ts'
import { holdings } from '#db/installation/holdings.ts'
import { databaseFile } from '#db/open.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'

export async function readStorage(
  { tx, services }: OpenContext,
  _: Input<typeof contract>,
): Promise<Answer<typeof contract>> {
  const { data, evidence } = services
  const disk = statfsSync(data)
  return {
    database: sizeOf(databaseFile(data)) + sizeOf(`${databaseFile(data)}-wal`),
    ...(await filesIn(evidence)),
    free: disk.bavail * disk.bsize,
    projects: holdings(tx),
  }
}

const sizeOf = (file: string): number => statSync(file, { throwIfNoEntry: false })?.size ?? 0

/** Looked at without standing in the way of others: there may be a great many. */
async function filesIn(folder: string): Promise<{ files: number; fileBytes: number }> {
  const files = (await readdir(folder, { recursive: true, withFileTypes: true })).filter((entry) => entry.isFile())
  let fileBytes = 0
  // One of them may be taken away meanwhile.
  for (const { parentPath, name } of files)
    fileBytes += (await stat(join(parentPath, name)).catch(() => null))?.size ?? 0
  return { files: files.length, fileBytes }
}
