import { int, maybe, rowOf, rowsOf, text } from '#db/rows.ts'
import { keySql } from '#db/key-sql.ts'
import { and, eq, isNull, type SQL, sql } from 'drizzle-orm'
import type { RoutineRow } from '#core/reuse/contract.ts'
import { type StepText, versionName } from '#core/cases/steps.ts'
import { contains } from '#db/finding/contains.ts'
import { inIds, type ListSource } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { routine, routineStep, routineVersion } from '#db/cases/tables.ts'
import { type OwnStep, stepShape, useColumnsOf, useRow, withUse } from '#db/cases/uses.ts'

export type RoutineStored = typeof routine.$inferSelect
export type RoutineVersionStored = typeof routineVersion.$inferSelect

/** Working copies of cases, and of routines, that insert any version of the routine. */
const usersOf = (routineId: SQL): SQL => sql`
  select ${keySql('case', 'c.number')} as key, c.title, c.id, c.number as place,
    s.use_routine_version_id as version
  from routine_version u
  join version_step s on s.use_routine_version_id = u.id
  join case_version v on v.id = s.version_id and v.major is null
  join test_case c on c.id = v.case_id
  where u.routine_id = ${routineId} and c.deleted_at is null
  union
  select ${keySql('routine', 'r.number')}, r.title, -r.id, -r.number, s.use_routine_version_id
  from routine_version u
  join routine_step s on s.use_routine_version_id = u.id
  join routine_version v on v.id = s.version_id and v.major is null
  join routine r on r.id = v.routine_id
  where u.routine_id = ${routineId} and r.deleted_at is null`

export const routineSource = (projectId: number): ListSource => ({
  id: sql`t.id`,
  from: sql`routine t`,
  where: sql`t.project_id = ${projectId} and t.deleted_at is null`,
  fields: {
    id: sql`t.id`,
    number: sql`t.number`,
    title: sql`t.title`,
    steps: sql`
      (
        select count(*)
        from routine_step s
        join routine_version v on v.id = s.version_id
        where v.routine_id = t.id and v.major is null
      )`,
    uses: sql`(select count(distinct id) from (${usersOf(sql`t.id`)}))`,
    behind: sql`(select count(distinct id) from (${usersOf(sql`t.id`)}) where version <> t.newest_version_id)`,
  },
  search: (word) => sql`(${contains(sql`t.title`, word)} or 'rt-' || t.number = ${word})`,
  defaultSort: sql`t.number`,
})

export function routineRows(tx: Tx, projectId: number, ids: readonly number[]): RoutineRow[] {
  const f = routineSource(projectId).fields
  const rows = rowsOf(
    tx,
    {
      number: int,
      id: int,
      key: text,
      title: text,
      version: int,
      updatedAt: int,
      steps: int,
      uses: int,
      behind: int,
      major: maybe(int),
      minor: maybe(int),
    },
    sql`
      select t.id, ${keySql('routine', 't.number')} as key, t.number, t.title, ${f['steps']} as steps,
        ${f['uses']} as uses, ${f['behind']} as behind, t.version, t.updated_at as updatedAt, v.major, v.minor
      from routine t
      left join routine_version v on v.id = t.newest_version_id
      where t.project_id = ${projectId} and t.deleted_at is null and ${inIds(sql`t.id`, ids)}`,
  )
  const byId = new Map(rows.map((row) => [row.id, row]))
  return ids.flatMap((id) => {
    const row = byId.get(id)
    if (!row) return []
    const { major, minor, ...rest } = row
    return [{ ...rest, versionName: major === null || minor === null ? null : versionName(major, minor) }]
  })
}

export const findRoutine = (tx: Tx, projectId: number, number: number): RoutineStored | undefined =>
  tx
    .select()
    .from(routine)
    .where(and(eq(routine.projectId, projectId), eq(routine.number, number)))
    .get()
export const saveRoutine = (tx: Tx, id: number, edit: Partial<RoutineStored>): void =>
  void tx.update(routine).set(edit).where(eq(routine.id, id)).run()

export function addRoutine(
  tx: Tx,
  of: Pick<RoutineStored, 'projectId' | 'number' | 'title'>,
  by: { now: number; personId: string | null; emptyFingerprint: string },
): RoutineStored {
  const made = tx
    .insert(routine)
    .values({ ...of, createdAt: by.now, updatedAt: by.now })
    .returning()
    .get()
  tx.insert(routineVersion)
    .values({ routineId: made.id, fingerprint: by.emptyFingerprint, createdAt: by.now, createdBy: by.personId })
    .run()
  return made
}

export function routineWorking(tx: Tx, routineId: number): RoutineVersionStored {
  const found = tx
    .select()
    .from(routineVersion)
    .where(and(eq(routineVersion.routineId, routineId), isNull(routineVersion.major)))
    .get()
  if (!found) throw new Error(`routine ${routineId} has no working copy`)
  return found
}
/** Asked anew each time: within one act several may be cut. */
export const newestRoutineVersion = (tx: Tx, routineId: number): number | null =>
  rowOf(tx, { id: maybe(int) }, sql`select newest_version_id as id from routine where id = ${routineId}`)?.id ?? null
export const routineVersionById = (tx: Tx, id: number): RoutineVersionStored | undefined =>
  tx.select().from(routineVersion).where(eq(routineVersion.id, id)).get()

export const routineVersions = (
  tx: Tx,
  routineId: number,
): { id: number; major: number; minor: number; fingerprint: string; at: number; by: string | null; why: string }[] =>
  rowsOf(
    tx,
    { id: int, major: int, minor: int, fingerprint: text, at: int, by: maybe(text), why: text },
    sql`
      select v.id, v.major, v.minor, v.fingerprint, v.created_at as at, p.name as "by", v.why
      from routine_version v
      left join person p on p.id = v.created_by
      where v.routine_id = ${routineId} and v.major is not null
      order by v.major desc, v.minor desc`,
  )

/** Steps of a version; their id is the identity they have over the versions of the routine. */
export const readRoutineSteps = (tx: Tx, versionId: number): OwnStep[] =>
  rowsOf(
    tx,
    stepShape,
    sql`
      select s.key as id, s.action, s.expected, s.data, ${useRow}
      from routine_step s
      where s.version_id = ${versionId}
      order by s.position`,
  ).map(withUse)

export function writeRoutineSteps(
  tx: Tx,
  version: { readonly id: number; readonly routineId: number },
  steps: readonly StepText[],
  fingerprint: string,
): void {
  let last =
    rowOf(
      tx,
      { n: maybe(int) },
      sql`
        select max(s.key) as n
        from routine_step s
        join routine_version v on v.id = s.version_id
        where v.routine_id = ${version.routineId}`,
    )?.n ?? 0
  tx.delete(routineStep).where(eq(routineStep.versionId, version.id)).run()
  steps.forEach(({ id, action, expected, data, use, evidence = false }, index) =>
    tx
      .insert(routineStep)
      .values({
        versionId: version.id,
        position: index + 1,
        key: id ?? ++last,
        action,
        expected,
        data,
        evidence,
        ...useColumnsOf(use),
      })
      .run(),
  )
  tx.update(routineVersion).set({ fingerprint }).where(eq(routineVersion.id, version.id)).run()
}

export function addRoutineVersion(
  tx: Tx,
  working: RoutineVersionStored,
  of: { major: number; minor: number; why: string; now: number; personId: string | null },
): number {
  const { id } = tx
    .insert(routineVersion)
    .values({
      routineId: working.routineId,
      major: of.major,
      minor: of.minor,
      fingerprint: working.fingerprint,
      why: of.why,
      createdAt: of.now,
      createdBy: of.personId,
    })
    .returning({ id: routineVersion.id })
    .get()
  tx.run(
    sql`
      insert into routine_step (
        version_id, position, key, action, expected, data, use_routine_version_id, use_case_version_id,
        use_values, evidence
      )
      select ${id}, position, key, action, expected, data, use_routine_version_id, use_case_version_id,
        use_values, evidence
      from routine_step
      where version_id = ${working.id}`,
  )
  return id
}

export interface User {
  readonly key: string
  readonly title: string
  readonly version: number
  readonly name: string
}
/** Who inserts a routine now, with the version each has. */
export const usersOfRoutine = (tx: Tx, routineId: number): User[] =>
  rowsOf(
    tx,
    { key: text, title: text, version: int, name: text },
    sql`
      select u.key, u.title, u.version,
        (select major || '.' || minor from routine_version where id = u.version) as name
      from (${usersOf(sql`${routineId}`)}) u
      order by u.place`,
  )
/** The same for a case whose steps others insert. */
export const usersOfCase = (tx: Tx, caseId: number): User[] =>
  rowsOf(
    tx,
    { key: text, title: text, version: int, name: text },
    sql`
      select distinct ${keySql('case', 'c.number')} as key, c.title, s.use_case_version_id as version,
        w.major || '.' || w.minor as name
      from case_version w
      join version_step s on s.use_case_version_id = w.id
      join case_version v on v.id = s.version_id and v.major is null
      join test_case c on c.id = v.case_id
      where w.case_id = ${caseId} and c.deleted_at is null
      order by c.number`,
  )
