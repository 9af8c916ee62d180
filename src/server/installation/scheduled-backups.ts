import { existsSync } from 'node:fs'
import { mkdir, readdir, rename, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { Refusal } from '#core/lib/refusal.ts'
import { backUp } from './back-up.ts'
import { drill } from './drill.ts'

export interface Keeping {
  readonly data: string
  /** Where backups go, a directory each. */
  readonly into: string
  /** So many sound ones stay; older ones go. */
  readonly keep: number
  readonly home: string
}

const named = /^rovant-\d{4}-\d{2}-\d{2}T\d{2}-\d{2}-\d{2}$/
const nameAt = (now: number): string => `rovant-${new Date(now).toISOString().slice(0, 19).replaceAll(':', '-')}`
const hour = 3_600_000

/** When the backup of a name was made; its name says so. */
const madeAt = (name: string): number => {
  const [day = '', time = ''] = name.slice('rovant-'.length).split('T')
  return Date.parse(`${day}T${time.replaceAll('-', ':')}Z`)
}

async function made(into: string): Promise<string[]> {
  return existsSync(into) ? (await readdir(into)).filter((name) => named.test(name)).sort() : []
}

/** Whether another backup is due: none is there yet, or the newest is that old. */
export async function isDue(into: string, everyHours: number, now: number): Promise<boolean> {
  const newest = (await made(into)).at(-1)
  return newest === undefined || now - madeAt(newest) >= everyHours * hour
}

/**
 * Makes a backup and tries it by restoring it elsewhere; only then do the oldest beyond those that are kept go. One that is not sound
 * stays under a name that says so, and counts for none. Answers where it is; throws a `Refusal` where it is not sound.
 */
export async function backUpNow(of: Keeping, now: number): Promise<string> {
  await mkdir(of.into, { recursive: true })
  const out = join(of.into, nameAt(now))
  await backUp(of.data, out, { now })
  const { problems } = await drill(out, of.home)
  if (problems.length > 0) {
    await rename(out, `${out}.not-sound`)
    throw new Refusal('refused', `The backup ${out} is not sound: ${problems[0] ?? ''}. Older ones are kept.`)
  }
  for (const old of (await made(of.into)).slice(0, -of.keep))
    await rm(join(of.into, old), { recursive: true, force: true })
  return out
}
