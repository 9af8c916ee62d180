import { type Sample, sample } from '#core/projects/contract.ts'
import type { Keyed } from '#core/lib/key.ts'
import type { Tx } from '#db/open.ts'
import { int, rowOf } from '#db/rows.ts'
import { sql } from 'drizzle-orm'
import { readSetting, writeSetting } from './settings.ts'

const named = (projectId: number): string => `sample ${projectId}`

/** What a sample project holds for whoever looks around in it; `null` for a project of one's own. */
export function sampleOf(tx: Tx, projectId: number): Sample | null {
  const stored = readSetting(tx, named(projectId))
  return stored === null ? null : sample.parse(JSON.parse(stored))
}

export const isSample = (tx: Tx, projectId: number): boolean => readSetting(tx, named(projectId)) !== null

export const keepSample = (tx: Tx, projectId: number, of: Sample): void =>
  writeSetting(tx, named(projectId), JSON.stringify(of))

const tables: Readonly<Record<Keyed, string>> = {
  requirement: 'requirement',
  case: 'test_case',
  routine: 'routine',
  plan: 'plan',
  suite: 'suite',
  run: 'run',
  defect: 'defect',
}

/** The number of an object by its title; `null` where there is none. Titles are not indexed: for filling a sample, not for answering. */
export const numberOf = (
  tx: Tx,
  of: { readonly kind: Keyed; readonly projectId: number; readonly title: string },
): number | null =>
  rowOf(
    tx,
    { number: int },
    sql`
      select number
      from ${sql.raw(tables[of.kind])}
      where project_id = ${of.projectId} and title = ${of.title}`,
  )?.number ?? null
