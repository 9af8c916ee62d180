import { rowOf, rowsOf, text } from '#db/rows.ts'
import { keySql } from '#db/key-sql.ts'
import { sql } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'

export const copyPins = (tx: Tx, from: number, to: number): void =>
  void tx.run(
    sql`
      insert or ignore into suite_pin (suite_id, case_id, position)
      select suite_id, ${to}, position
      from suite_pin
      where case_id = ${from}`,
  )
/** What suites leave out, with its reason. */
export const copyExclusions = (tx: Tx, from: number, to: number): void =>
  void tx.run(
    sql`
      insert or ignore into suite_exclusion (suite_id, case_id, reason, person_id, at)
      select suite_id, ${to}, reason, person_id, at
      from suite_exclusion
      where case_id = ${from}`,
  )
/** What hangs on a case by itself; what hangs on its attempts stays with them. */
export const copyDefectLinks = (tx: Tx, from: number, to: number, now: number): void =>
  void tx.run(
    sql`
      insert into defect_link (defect_id, case_id, from_at)
      select distinct l.defect_id, ${to}, ${now}
      from defect_link l
      where l.case_id = ${from}
        and l.until_at is null
        and not exists (
          select 1
          from defect_link o
          where o.defect_id = l.defect_id and o.case_id = ${to} and o.until_at is null
        )`,
  )

export const addAlias = (
  tx: Tx,
  of: { projectId: number; key: string; kind: string; ownerId: number; at: number },
): void =>
  void tx.run(
    sql`
      insert or replace into alias (project_id, key, kind, owner_id, at)
      values (${of.projectId}, ${of.key}, ${of.kind}, ${of.ownerId}, ${of.at})`,
  )

export const dropAlias = (tx: Tx, projectId: number, key: string): void =>
  void tx.run(sql`delete from alias where project_id = ${projectId} and key = ${key}`)

/** A case that was hidden stands in its project again. */
export const showCase = (tx: Tx, id: number): void =>
  void tx.run(sql`update test_case set deleted_at = null, version = version + 1 where id = ${id}`)

/** Where an object that left the project is now. */
export const movedTo = (tx: Tx, projectId: number, key: string): { project: string; key: string } | undefined =>
  rowOf(
    tx,
    { project: text, key: text },
    sql`
      select p.key as project, ${keySql('case', 'c.number')} as key
      from alias a
      join test_case c on c.id = a.owner_id
      join project p on p.id = c.project_id
      where a.project_id = ${projectId} and a.key = ${key} and a.kind = 'case' and c.deleted_at is null`,
  )

export const mergedInto = (tx: Tx, id: number): string[] =>
  rowsOf(
    tx,
    { key: text },
    sql`
      select ${keySql('case', 'number')} as key
      from test_case
      where merged_into_id = ${id} and deleted_at is null
      order by number`,
  ).map(({ key }) => key)
