import { createHash, randomUUID } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { Readable } from 'node:stream'
import { buffer } from 'node:stream/consumers'
import { strToU8, Zip, ZipDeflate, ZipPassThrough } from 'fflate'
import { z } from 'zod'
import { Refusal } from '#core/lib/refusal.ts'
import type { EvidenceStore } from '#core/talk/evidence-store.ts'
import { archiveTables } from '#db/formats/archive-parts.ts'
import { type ArchiveManifest, dumpProject, loadProject } from '#db/formats/archive.ts'
import { findProject } from '#db/projects/projects.ts'
import type { Store } from '#server/installation/store.ts'
import { comeIn } from '#server/integrations/coming.ts'
import { evidenceOf } from '#server/integrations/evidence-place.ts'
import { cleanHtml } from '#server/http/clean-html.ts'
import { readZip } from './zip.ts'

const manifestName = 'rovant-archive.json'
const manifestShape = z.object({
  format: z.literal('rovant-archive'),
  version: z.literal(1),
  project: z.record(z.string(), z.unknown()),
})
const limits = { total: 4_000_000_000, each: 1_500_000_000, entries: 200_000 }

/** Writes a whole project to a zip of JSON Lines and attachments, table by table, as it stood at one instant. */
export async function writeArchive(
  store: Store,
  data: string,
  key: string,
  out: string,
): Promise<{ rows: number; attachments: number }> {
  const project = findProject(store.db, key)
  if (!project) throw new Refusal('not-found', `There is no project ${key} in this data directory.`)
  const file = createWriteStream(out)
  const ended = new Promise<void>((resolve, reject) => file.on('finish', resolve).on('error', reject))
  const zip = new Zip((error, chunk, final) => {
    if (error) file.destroy(error)
    else file.write(chunk)
    if (final) file.end()
  })
  const put = (name: string, bytes: Uint8Array, packed = true) => {
    const entry = packed ? new ZipDeflate(name, { level: 6 }) : new ZipPassThrough(name)
    // The same project makes the same file: no entry carries the time it was written.
    entry.mtime = new Date('2000-01-01T00:00:00Z')
    zip.add(entry)
    entry.push(bytes, true)
  }
  let rows = 0
  const attachments = store.db.transaction((tx) => {
    const dump = dumpProject(tx, project.id)
    put(manifestName, strToU8(`${JSON.stringify(dump.manifest, null, 1)}\n`))
    for (const { table, rows: own } of dump.tables) {
      rows += own.length
      put(`tables/${table}.jsonl`, strToU8(own.map((row) => `${JSON.stringify(row)}\n`).join('')))
    }
    return dump.attachments
  })
  const evidence = evidenceOf(data)
  for (const hash of attachments) put(`attachments/${hash}`, await wholeOf(evidence, hash), false)
  zip.end()
  await ended
  return { rows, attachments: attachments.length }
}

async function wholeOf(evidence: EvidenceStore, hash: string): Promise<Buffer> {
  const parts = await evidence.read(hash)
  if (!parts)
    throw new Refusal('refused', `evidence ${hash}: is not in ${evidence.place}, so the archive would not be whole.`)
  return buffer(parts)
}

/** Makes a project of an archive, all of it or nothing. */
export async function readArchive(
  store: Store,
  data: string,
  key: string,
  bytes: Buffer,
): Promise<{ rows: number; attachments: number }> {
  if (!/^[A-Z][A-Z0-9]{1,9}$/.test(key))
    throw new Refusal('invalid', `${key}: a project key is capital letters, such as FERRY.`)
  if (findProject(store.db, key))
    throw new Refusal(
      'refused',
      `There is a project ${key} already; an archive becomes a project of its own, so name a new key.`,
    )
  const { manifest, tables, attachments } = await unpack(bytes)
  const evidence = evidenceOf(data)
  for (const [hash, content] of attachments)
    await evidence.put(hash, (await comeIn(data, Readable.from([content]))).file)
  return { ...load(store, key, manifest, tables), attachments: attachments.size }
}

function load(store: Store, key: string, ...of: [ArchiveManifest, ReadonlyMap<string, Record<string, unknown>[]>]) {
  try {
    return loadProject(store.db, key, ...of, { newPerson: randomUUID, clean: cleanHtml })
  } catch (error) {
    // What the tables of the database refuse is the archive's fault and not ours.
    if (!(error instanceof Error) || !/constraint/i.test(`${error.message} ${String(error.cause)}`)) throw error
    throw new Refusal(
      'invalid',
      `The archive does not hold together (${String(error.cause ?? error.message)}); nothing was imported.`,
    )
  }
}

async function unpack(bytes: Buffer): Promise<{
  manifest: z.infer<typeof manifestShape>
  tables: Map<string, Record<string, unknown>[]>
  attachments: Map<string, Buffer>
}> {
  const entries = await readZip(bytes, () => true, limits)
  const manifest = manifestShape.safeParse(json(entries.get(manifestName)?.toString('utf8') ?? '', manifestName))
  if (!manifest.success)
    throw new Refusal(
      'invalid',
      `${manifestName}: ${manifest.error.issues[0]?.path.join('.') ?? ''} ${manifest.error.issues[0]?.message ?? 'is not as it should be'}; nothing was imported.`,
    )
  const tables = new Map(
    archiveTables.map((table) => [
      table,
      linesOf(entries.get(`tables/${table}.jsonl`)?.toString('utf8') ?? '', `tables/${table}.jsonl`),
    ]),
  )
  const attachments = new Map(
    [...entries].flatMap(([name, content]) =>
      name.startsWith('attachments/') ? [[name.slice('attachments/'.length), content] as const] : [],
    ),
  )
  for (const [hash, content] of attachments)
    if (createHash('sha256').update(content).digest('hex') !== hash)
      throw new Refusal(
        'invalid',
        `attachments/${hash.slice(0, 80)}: is not what it was when the archive was written; nothing was imported.`,
      )
  for (const row of tables.get('attachment') ?? [])
    if (!attachments.has(String(row['hash'])))
      throw new Refusal(
        'invalid',
        `attachments/${String(row['hash']).slice(0, 80)}: is missing from the archive; nothing was imported.`,
      )
  return { manifest: manifest.data, tables, attachments }
}

const rowShape = z.record(z.string(), z.union([z.string(), z.number(), z.null()]))

function linesOf(text: string, name: string): Record<string, unknown>[] {
  return text.split('\n').flatMap((line, index) => {
    if (line === '') return []
    const row = rowShape.safeParse(json(line, `${name}, line ${index + 1}`))
    if (!row.success)
      throw new Refusal('invalid', `${name}, line ${index + 1}: is no row of plain values; nothing was imported.`)
    return [row.data]
  })
}

function json(text: string, place: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    throw new Refusal('invalid', `${place}: is no JSON; nothing was imported.`)
  }
}
