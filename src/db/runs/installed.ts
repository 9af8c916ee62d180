import { and, eq, isNull, sql } from 'drizzle-orm'
import type { InstalledMoves, InstalledRow } from '#core/projects/installed-contract.ts'
import { buildSaidBy, type Installed, type Move, type Placed } from '#core/projects/installed.ts'
import { inOrder } from '#core/lib/in-order.ts'
import { inIds } from '#db/finding/list.ts'
import { keySql } from '#db/key-sql.ts'
import type { Tx } from '#db/open.ts'
import { int, maybe, oneOf, rowOf, rowsOf, text } from '#db/rows.ts'
import { installation } from '#db/projects/tables.ts'
import { attempt } from './tables.ts'

export type InstalledStored = typeof installation.$inferSelect
export const addInstalled = (tx: Tx, of: Omit<typeof installation.$inferInsert, 'id'>): number =>
  tx.insert(installation).values(of).returning({ id: installation.id }).get().id
export const saveInstalled = (tx: Tx, id: number, edit: Partial<InstalledStored>): void =>
  void tx.update(installation).set(edit).where(eq(installation.id, id)).run()
export const installedById = (tx: Tx, projectId: number, id: number): InstalledStored | undefined =>
  tx
    .select()
    .from(installation)
    .where(and(eq(installation.projectId, projectId), eq(installation.id, id)))
    .get()

/** All that is said of an environment. */
export const installedIn = (tx: Tx, environmentId: number): Installed[] =>
  tx
    .select({ id: installation.id, fromAt: installation.fromAt, build: installation.buildId })
    .from(installation)
    .where(and(eq(installation.environmentId, environmentId), isNull(installation.deletedAt)))
    .all()
    .map(({ fromAt, ...row }) => ({ ...row, fromAt: fromAt ?? 0 }))

/** What stands in an environment at an instant, with whoever said so. */
export const standsIn = (
  tx: Tx,
  environmentId: number,
  at: number,
): { build: number; name: string; since: number; by: string | null } | undefined => {
  const row = rowOf(
    tx,
    { build: maybe(int), name: maybe(text), since: int, by: maybe(text) },
    sql`
      select t.build_id as build, b.name, t.from_at as since, p.name as by
      from installation t
      left join build b on b.id = t.build_id
      left join person p on p.id = t.person_id
      where t.environment_id = ${environmentId} and t.deleted_at is null and t.from_at <= ${at}
      order by t.from_at desc
      limit 1`,
  )
  return row && row.build !== null && row.name !== null ? { ...row, build: row.build, name: row.name } : undefined
}

/** Until the next that is said of the same environment. */
const until = sql`
  (
    select min(n.from_at)
    from installation n
    where n.environment_id = t.environment_id and n.deleted_at is null and n.from_at > t.from_at
  )`

/** What is said of the environments of a project, the newest first. */
export const installedRows = (
  tx: Tx,
  projectId: number,
  of: { readonly environment?: number | undefined; readonly before?: number | undefined; readonly limit: number },
): InstalledRow[] =>
  rowsOf(
    tx,
    {
      id: int,
      environmentId: int,
      environment: text,
      buildId: maybe(int),
      build: maybe(text),
      fromAt: int,
      untilAt: maybe(int),
      note: text,
      by: maybe(text),
      saidAt: int,
      attempts: int,
    },
    sql`
      select t.id, t.environment_id as environmentId, e.name as environment, t.build_id as buildId, b.name as build,
        t.from_at as fromAt, ${until} as untilAt, t.note, p.name as by, t.said_at as saidAt,
        (
          select count(*)
          from attempt a
          where a.environment_id = t.environment_id
            and a.started_at >= t.from_at
            and a.started_at < coalesce(${until}, 9e15)
        ) as attempts
      from installation t
      join environment e on e.id = t.environment_id
      left join build b on b.id = t.build_id
      left join person p on p.id = t.person_id
      where t.project_id = ${projectId} and t.deleted_at is null and e.deleted_at is null
        and (${of.environment ?? null} is null or t.environment_id = ${of.environment ?? null})
        and t.from_at < ${of.before ?? Number.MAX_SAFE_INTEGER}
      order by t.from_at desc, t.id desc
      limit ${of.limit}`,
  ).map(({ environmentId, environment, buildId, build, ...row }) => ({
    ...row,
    environment: { id: environmentId, name: environment },
    build: buildId === null || build === null ? null : { id: buildId, name: build },
  }))

/** Attempts that were begun in an environment in a time, with what their build was taken from and the key of their run. */
export const placedIn = (
  tx: Tx,
  environmentId: number,
  { from, until: end }: { readonly from: number; readonly until: number | null },
): (Placed & { readonly run: string | null })[] =>
  rowsOf(
    tx,
    { id: int, startedAt: int, build: int, buildBy: oneOf(buildSaidBy), ofRun: maybe(int), run: maybe(text) },
    sql`
      select a.id, a.started_at as startedAt, a.build_id as build, a.build_by as buildBy,
        coalesce(a.expected_build_id, r.build_id) as ofRun, ${keySql('run', 'r.number')} as run
      from attempt a
      left join item i on i.id = a.item_id
      left join run r on r.id = i.run_id
      where a.environment_id = ${environmentId}
        and a.started_at >= ${from}
        and (${end} is null or a.started_at < ${end})
      order by a.id`,
  )

/** How many of them are in runs that are over. */
export const inClosedRuns = (tx: Tx, attempts: readonly number[]): number =>
  rowOf(
    tx,
    { n: int },
    sql`
      select count(*) as n
      from attempt a
      join item i on i.id = a.item_id
      join run r on r.id = i.run_id
      where ${inIds(sql`a.id`, attempts)} and r.closed_at is not null`,
  )?.n ?? 0

/** Moves as people read them. */
export const moveRows = (tx: Tx, moves: readonly Move[]): InstalledMoves['rows'] => {
  const builds = new Map(
    rowsOf(
      tx,
      { id: int, name: text },
      sql`
        select id, name
        from build
        where ${inIds(
          sql`id`,
          moves.flatMap(({ from, to }) => [from, to]),
        )}`,
    ).map(({ id, name }) => [id, name]),
  )
  const of = new Map(moves.map((move) => [move.id, move]))
  const named = (id: number | undefined) => builds.get(id ?? 0) ?? ''
  return inOrder(
    moves.map(({ id }) => id),
    rowsOf(
      tx,
      { id: int, case: text, title: text, run: maybe(text), at: int, verdict: text },
      sql`
        select a.id, ${keySql('case', 'c.number')} as "case", c.title, ${keySql('run', 'r.number')} as run,
          a.started_at as at, a.verdict
        from attempt a
        join test_case c on c.id = a.case_id
        left join item i on i.id = a.item_id
        left join run r on r.id = i.run_id
        where ${inIds(
          sql`a.id`,
          moves.map(({ id }) => id),
        )}`,
    ),
  ).map(({ id, ...row }) => ({ ...row, from: named(of.get(id)?.from), to: named(of.get(id)?.to) }))
}

/** Gives an attempt its new build; which one its run had expected is kept, for the way back. */
export const moveAttempt = (tx: Tx, { id, from, to, buildBy }: Move): void =>
  void tx
    .update(attempt)
    .set({ buildId: to, buildBy, expectedBuildId: sql`coalesce(expected_build_id, ${from})` })
    .where(eq(attempt.id, id))
    .run()
