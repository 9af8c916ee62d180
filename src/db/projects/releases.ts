import { and, eq, sql } from 'drizzle-orm'
import type { BuildState } from '#core/projects/builds.ts'
import { keySql } from '#db/key-sql.ts'
import { int, maybe, rowOf, rowsOf, text } from '#db/rows.ts'
import type { Tx } from '#db/open.ts'
import { build, environment, environmentValue, iteration, release } from './tables.ts'

const nextPosition = (tx: Tx, table: 'release' | 'build' | 'environment', projectId: number): number =>
  (rowOf(tx, { n: maybe(int) }, sql`select max(position) as n from ${sql.raw(table)} where project_id = ${projectId}`)
    ?.n ?? 0) + 1

export const releaseById = (tx: Tx, projectId: number, id: number): typeof release.$inferSelect | undefined =>
  tx
    .select()
    .from(release)
    .where(and(eq(release.projectId, projectId), eq(release.id, id)))
    .get()
export const saveRelease = (tx: Tx, id: number, edit: Partial<typeof release.$inferSelect>): void =>
  void tx.update(release).set(edit).where(eq(release.id, id)).run()
export const releaseState = (tx: Tx, id: number): string | undefined =>
  tx.select({ state: release.state }).from(release).where(eq(release.id, id)).get()?.state

export const addRelease = (
  tx: Tx,
  projectId: number,
  of: Pick<typeof release.$inferInsert, 'name' | 'state' | 'startOn' | 'dueOn'>,
): number =>
  tx
    .insert(release)
    .values({ ...of, projectId, position: nextPosition(tx, 'release', projectId) })
    .returning({ id: release.id })
    .get().id

export function addIteration(
  tx: Tx,
  of: Pick<typeof iteration.$inferInsert, 'name' | 'startOn' | 'dueOn' | 'releaseId'>,
): number {
  const last =
    rowOf(tx, { n: maybe(int) }, sql`select max(position) as n from iteration where release_id = ${of.releaseId}`)?.n ??
    0
  return tx
    .insert(iteration)
    .values({ ...of, position: last + 1 })
    .returning({ id: iteration.id })
    .get().id
}

export const addBuild = (
  tx: Tx,
  projectId: number,
  of: {
    releaseId: number
    name: string
    offeredAt: number
    state?: BuildState
    endedAt?: number
    notes?: string
    touches?: string | null
  },
): number =>
  tx
    .insert(build)
    .values({ state: 'Offered', ...of, projectId, position: nextPosition(tx, 'build', projectId) })
    .returning({ id: build.id })
    .get().id

export type BuildStored = typeof build.$inferSelect
export const buildById = (tx: Tx, projectId: number, id: number): BuildStored | undefined =>
  tx
    .select()
    .from(build)
    .where(and(eq(build.projectId, projectId), eq(build.id, id)))
    .get()
export const saveBuild = (tx: Tx, id: number, edit: Partial<BuildStored>): void =>
  void tx.update(build).set(edit).where(eq(build.id, id)).run()

/** Defects that are repaired in a build. */
export const repairsOf = (tx: Tx, id: number): { id: number; key: string; title: string; state: string }[] =>
  rowsOf(
    tx,
    { id: int, key: text, title: text, state: text },
    sql`
      select d.id, ${keySql('defect', 'd.number')} as key, d.title, d.state
      from defect d
      where d.fixed_in_build_id = ${id} and d.deleted_at is null
      order by d.number
      limit 500`,
  )

/** Cases of a suite with how they stand on a build: passed somewhere, and nowhere failed or blocked. */
export const smokeOn = (
  tx: Tx,
  suite: number,
  buildId: number,
): { id: number; key: string; title: string; passed: boolean }[] =>
  rowsOf(
    tx,
    { id: int, key: text, title: text, passed: int },
    sql`
      select c.id, ${keySql('case', 'c.number')} as key, c.title,
        exists (
          select 1 from standing_result s where s.build_id = ${buildId} and s.case_id = c.id and s.verdict = 'Passed'
        ) and not exists (
          select 1
          from standing_result s
          where s.build_id = ${buildId} and s.case_id = c.id and s.verdict in ('Failed', 'Blocked')
        ) as passed
      from suite_member m
      join test_case c on c.id = m.case_id
      where m.suite_id = ${suite} and m.until_at is null and c.deleted_at is null
      order by c.number`,
  ).map((row) => ({ ...row, passed: row.passed === 1 }))

export function addEnvironment(
  tx: Tx,
  projectId: number,
  of: { name: string; seats: number | null; values: Readonly<Record<string, string>> },
): number {
  const { id } = tx
    .insert(environment)
    .values({ projectId, name: of.name, seats: of.seats, position: nextPosition(tx, 'environment', projectId) })
    .returning({ id: environment.id })
    .get()
  for (const [factor, value] of Object.entries(of.values))
    tx.insert(environmentValue).values({ environmentId: id, factor, value }).run()
  return id
}

export const iterationRelease = (tx: Tx, id: number): { releaseId: number; projectId: number } | undefined =>
  rowOf(
    tx,
    { releaseId: int, projectId: int },
    sql`
      select i.release_id as releaseId, r.project_id as projectId
      from iteration i
      join release r on r.id = i.release_id
      where i.id = ${id}`,
  )

/** The day a release is due, as a plain date. */
export const releaseDue = (tx: Tx, id: number): string | null =>
  rowOf(tx, { day: maybe(text) }, sql`select due_on as day from release where id = ${id}`)?.day ?? null
