import { int, maybe, rowOf, rowsOf, text } from '#db/rows.ts'
import { keySql } from '#db/key-sql.ts'
import { and, eq, sql } from 'drizzle-orm'
import { inIds } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { caseVersion, testCase } from './tables.ts'

export const findCase = (tx: Tx, projectId: number, number: number): CaseStored | undefined =>
  tx
    .select()
    .from(testCase)
    .where(and(eq(testCase.projectId, projectId), eq(testCase.number, number)))
    .get()
export const caseById = (tx: Tx, id: number): CaseStored | undefined =>
  tx.select().from(testCase).where(eq(testCase.id, id)).get()

/** Which of these are cases of the project that are there. */
export const casesThere = (tx: Tx, projectId: number, ids: readonly number[]): Set<number> =>
  new Set(
    rowsOf(
      tx,
      { id: int },
      sql`
        select id
        from test_case
        where ${inIds(sql`id`, ids)} and project_id = ${projectId} and deleted_at is null`,
    ).map(({ id }) => id),
  )

export type CaseStored = typeof testCase.$inferSelect
export type NewCase = Pick<CaseStored, 'projectId' | 'number' | 'title' | 'position'> & Partial<CaseStored>

/** A case with its empty working copy. */
export function addCase(
  tx: Tx,
  of: NewCase,
  by: { now: number; personId: string | null; emptyFingerprint: string },
): { id: number; workingId: number } {
  const { id } = tx
    .insert(testCase)
    .values({ ...of, createdAt: of.createdAt ?? by.now, updatedAt: by.now })
    .returning({ id: testCase.id })
    .get()
  const working = tx
    .insert(caseVersion)
    .values({ caseId: id, fingerprint: by.emptyFingerprint, createdAt: by.now, createdBy: by.personId })
    .returning({ id: caseVersion.id })
    .get()
  return { id, workingId: working.id }
}

export const saveCase = (tx: Tx, id: number, edit: Partial<CaseStored>): void =>
  void tx.update(testCase).set(edit).where(eq(testCase.id, id)).run()

export const lastCasePosition = (tx: Tx, projectId: number, folderId: number | null): number =>
  rowOf(
    tx,
    { n: maybe(int) },
    sql`select max(position) as n from test_case where project_id = ${projectId} and folder_id is ${folderId}`,
  )?.n ?? 0

export const attemptsOfCase = (
  tx: Tx,
  caseId: number,
  limit: number,
): {
  id: number
  verdict: string
  word: string | null
  environment: string
  build: string
  at: number | null
  person: string | null
  major: number
  struck: number
  minor: number
}[] =>
  rowsOf(
    tx,
    {
      id: int,
      struck: int,
      verdict: text,
      word: maybe(text),
      environment: text,
      build: text,
      at: maybe(int),
      person: maybe(text),
      major: int,
      minor: int,
    },
    sql`
      select a.id, a.struck is not null as struck, a.verdict, a.word, e.name as environment, b.name as build,
        a.finished_at as at, p.name as person,
        v.major, v.minor
      from attempt a
      join environment e on e.id = a.environment_id
      join build b on b.id = a.build_id
      join case_version v on v.id = a.version_id
      left join person p on p.id = a.person_id
      where a.case_id = ${caseId}
      order by coalesce(a.finished_at, a.started_at) desc, a.id desc
      limit ${limit}`,
  )

export const suitesOfCase = (tx: Tx, caseId: number): { key: string; title: string }[] =>
  rowsOf(
    tx,
    { key: text, title: text },
    sql`
      select ${keySql('suite', 's.number')} as key, s.title
      from suite_member m
      join suite s on s.id = m.suite_id
      where m.case_id = ${caseId} and m.until_at is null and s.deleted_at is null
      order by s.number`,
  )

export const caseIds = (tx: Tx, projectId: number): number[] =>
  rowsOf(
    tx,
    { id: int },
    sql`select id from test_case where project_id = ${projectId} and deleted_at is null order by number`,
  ).map(({ id }) => id)

export const attemptCounts = (tx: Tx, ids: readonly number[]): Map<number, number> =>
  new Map(
    rowsOf(
      tx,
      { id: int, n: int },
      sql`select case_id as id, count(*) as n from attempt where ${inIds(sql`case_id`, ids)} group by 1`,
    ).map(({ id, n }) => [id, n]),
  )

/** Those of the cases that are not retired. */
export const liveAmong = (tx: Tx, projectId: number, ids: readonly number[]): number[] =>
  rowsOf(
    tx,
    { id: int },
    sql`select id from test_case where project_id = ${projectId} and retired_at is null and ${inIds(sql`id`, ids)}`,
  ).map(({ id }) => id)
/** Live cases with the requirement they prove first, by outline: where a folder that mirrors it would hold them. */
export const firstRequirementOf = (
  tx: Tx,
  projectId: number,
): { caseId: number; requirementId: number; folderId: number | null }[] =>
  rowsOf(
    tx,
    { caseId: int, requirementId: int, folderId: maybe(int) },
    sql`
      select c.id as caseId, min(l.requirement_id) as requirementId, c.folder_id as folderId
      from test_case c
      join link l on l.case_id = c.id and l.until_at is null
      join requirement r on r.id = l.requirement_id and r.deleted_at is null
      where c.project_id = ${projectId} and c.deleted_at is null
      group by c.id`,
  )

/** Keys of cases, by their numbers. */
export const keysOfCases = (tx: Tx, ids: readonly number[]): string[] =>
  rowsOf(
    tx,
    { key: text },
    sql`select ${keySql('case', 'c.number')} as key from test_case c where ${inIds(sql`c.id`, ids)} order by c.number`,
  ).map(({ key }) => key)
