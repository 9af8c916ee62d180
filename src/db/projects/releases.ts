import { int, maybe, rowOf, text } from '#db/rows.ts'
import { eq, sql } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'
import { build, environment, environmentValue, iteration, release } from './tables.ts'

const nextPosition = (tx: Tx, table: 'release' | 'build' | 'environment', projectId: number): number =>
  (rowOf(tx, { n: maybe(int) }, sql`select max(position) as n from ${sql.raw(table)} where project_id = ${projectId}`)
    ?.n ?? 0) + 1

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
    state?: 'Offered' | 'Refused' | 'Withdrawn'
    endedAt?: number
  },
): number =>
  tx
    .insert(build)
    .values({ state: 'Offered', ...of, projectId, position: nextPosition(tx, 'build', projectId) })
    .returning({ id: build.id })
    .get().id

export const setBuildState = (tx: Tx, id: number, state: 'Offered' | 'Refused' | 'Withdrawn', now: number): void =>
  void tx
    .update(build)
    .set({ state, endedAt: state === 'Offered' ? null : now })
    .where(eq(build.id, id))
    .run()

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
