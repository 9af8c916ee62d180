import { isDeepStrictEqual } from 'node:util'
import { rm } from 'node:fs/promises'
import { Refusal } from '#core/lib/refusal.ts'
import type { EvidenceStore } from '#core/talk/evidence-store.ts'
import { comeIn } from '#server/integrations/coming.ts'
import { type EvidencePlace, evidencePlaceOf, noteEvidencePlace, storeAt } from '#server/integrations/evidence-place.ts'
import { filesIn } from '#server/integrations/files-in.ts'

export interface Moved {
  readonly from: string
  readonly to: string
  readonly copied: number
  /** They were there already. */
  readonly there: number
  readonly takenAway: number
}

/**
 * Copies all evidence of a data directory to another place, each piece held against its hash, and only then says that it is there;
 * nobody may be working with the data. Done again it copies what is missing. The old copies stay unless `takeAway`.
 */
export async function moveEvidence(data: string, to: EvidencePlace, takeAway: boolean): Promise<Moved> {
  const now = evidencePlaceOf(data)
  const before: EvidencePlace = isDeepStrictEqual(now, to) ? 'folder' : now
  if (before === 'folder' && to === 'folder')
    throw new Refusal('refused', `The evidence of ${data} is in its folder already.`)
  const [from, into] = [storeAt(data, before), storeAt(data, to)]
  const [names, there] = [[...(await filesIn(from)).keys()], await filesIn(into)]
  const counts = { copied: 0, there: 0 }
  for (const hash of names) {
    if (there.has(hash)) counts.there += 1
    else {
      await copyOne(data, hash, from, into)
      counts.copied += 1
    }
  }
  await noteEvidencePlace(data, to)
  return {
    from: from.place,
    to: into.place,
    ...counts,
    takenAway: takeAway ? await takeAwayFrom(from, into, names) : 0,
  }
}

async function copyOne(data: string, hash: string, from: EvidenceStore, into: EvidenceStore): Promise<void> {
  const parts = await from.read(hash)
  if (!parts) return
  const landed = await comeIn(data, parts)
  if (landed.hash !== hash) {
    await rm(landed.file, { force: true })
    throw new Refusal(
      'refused',
      `${hash} in ${from.place} has other bytes than its name says; “rovant verify” tells more. Evidence stays where it was.`,
    )
  }
  await into.put(hash, landed.file)
}

/** What the new place holds goes from the old one; what it does not hold stays. */
async function takeAwayFrom(from: EvidenceStore, into: EvidenceStore, names: Iterable<string>): Promise<number> {
  const safe = await filesIn(into)
  let taken = 0
  for (const hash of names) {
    if (!safe.has(hash)) continue
    await from.remove(hash)
    taken += 1
  }
  return taken
}
