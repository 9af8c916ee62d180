import { recordIn } from '#db/json.ts'
import { int, maybe, rowOf, rowsOf, text } from '#db/rows.ts'
import type { Act, ActionOf } from '#core/history/acts.ts'
import { and, desc, eq, gte, lt, lte, sql } from 'drizzle-orm'
import type { HistoryEntry } from '#core/history/contract.ts'
import type { Changes } from '#core/history/changes.ts'
import type { Tx } from '#db/open.ts'
import { change } from './tables.ts'
import { person } from '#db/people/tables.ts'

export type NewChange = Act & {
  readonly projectId: number
  readonly at: number
  readonly personId: string | null
  readonly ownerId: number
  readonly ref: string
  readonly detail: Changes | null
}

export function addChanges(tx: Tx, all: readonly NewChange[]): void {
  const rows = all.map((of) => [
    of.projectId,
    of.at,
    of.personId,
    of.kind,
    of.ownerId,
    of.ref,
    of.action,
    of.detail === null ? null : JSON.stringify(of.detail),
  ])
  tx.run(
    sql`
      insert into change (project_id, at, person_id, kind, owner_id, ref, action, detail)
      select j.value ->> 0, j.value ->> 1, j.value ->> 2, j.value ->> 3, j.value ->> 4, j.value ->> 5,
        j.value ->> 6, j.value ->> 7
      from json_each(${JSON.stringify(rows)}) j`,
  )
}
export const addChange = (tx: Tx, of: NewChange): number =>
  tx
    .insert(change)
    .values({ ...of, detail: of.detail && JSON.stringify(of.detail) })
    .returning({ id: change.id })
    .get().id

/** Puts a history that was written in another order into that of its times, for data that are made and not lived. */
export function sortByTime(tx: Tx): void {
  const columns = sql.raw('project_id, at, person_id, kind, owner_id, ref, action, detail')
  tx.run(sql`create temp table in_time as select ${columns} from change order by at, id`)
  tx.run(sql`delete from change`)
  tx.run(sql`insert into change (${columns}) select ${columns} from in_time order by rowid`)
  tx.run(sql`drop table in_time`)
}

/** An act as it was stored and is told; an older release may have stored one that this one does not know. */
export interface ChangeEvent {
  readonly kind: string
  readonly action: string
  readonly id: number
  readonly ref: string
  readonly at: number
}
export const changesSince = (tx: Tx, projectId: number, after: number, limit: number): ChangeEvent[] =>
  rowsOf(
    tx,
    {
      kind: text,
      action: text,
      id: int,
      ref: text,
      at: int,
    },
    sql`
      select id, kind, ref, action, at
      from change
      where project_id = ${projectId} and id > ${after}
      order by id
      limit ${limit}`,
  )

export const lastChange = (tx: Tx, projectId: number): number =>
  rowOf(tx, { id: maybe(int) }, sql`select max(id) as id from change where project_id = ${projectId}`)?.id ?? 0

/** What is done to a case that changes nothing but what it says of itself; not its links, nor whether it is there. */
const aloneActs: readonly ActionOf<'case'>[] = [
  'changed',
  'written',
  'version',
  'commented',
  'review asked',
  'sent back',
  'approved',
  'changes suggested',
  'suggestion taken',
  'suggestion declined',
]
/** What happens to these says nothing of cases. */
const apart = ['attempt', 'run', 'defect', 'plan', 'model'] as const
/** More cases than these are not looked at one by one. */
const mostAlone = 200

/**
 * Cases that changed in a project after a change, where nothing else happened to it that says anything of its cases; `null` where
 * something did, or too many changed to be looked at one by one.
 */
export function casesChangedAlone(tx: Tx, projectId: number, after: number): number[] | null {
  const rows = rowsOf(
    tx,
    { kind: text, action: text, id: int },
    sql`
      select kind, action, owner_id as id
      from change
      where project_id = ${projectId} and id > ${after}
      limit ${mostAlone + 1}`,
  )
  const told = rows.filter(({ kind }) => !apart.some((each) => each === kind))
  const isAlone = told.every(({ kind, action }) => kind === 'case' && aloneActs.some((each) => each === action))
  return rows.length > mostAlone || !isAlone ? null : [...new Set(told.map(({ id }) => id))]
}

interface HistoryAsked {
  readonly ref?: string | undefined
  readonly person?: string | undefined
  readonly kind?: string | undefined
  readonly from?: number | undefined
  readonly to?: number | undefined
  readonly before?: number | undefined
  readonly limit: number
}

export function listChanges(tx: Tx, projectId: number, of: HistoryAsked): HistoryEntry[] {
  const rows = tx
    .select({
      id: change.id,
      at: change.at,
      person: person.name,
      kind: change.kind,
      ref: change.ref,
      action: change.action,
      detail: change.detail,
    })
    .from(change)
    .leftJoin(person, eq(person.id, change.personId))
    .where(
      and(
        eq(change.projectId, projectId),
        of.ref ? eq(change.ref, of.ref) : undefined,
        of.person === undefined ? undefined : eq(change.personId, of.person),
        of.kind === undefined ? undefined : eq(change.kind, of.kind),
        of.from === undefined ? undefined : gte(change.at, of.from),
        of.to === undefined ? undefined : lte(change.at, of.to),
        of.before ? lt(change.id, of.before) : undefined,
      ),
    )
    .orderBy(desc(change.id))
    .limit(of.limit)
    .all()
  return rows.map((row) => ({
    ...row,
    detail: row.detail === null ? null : (recordIn(row.detail) as Record<string, [unknown, unknown]>),
  }))
}
