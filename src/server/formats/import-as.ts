import { Refusal } from '#core/lib/refusal.ts'
import { findProject } from '#db/projects/queries.ts'
import { contextOf } from '#server/http/context.ts'
import type { Store } from '#server/people/store.ts'
import { importCases, importRequirements, refusal, type Store as Transact } from './import-sheet.ts'
import type { CsvRead } from './read-csv.ts'

/** An import from the command line: in nobody's name, with the same rules and the same all or nothing. */
export async function importAs(store: Store, key: string, read: CsvRead): Promise<string[]> {
  const project = findProject(store.db, key)
  if (!project) throw new Refusal('not-found', `There is no project ${key} in this data directory.`)
  if (read.problems.length > 0) throw refusal(read.problems)
  const transact: Transact = (work) => store.db.transaction((tx) => work(contextOf({ tx, now: Date.now(), person: { id: '', name: 'command line', email: '', administrator: true }, project, role: 'lead', expected: 0 }).context), { behavior: 'immediate' })
  return read.what === 'requirements' ? importRequirements(transact, read.requirements, null) : importCases(transact, read.cases)
}
