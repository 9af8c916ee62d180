import type { Mapping } from '#core/formats/mapping.ts'
import type { FileRead } from '#core/formats/shapes.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { customFields } from '#db/projects/fields.ts'
import { findProject, type ProjectRow } from '#db/projects/projects.ts'
import { contextOf } from '#server/http/context.ts'
import type { Store } from '#server/installation/store.ts'
import { nobody } from '#db/people/people.ts'
import { countsOf, planImport, refusal, type Store as Transact } from './import-read.ts'
import { keptMapping } from './keep-imports.ts'
import { type FileFormat, type ReadAnswer, readFile } from './read-file.ts'
import { type Imported, storeImport } from './store-import.ts'

export interface ImportAs {
  readonly bytes: Buffer
  readonly format?: FileFormat | undefined
  readonly mapping?: Mapping | undefined
  readonly source: string
}

function projectOf(store: Store, key: string): ProjectRow {
  const project = findProject(store.db, key)
  if (!project) throw new Refusal('not-found', `There is no project ${key} in this data directory.`)
  return project
}

/** An import from the command line: in nobody's name, with the same rules and the same all or nothing. */
export async function importAs(store: Store, key: string, of: ImportAs): Promise<Imported & Pick<FileRead, 'unread'>> {
  const { transact, answer } = await prepare(store, key, of)
  const { read } = answer
  if (read.problems.length > 0) throw refusal(read.problems)
  const imported = await storeImport(transact, read, { source: of.source, release: null })
  return { ...imported, notices: [...read.notices, ...imported.notices], unread: read.unread }
}

/** The same without storing: what would be new, changed, unchanged. */
export async function tryImportAs(
  store: Store,
  key: string,
  of: ImportAs,
): Promise<Pick<Imported, 'counts'> & Pick<FileRead, 'problems' | 'unread'>> {
  const { transact, answer } = await prepare(store, key, of)
  const plan = await planImport(transact, answer.read, { source: of.source, release: null })
  return {
    counts: countsOf(plan),
    problems: [...answer.read.problems, ...plan.problems],
    unread: answer.read.unread,
  }
}

async function prepare(store: Store, key: string, of: ImportAs): Promise<{ transact: Transact; answer: ReadAnswer }> {
  const project = projectOf(store, key)
  const transact: Transact = (work) =>
    store.db.transaction(
      (tx) =>
        work(
          contextOf({
            tx,
            now: Date.now(),
            person: { ...nobody, id: '', name: 'command line', email: '', administrator: true },
            project,
            role: 'lead',
            expected: 0,
            limit: null,
          }).context,
        ),
      { behavior: 'immediate' },
    )
  const custom = (['requirement', 'case'] as const).flatMap((owner) =>
    customFields(store.db, project.id, owner).map(({ name }) => name),
  )
  return {
    transact,
    answer: await readFile(of.bytes, { format: of.format, mapping: of.mapping, what: of.mapping?.what, custom }),
  }
}

/** A mapping that is kept in the project, by its name. */
export function mappingNamed(store: Store, key: string, name: string): Mapping {
  const kept = keptMapping(store.db, projectOf(store, key).id, name)
  if (!kept)
    throw new Refusal(
      'not-found',
      `${name}: there is neither such a file nor a mapping kept under that name in ${key}.`,
    )
  return kept
}
