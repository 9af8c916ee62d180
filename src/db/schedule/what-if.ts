import { and, asc, eq, isNull, sql } from 'drizzle-orm'
import type { Changes, WhatIf } from '#core/schedule/what-if-contract.ts'
import { int, maybe, rowsOf, text } from '#db/rows.ts'
import type { Tx } from '#db/open.ts'
import { whatIf, whatIfEnvironment, whatIfPerson } from './tables.ts'

export type WhatIfStored = WhatIf & { readonly runId: number }
const percent = maybe(int)

const waysWhere = (tx: Tx, where: ReturnType<typeof sql>): WhatIfStored[] =>
  rowsOf(
    tx,
    { id: int, runId: int, name: text, endOn: maybe(text), reservePercent: percent, more: int, by: text, at: int },
    sql`
      select w.id, w.run_id as runId, w.name, w.end_on as endOn, w.reserve_percent as reservePercent, w.more,
        coalesce(p.name, '') as by, w.created_at as at
      from what_if w
      left join person p on p.id = w.person_id
      where ${where}
      order by w.id`,
  ).map(({ endOn, reservePercent, more, ...of }) => ({
    ...of,
    changes: { endOn, reservePercent, more, ...membersOf(tx, of.id) },
  }))

function membersOf(tx: Tx, id: number): Pick<Changes, 'join' | 'without'> {
  const people = tx.select().from(whatIfPerson).where(eq(whatIfPerson.whatIfId, id)).orderBy(asc(whatIfPerson.personId))
  const places = tx.select().from(whatIfEnvironment).where(eq(whatIfEnvironment.whatIfId, id))
  return {
    join: people.all().map(({ personId }) => personId),
    without: places.all().map(({ environmentId }) => environmentId),
  }
}

/** Other ways of a run, the oldest first. */
export const whatIfsOf = (tx: Tx, runId: number): WhatIfStored[] =>
  waysWhere(tx, sql`w.run_id = ${runId} and w.deleted_at is null`)
export const whatIfById = (tx: Tx, id: number): WhatIfStored | undefined =>
  waysWhere(tx, sql`w.id = ${id} and w.deleted_at is null`)[0]

export function addWhatIf(
  tx: Tx,
  { changes, ...of }: { runId: number; name: string; changes: Changes; personId: string; createdAt: number },
): number {
  const { id } = tx
    .insert(whatIf)
    .values({ ...of, ...own(changes) })
    .returning({ id: whatIf.id })
    .get()
  putMembers(tx, id, changes)
  return id
}

export function saveWhatIf(tx: Tx, id: number, { name, changes }: { name: string; changes: Changes }): void {
  tx.update(whatIf)
    .set({ name, ...own(changes) })
    .where(eq(whatIf.id, id))
    .run()
  putMembers(tx, id, changes)
}

const own = ({ endOn, reservePercent, more }: Changes) => ({ endOn, reservePercent, more })

function putMembers(tx: Tx, id: number, { join, without }: Changes): void {
  tx.delete(whatIfPerson).where(eq(whatIfPerson.whatIfId, id)).run()
  tx.delete(whatIfEnvironment).where(eq(whatIfEnvironment.whatIfId, id)).run()
  for (const personId of new Set(join)) tx.insert(whatIfPerson).values({ whatIfId: id, personId }).run()
  for (const environmentId of new Set(without))
    tx.insert(whatIfEnvironment).values({ whatIfId: id, environmentId }).run()
}

/** Hides one at an instant, or shows it again (`null`). */
export const hideWhatIf = (tx: Tx, id: number, at: number | null): void =>
  void tx
    .update(whatIf)
    .set({ deletedAt: at })
    .where(and(eq(whatIf.id, id), at === null ? undefined : isNull(whatIf.deletedAt)))
    .run()
