import { exportFormats } from '#core/formats/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { findProject } from '#db/projects/projects.ts'
import type { Store } from '#server/installation/store.ts'
import type { Exported } from './file-jobs.ts'
import { exportProject } from './export-file.ts'

/** An export from the command line. Formats that hold only one kind of thing need not be told which. */
export async function exportAs(
  store: Store,
  key: string,
  of: { format: string; what?: string | undefined },
): Promise<Exported> {
  const format = exportFormats.find((each) => each === of.format)
  if (!format)
    throw new Refusal('invalid', `--format ${of.format}: the formats that are written are ${exportFormats.join(', ')}.`)
  const what = of.what ?? (format === 'reqif' || format === 'reqifz' ? 'requirements' : 'cases')
  if (what !== 'cases' && what !== 'requirements')
    throw new Refusal('invalid', `--what ${what}: what can be exported is cases or requirements.`)
  const project = findProject(store.db, key)
  if (!project) throw new Refusal('not-found', `There is no project ${key} in this data directory.`)
  return exportProject(store.db, project, { format, what, now: Date.now() })
}
