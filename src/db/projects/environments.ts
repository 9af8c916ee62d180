import { and, eq, sql } from 'drizzle-orm'
import { groupBy } from '#core/lib/group.ts'
import type { EnvironmentRow } from '#core/projects/environments-contract.ts'
import type { Tx } from '#db/open.ts'
import { int, maybe, rowOf, rowsOf, text } from '#db/rows.ts'
import { environment, environmentValue, outage } from './tables.ts'

export type EnvironmentStored = typeof environment.$inferSelect
export const environmentById = (tx: Tx, projectId: number, id: number): EnvironmentStored | undefined =>
  tx
    .select()
    .from(environment)
    .where(and(eq(environment.projectId, projectId), eq(environment.id, id)))
    .get()

export const saveEnvironment = (tx: Tx, id: number, edit: Partial<EnvironmentStored>): void =>
  void tx.update(environment).set(edit).where(eq(environment.id, id)).run()

/** What environments stand for, by environment: factor → value. */
export function environmentValues(tx: Tx, projectId: number): Map<number, Record<string, string>> {
  const rows = rowsOf(
    tx,
    { id: int, factor: text, value: text },
    sql`
      select v.environment_id as id, v.factor, v.value
      from environment_value v
      join environment e on e.id = v.environment_id
      where e.project_id = ${projectId}
      order by v.environment_id, v.rowid`,
  )
  return new Map(
    [...groupBy(rows, ({ id }) => id)].map(([id, own]) => [
      id,
      Object.fromEntries(own.map(({ factor, value }) => [factor, value])),
    ]),
  )
}

export function setEnvironmentValues(tx: Tx, id: number, values: Readonly<Record<string, string>>): void {
  tx.delete(environmentValue).where(eq(environmentValue.environmentId, id)).run()
  for (const [factor, value] of Object.entries(values))
    tx.insert(environmentValue).values({ environmentId: id, factor, value }).run()
}

/** Environments that are there, without the one that stands for any. */
export function environmentRows(
  tx: Tx,
  projectId: number,
): Omit<EnvironmentRow, 'values' | 'notAllowed' | 'outages' | 'installed'>[] {
  return rowsOf(
    tx,
    {
      id: int,
      name: text,
      seats: maybe(int),
      ownerId: maybe(text),
      owner: maybe(text),
      address: text,
      notes: text,
      plans: int,
    },
    sql`
      select e.id, e.name, e.seats, e.owner_id as ownerId, p.name as owner, e.address, e.notes,
        (
          select count(*)
          from plan_environment t
          join plan l on l.id = t.plan_id
          where t.environment_id = e.id and l.deleted_at is null and l.state <> 'Closed'
        ) as plans
      from environment e
      left join person p on p.id = e.owner_id
      where e.project_id = ${projectId} and e.deleted_at is null and e.is_any = 0
      order by e.position`,
  ).map(({ ownerId, owner, ...row }) => ({
    ...row,
    owner: ownerId === null || owner === null ? null : { id: ownerId, name: owner },
  }))
}

/** So many outages of an environment are told, the newest first. */
const mostOutages = 20

/** Attempts `a` that ended while an outage `o` went on; found by when they ended, for an environment has far more of them. */
const inOutage = sql`
  a.project_id = o.project_id
    and +a.environment_id = o.environment_id
    and a.finished_at >= o.from_at
    and a.finished_at < coalesce(o.until_at, 9e15)`

/** Final attempts of an outage that are doubted, or that are not. */
export const attemptsInOutage = (tx: Tx, outageId: number, doubted: boolean): number[] =>
  rowsOf(
    tx,
    { id: int },
    sql`
      select a.id
      from outage o
      join attempt a on ${inOutage}
      where o.id = ${outageId} and a.final = 1 and (a.doubt is not null) = ${doubted ? 1 : 0}
      order by a.id`,
  ).map(({ id }) => id)

/** Outages by environment, the newest first, with how many attempts were made meanwhile. */
export function outagesOf(tx: Tx, projectId: number): Map<number, EnvironmentRow['outages']> {
  const rows = rowsOf(
    tx,
    {
      id: int,
      environment: int,
      fromAt: int,
      untilAt: maybe(int),
      reason: text,
      by: maybe(text),
      attempts: int,
      doubted: int,
    },
    sql`
      select o.id, o.environment_id as environment, o.from_at as fromAt, o.until_at as untilAt, o.reason, p.name as by,
        count(a.id) as attempts, count(a.doubt) as doubted
      from outage o
      left join person p on p.id = o.person_id
      left join attempt a on ${inOutage}
      where o.project_id = ${projectId} and o.deleted_at is null
      group by o.id
      order by o.from_at desc, o.id desc
      limit 500`,
  )
  return new Map(
    [...groupBy(rows, (row) => row.environment)].map(([id, own]) => [
      id,
      own.slice(0, mostOutages).map(({ environment: _, ...row }) => row),
    ]),
  )
}

export type OutageStored = typeof outage.$inferSelect
export const addOutageTo = (tx: Tx, of: Omit<typeof outage.$inferInsert, 'id'>): number =>
  tx.insert(outage).values(of).returning({ id: outage.id }).get().id
export const saveOutage = (tx: Tx, id: number, edit: Partial<OutageStored>): void =>
  void tx.update(outage).set(edit).where(eq(outage.id, id)).run()
export const outageById = (tx: Tx, projectId: number, id: number): OutageStored | undefined =>
  tx
    .select()
    .from(outage)
    .where(and(eq(outage.projectId, projectId), eq(outage.id, id)))
    .get()

/** Another outage of an environment that an interval would overlap. */
export const overlapping = (
  tx: Tx,
  of: { environment: number; fromAt: number; untilAt: number | null; except: number | null },
): number | undefined =>
  rowOf(
    tx,
    { id: int },
    sql`
      select id
      from outage
      where environment_id = ${of.environment}
        and deleted_at is null
        and id is not ${of.except}
        and (until_at is null or until_at > ${of.fromAt})
        and (${of.untilAt} is null or from_at < ${of.untilAt})
      limit 1`,
  )?.id

/** When the first and the last attempt of a run ended blocked in an environment; nothing where none did. */
export function blockedSpan(
  tx: Tx,
  of: { readonly run: string; readonly environment: number },
): { from: number; until: number } | null {
  const row = rowOf(
    tx,
    { from: maybe(int), until: maybe(int) },
    sql`
      select min(a.finished_at) as "from", max(a.finished_at) as "until"
      from attempt a
      join item i on i.id = a.item_id
      join run r on r.id = i.run_id
      where r.title = ${of.run} and a.verdict = 'Blocked' and a.environment_id = ${of.environment}`,
  )
  return row && row.from !== null && row.until !== null ? { from: row.from, until: row.until } : null
}
