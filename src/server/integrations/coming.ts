import { createHash } from 'node:crypto'
import { createWriteStream, existsSync, readdirSync, rmSync } from 'node:fs'
import { mkdir, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { evidenceFolder } from '#db/open.ts'

/** Files that come in are called this until all of them is there. */
export const comingName = 'coming-'

/** Writes what comes in to a file of its own in the data directory, wherever evidence goes from there; nothing of it stays where it is cut off. */
export async function comeIn(
  data: string,
  parts: AsyncIterable<Uint8Array>,
): Promise<{ file: string; hash: string; size: number }> {
  await mkdir(evidenceFolder(data), { recursive: true })
  const file = join(evidenceFolder(data), `${comingName}${process.hrtime.bigint()}`)
  const hash = createHash('sha256')
  let size = 0
  const measure = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      size += chunk.length
      hash.update(chunk)
      done(null, chunk)
    },
  })
  try {
    await pipeline(parts, measure, createWriteStream(file, { flush: true }))
  } catch (error) {
    await rm(file, { force: true })
    throw error
  }
  return { file, hash: hash.digest('hex'), size }
}

/** Takes away what uploads into a data directory left that were cut off; nobody may be uploading. */
export function dropComing(data: string): void {
  const folder = evidenceFolder(data)
  if (!existsSync(folder)) return
  for (const name of readdirSync(folder)) if (name.startsWith(comingName)) rmSync(join(folder, name), { force: true })
}
