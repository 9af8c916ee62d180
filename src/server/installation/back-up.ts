import { createWriteStream, existsSync } from 'node:fs'
import { copyFile, cp, mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises'
import { join, resolve } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { z } from 'zod'
import { readJson } from '#core/lib/read-json.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { databaseFile, evidenceFolder, openDatabase } from '#db/open.ts'
import { fileHash } from './file-hash.ts'
import { copyDatabase, isRovantDatabase } from '#db/installation/integrity.ts'
import { evidenceOf } from '#server/integrations/evidence-place.ts'
import { isDiskFull } from '#server/http/disk.ts'

const listName = 'backup.json'
const listShape = z.object({
  format: z.literal('rovant-backup'),
  madeAt: z.string(),
  database: z.object({ bytes: z.number(), sha256: z.string() }),
  files: z.array(z.object({ name: z.string(), bytes: z.number() })),
  /** Whether the key of the installation is in it. */
  key: z.boolean(),
})
type BackupList = z.infer<typeof listShape>

export interface BackingUp {
  readonly now: number
  /** The key that signs cookies too; without it people sign in anew after a restore. */
  readonly withKey?: boolean
}

/**
 * A copy of one instant while others write: the database by its own engine, then the evidence, which only ever grows. It is made
 * beside its place and gets its name when all of it is there, with a list of what it holds.
 */
export async function backUp(data: string, out: string, of: BackingUp): Promise<{ bytes: number; files: number }> {
  if (existsSync(out)) throw new Refusal('refused', `${out} is there already; name a new place for the backup.`)
  const making = `${resolve(out)}.making-${process.pid}`
  try {
    const list = await copyInto(data, making, of)
    await writeFile(join(making, listName), `${JSON.stringify(list, null, 1)}\n`, { flush: true })
    await rename(making, out)
    return { bytes: list.database.bytes, files: list.files.length }
  } catch (error) {
    await rm(making, { recursive: true, force: true })
    throw fullDisk(error) ?? error
  }
}

async function copyInto(data: string, making: string, { now, withKey = false }: BackingUp): Promise<BackupList> {
  await mkdir(evidenceFolder(making), { recursive: true })
  const db = openDatabase(databaseFile(data), { readonly: true })
  try {
    copyDatabase(db, databaseFile(making))
  } finally {
    db.$client.close()
  }
  const evidence = evidenceOf(data)
  const files: BackupList['files'] = []
  for await (const { hash: name } of evidence.list()) {
    const parts = await evidence.read(name)
    if (!parts) continue
    await pipeline(parts, createWriteStream(join(evidenceFolder(making), name)))
    files.push({ name, bytes: (await stat(join(evidenceFolder(making), name))).size })
  }
  const key = withKey && existsSync(join(data, 'secret'))
  if (key) await copyFile(join(data, 'secret'), join(making, 'secret'))
  const file = databaseFile(making)
  return {
    format: 'rovant-backup',
    madeAt: new Date(now).toISOString(),
    database: { bytes: (await stat(file)).size, sha256: await fileHash(file) },
    files,
    key,
  }
}

/** Restores into an empty directory what is a backup, whole and as its own list says. The database comes last: without it nothing looks restored. */
export async function restoreInto(from: string, data: string): Promise<void> {
  const isThere = existsSync(data)
  if (isThere && (await readdir(data)).length > 0)
    throw new Refusal('refused', `${data} is not empty; a backup is restored into an empty directory.`)
  await check(from, await listOf(from))
  try {
    await mkdir(data, { recursive: true })
    const later = [join(from, listName), databaseFile(from)].map((path) => resolve(path))
    await cp(from, data, { recursive: true, filter: (path) => !later.includes(resolve(path)) })
    await copyFile(databaseFile(from), databaseFile(data))
  } catch (error) {
    if (isThere) for (const name of await readdir(data)) await rm(join(data, name), { recursive: true, force: true })
    else await rm(data, { recursive: true, force: true })
    throw fullDisk(error) ?? error
  }
}

async function listOf(from: string): Promise<BackupList> {
  if (!existsSync(databaseFile(from))) throw new Refusal('not-found', `${from}: there is no backup of Rovant here.`)
  if (!existsSync(join(from, listName)))
    throw new Refusal('refused', `${from}: there is no ${listName} here, so this is no whole backup.`)
  const list = listShape.safeParse(readJson(await readFile(join(from, listName), 'utf8')))
  if (!list.success) throw new Refusal('refused', `${from}: ${listName} cannot be read.`)
  return list.data
}

async function check(from: string, list: BackupList): Promise<void> {
  const wrong = (sentence: string) => new Refusal('refused', `${from}: ${sentence} Nothing was restored.`)
  const file = databaseFile(from)
  if ((await fileHash(file)) !== list.database.sha256)
    throw wrong('the database is not the one that was backed up; it was changed or cut short since.')
  if (!isRovantDatabase(file)) throw wrong('the database is empty, or not one of Rovant.')
  for (const { name, bytes } of list.files) {
    const own = join(evidenceFolder(from), name)
    if (!existsSync(own)) throw wrong(`the evidence file ${name} is missing.`)
    if ((await stat(own)).size !== bytes || (await fileHash(own)) !== name)
      throw wrong(`the evidence file ${name} is not as it was.`)
  }
}

/** A full disk in words; `null` for any other failure. */
function fullDisk(error: unknown): Refusal | null {
  return isDiskFull(error)
    ? new Refusal(
        'refused',
        'The disk is full, so nothing was made and nothing is left half made; make room and try again.',
      )
    : null
}
