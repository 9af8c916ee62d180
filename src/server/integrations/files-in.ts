import type { EvidenceStore, KeptFile } from '#core/talk/evidence-store.ts'

/** Everything a store of evidence holds, by its name. */
export async function filesIn(store: EvidenceStore): Promise<Map<string, KeptFile>> {
  const files = new Map<string, KeptFile>()
  for await (const file of store.list()) files.set(file.hash, file)
  return files
}
