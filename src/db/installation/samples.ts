import { type Sample, sample } from '#core/projects/contract.ts'
import type { Keyed } from '#core/lib/key.ts'
import type { Tx } from '#db/open.ts'
import { inIds } from '#db/finding/list.ts'
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

/** Of a sample project: each case has been in its suites since it was there and the suite was; each run was made of its plan's suites. `late` came in later. */
export function settleSampleSuites(
  tx: Tx,
  projectId: number,
  late: { readonly cases: readonly number[]; readonly at: number; readonly by: string },
): void {
  tx.run(sql`
    update suite_member
    set from_at = max(
        (select s.created_at from suite s where s.id = suite_id),
        (select c.created_at from test_case c where c.id = suite_member.case_id),
        -- What is in review was rewritten lately, and came in again with that.
        coalesce(
          (
            select v.created_at
            from test_case c
            join case_version v on v.id = c.newest_version_id
            where c.id = suite_member.case_id and c.state = 'In review' and suite_member.sources <> '[0]'
          ),
          0
        )
      ),
      from_by = (select c.owner_id from test_case c where c.id = suite_member.case_id)
    where suite_id in (select id from suite where project_id = ${projectId})`)
  tx.run(sql`
    update suite_member
    set from_at = ${late.at}, from_by = ${late.by}
    where sources <> '[0]' and ${inIds(sql`case_id`, late.cases)}`)
  tx.run(sql`
    insert or ignore into run_suite (run_id, suite_id)
    select r.id, s.suite_id
    from run r
    join plan_suite s on s.plan_id = r.plan_id
    where r.project_id = ${projectId}`)
}
