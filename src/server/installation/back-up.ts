import { existsSync } from 'node:fs'
import { copyFile, cp, mkdir, readdir, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { Refusal } from '#core/lib/refusal.ts'
import { databaseFile, evidenceFolder, openDatabase } from '#db/open.ts'
import { copyDatabase } from '#db/installation/integrity.ts'

/** A copy of one instant while others write: the database by its own engine, then the evidence, which only ever grows. */
export async function backUp(data: string, out: string): Promise<{ bytes: number; files: number }> {
  if (existsSync(out)) throw new Refusal('refused', `${out} is there already; name a new place for the backup.`)
  await mkdir(out, { recursive: true })
  const db = openDatabase(databaseFile(data), { readonly: true })
  copyDatabase(db, databaseFile(out))
  db.$client.close()
  await mkdir(evidenceFolder(out), { recursive: true })
  const names = existsSync(evidenceFolder(data))
    ? (await readdir(evidenceFolder(data))).filter((name) => !name.startsWith('coming-'))
    : []
  for (const name of names) await copyFile(join(evidenceFolder(data), name), join(evidenceFolder(out), name))
  if (existsSync(join(data, 'secret'))) await copyFile(join(data, 'secret'), join(out, 'secret'))
  return { bytes: (await stat(databaseFile(out))).size, files: names.length }
}

export async function restoreInto(from: string, data: string): Promise<void> {
  if (!existsSync(databaseFile(from))) throw new Refusal('not-found', `${from}: there is no backup of Rovant here.`)
  if (existsSync(data) && (await readdir(data)).length > 0)
    throw new Refusal('refused', `${data} is not empty; a backup is restored into an empty directory.`)
  await mkdir(data, { recursive: true })
  await cp(from, data, { recursive: true })
}
