import { statfsSync, statSync } from 'node:fs'
import type { readStorage as contract } from '#core/installation/contract.ts'
import { sumOf } from '#core/lib/figures.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { EvidenceStore } from '#core/talk/evidence-store.ts'
import { holdings } from '#db/installation/holdings.ts'
import { databaseFile } from '#db/open.ts'
import { filesIn } from '#server/integrations/files-in.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'

export async function readStorage(
  { tx, services }: OpenContext,
  _: Input<typeof contract>,
): Promise<Answer<typeof contract>> {
  const { data, evidence } = services
  const disk = statfsSync(data)
  return {
    database: sizeOf(databaseFile(data)) + sizeOf(`${databaseFile(data)}-wal`),
    ...(await filesOf(evidence)),
    free: disk.bavail * disk.bsize,
    projects: holdings(tx),
  }
}

const sizeOf = (file: string): number => statSync(file, { throwIfNoEntry: false })?.size ?? 0

/** Counted without standing in the way of others: there may be a great many. */
async function filesOf(
  evidence: EvidenceStore,
): Promise<Pick<Answer<typeof contract>, 'files' | 'fileBytes' | 'filesIn' | 'filesProblem'>> {
  const held = { files: 0, fileBytes: 0, filesIn: evidence.place, filesProblem: null }
  try {
    const files = await filesIn(evidence)
    return { ...held, files: files.size, fileBytes: sumOf([...files.values()], ({ bytes }) => bytes) }
  } catch (error) {
    if (!(error instanceof Refusal)) throw error
    return { ...held, filesProblem: error.sentence }
  }
}
