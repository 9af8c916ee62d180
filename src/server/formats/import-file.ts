import type { importFile as contract } from '#core/formats/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { belongs } from '#db/projects/queries.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { importCases, importRequirements, refusal } from './import-sheet.ts'
import { mostCsvBytes, readCsv } from './read-csv.ts'

/** Reads a CSV and tells what it makes; with `dry=no` stores it, all or nothing. */
export async function importFile({ request, store, tx, project }: OpenContext, { query }: Input<typeof contract>): Promise<Answer<typeof contract>> {
  const read = readCsv(await bodyOf(request), query.what ?? null)
  const answer = {
    what: read.what, columns: read.columns.map((column) => ({ ...column })), encoding: read.encoding, separator: read.separator === '\t' ? 'Tab' : read.separator,
    requirements: read.requirements.length, cases: read.cases.length, steps: read.cases.reduce((sum, { steps }) => sum + steps.length, 0), problems: read.problems.map((problem) => ({ ...problem })), preview: [...read.requirements, ...read.cases].slice(0, 8),
  }
  if (query.dry === 'yes') return { ...answer, stored: false }
  if (read.problems.length > 0) throw refusal(read.problems)
  if (read.requirements.length + read.cases.length === 0) throw new Refusal('invalid', 'There is no row below the header; nothing was imported.')
  if (query.release !== undefined && !belongs(tx, project.id, 'release', query.release)) throw new Refusal('invalid', 'That release is not one of this project.')
  if (read.what === 'requirements') await importRequirements(store, read.requirements, query.release ?? null)
  else await importCases(store, read.cases)
  return { ...answer, stored: true }
}

async function bodyOf(request: Request): Promise<Buffer> {
  const parts: Uint8Array[] = []
  let size = 0
  for await (const part of request.body ?? []) {
    size += part.length
    if (size > mostCsvBytes) throw new Refusal('too-large', `The file has more than ${mostCsvBytes / 1e6} MB, which is the most a CSV import reads. Split it; nothing was imported.`)
    parts.push(part)
  }
  return Buffer.concat(parts)
}
