import { existsSync, readFileSync } from 'node:fs'
import { rename, rm, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { z } from 'zod'
import { readJson } from '#core/lib/read-json.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { EvidenceStore } from '#core/talk/evidence-store.ts'
import { evidenceFolder } from '#db/open.ts'
import { folderStore } from './folder-store.ts'
import { s3Store } from './s3-store.ts'

const placeShape = z.strictObject({
  bucket: z.string().min(1),
  prefix: z.string(),
  region: z.string().min(1),
  endpoint: z.url({ protocol: /^https?$/ }).optional(),
})
/** `folder`: in the data directory, as it is unless somebody moves it; else a bucket elsewhere. */
export type EvidencePlace = 'folder' | z.infer<typeof placeShape>

const noteOf = (data: string): string => join(data, 'evidence.json')

/** Where the evidence of a data directory is: a note in it says so, so that every command knows. */
export function evidencePlaceOf(data: string): EvidencePlace {
  if (!existsSync(noteOf(data))) return 'folder'
  const read = placeShape.safeParse(readJson(readFileSync(noteOf(data), 'utf8')))
  if (!read.success)
    throw new Refusal(
      'refused',
      `${noteOf(data)} does not say where evidence is kept; write it anew by “rovant evidence”.`,
    )
  return read.data
}

export async function noteEvidencePlace(data: string, place: EvidencePlace): Promise<void> {
  if (place === 'folder') return rm(noteOf(data), { force: true })
  const whole = `${noteOf(data)}.new`
  await writeFile(whole, `${JSON.stringify(place, null, 1)}\n`, { flush: true })
  await rename(whole, noteOf(data))
}

/** The evidence of a data directory, wherever that is. */
export const evidenceOf = (data: string): EvidenceStore => storeAt(data, evidencePlaceOf(data))

export const storeAt = (data: string, place: EvidencePlace): EvidenceStore =>
  place === 'folder' ? folderStore(evidenceFolder(data)) : s3Store(place)
