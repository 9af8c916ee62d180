import { readdirSync, statfsSync, statSync } from 'node:fs'
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
    ...filesIn(evidence),
    free: disk.bavail * disk.bsize,
    projects: holdings(tx),
  }
}

const sizeOf = (file: string): number => statSync(file, { throwIfNoEntry: false })?.size ?? 0

function filesIn(folder: string): { files: number; fileBytes: number } {
  const sizes = readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map((entry) => sizeOf(join(entry.parentPath, entry.name)))
  return { files: sizes.length, fileBytes: sizes.reduce((sum, size) => sum + size, 0) }
}
