import { statfsSync } from 'node:fs'
import type { health as contract } from '#core/installation/contract.ts'
import { bytesText } from '#core/lib/figures.ts'
import { lastFullAt } from '#server/http/disk.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { version } from '#server/http/version.ts'

/** Less than this is as good as full: a write needs room beside what it writes. */
const least = 20_000_000
const minute = 60_000

/** What is wrong with a disk that has so many bytes free, and could last not be written at `fullAt`. */
export function diskProblems(free: number, fullAt: number, now: number): string[] {
  if (free < least) return [`The disk of the data directory has ${bytesText(free)} free, which is as good as full.`]
  return now - fullAt < minute ? ['Something could not be stored in the last minute because the disk was full.'] : []
}

export function healthOf(data: string): Answer<typeof contract> {
  const disk = statfsSync(data)
  const problems = diskProblems(disk.bavail * disk.bsize, lastFullAt(), Date.now())
  return { ok: problems.length === 0, version, problems }
}

export const readHealth = async (
  { services }: OpenContext,
  _: Input<typeof contract>,
): Promise<Answer<typeof contract>> => healthOf(services.data)
