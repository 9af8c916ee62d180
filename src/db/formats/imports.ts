import { int, maybe, oneOf, rowsOf, text } from '#db/rows.ts'
import { keySql } from '#db/key-sql.ts'
import { and, desc, eq, isNotNull, isNull, sql } from 'drizzle-orm'
import { inIds } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { requirementRelation } from '#db/requirements/tables.ts'
import { standingImport, importAct, importMapping, importOrigin } from './tables.ts'

export type OwnerKind = 'requirement' | 'case'
export type ActStored = typeof importAct.$inferSelect

/** While this stands as the instant an act was undone at, it has not happened yet. */
const notYet = 1

export const addAct = (
  tx: Tx,
  of: { projectId: number; at: number; personId: string | null; source: string; what: OwnerKind },
): number =>
  tx
    .insert(importAct)
    .values({ ...of, made: '[]', changed: '[]', undoneAt: notYet })
    .returning({ id: importAct.id })
    .get().id
export const finishAct = (tx: Tx, id: number, of: { made: readonly number[]; changed: readonly unknown[] }): void =>
  void tx
    .update(importAct)
    .set({ made: JSON.stringify(of.made), changed: JSON.stringify(of.changed), undoneAt: null })
    .where(eq(importAct.id, id))
    .run()
/** What an act is about to make and change, or what of it is still to be taken back. */
export const noteAct = (tx: Tx, id: number, of: { made: readonly number[]; changed: readonly unknown[] }): void =>
  void tx
    .update(importAct)
    .set({ made: JSON.stringify(of.made), changed: JSON.stringify(of.changed) })
    .where(eq(importAct.id, id))
    .run()
export const findAct = (tx: Tx, projectId: number, id: number): ActStored | undefined =>
  tx
    .select()
    .from(importAct)
    .where(and(eq(importAct.id, id), eq(importAct.projectId, projectId)))
    .get()
export const endAct = (tx: Tx, id: number, now: number): void =>
  void tx.update(importAct).set({ undoneAt: now }).where(eq(importAct.id, id)).run()
export const acts = (
  tx: Tx,
  projectId: number,
  limit: number,
): {
  id: number
  at: number
  by: string | null
  source: string
  what: string
  made: number
  changed: number
  undoneAt: number | null
}[] =>
  rowsOf(
    tx,
    { id: int, at: int, by: maybe(text), source: text, what: text, made: int, changed: int, undoneAt: maybe(int) },
    sql`
      select a.id, a.at, p.name as "by", a.source, a.what, json_array_length(a.made) as made,
        json_array_length(a.changed) as changed, a.undone_at as undoneAt
      from import_act a
      left join person p on p.id = a.person_id
      where a.project_id = ${projectId} and (a.undone_at is null or a.undone_at > ${notYet})
      order by a.id desc
      limit ${limit}`,
  )

/** Numbers, by id, of those that somebody else than the importer changed since, that are executed, or that others link to. */
export function workedWith(
  tx: Tx,
  kind: OwnerKind,
  ids: readonly number[],
  act: Pick<ActStored, 'at' | 'personId'>,
): Map<number, number> {
  const used =
    kind === 'case'
      ? sql`
        exists (select 1 from item i where i.case_id = o.id and i.deleted_at is null)
        or exists (select 1 from attempt a where a.case_id = o.id)`
      : sql`
        exists (
          select 1
          from link l
          join test_case c on c.id = l.case_id and c.deleted_at is null
          where l.requirement_id = o.id and l.until_at is null
        )`
  const rows = rowsOf(
    tx,
    { id: int, number: int },
    sql`
      select o.id, o.number
      from ${sql.raw(kind === 'case' ? 'test_case' : 'requirement')} o
      where ${inIds(sql`o.id`, ids)}
        and o.deleted_at is null
        and (
          ${used}
          or exists (
            select 1
            from change h
            where h.kind = ${kind} and h.owner_id = o.id and h.at >= ${act.at} and h.person_id is not ${act.personId}
          )
        )
      order by o.number`,
  )
  return new Map(rows.map(({ id, number }) => [id, number]))
}

/** Content that waits in a version of its own, told by the negative number of its act, takes the place of the working copy; what was there waits likewise. */
export function swapWorking(tx: Tx, act: number, caseIds: readonly number[]): void {
  tx.run(
    sql`update case_version set major = ${-act}, minor = 1 where major is null and ${inIds(sql`case_id`, caseIds)}`,
  )
  tx.run(
    sql`
      update case_version
      set major = null, minor = null
      where major = ${-act} and minor = 0 and ${inIds(sql`case_id`, caseIds)}`,
  )
  tx.run(sql`update case_version set minor = 0 where major = ${-act} and minor = 1 and ${inIds(sql`case_id`, caseIds)}`)
  tx.run(
    sql`
      update test_case
      set steps = (
        select count(*)
        from case_version v
        join version_step s on s.version_id = v.id
        where v.case_id = test_case.id and v.major is null
      )
      where ${inIds(sql`id`, caseIds)}`,
  )
}

/** Content that waits for an act and never came in, of some cases or of all. */
export function dropContents(tx: Tx, act: number, caseIds?: readonly number[]): void {
  const of = caseIds === undefined ? sql`` : sql`and ${inIds(sql`case_id`, caseIds)}`
  const waiting = sql`select id from case_version where major = ${-act} ${of}`
  tx.run(sql`delete from version_step where version_id in (${waiting})`)
  tx.run(sql`delete from data_row where version_id in (${waiting})`)
  tx.run(sql`delete from case_version where major = ${-act} ${of}`)
}

export function dropWaiting(tx: Tx, act: number): void {
  dropContents(tx, act)
  tx.delete(importAct).where(eq(importAct.id, act)).run()
}

/** Acts that were cut off before they had happened, or in the midst of it. */
export const unfinishedActs = (tx: Tx): ActStored[] =>
  tx.select().from(importAct).where(eq(importAct.undoneAt, notYet)).all()

/** What cases say now, by id: their edit version, title, and the fingerprint of their working copy. */
export const casesNow = (
  tx: Tx,
  ids: readonly number[],
): Map<number, { version: number; title: string; content: string }> =>
  new Map(
    rowsOf(
      tx,
      { id: int, version: int, title: text, content: text },
      sql`
        select c.id, c.version, c.title, v.fingerprint as content
        from test_case c
        join case_version v on v.case_id = c.id and v.major is null
        where ${inIds(sql`c.id`, ids)}`,
    ).map(({ id, ...own }) => [id, own]),
  )

/** Outside id → object, the ones of this source first. */
export function origins(
  tx: Tx,
  projectId: number,
  kind: OwnerKind,
  source: string,
): { all: Map<string, number>; own: Map<string, number> } {
  const table = sql.raw(kind === 'case' ? 'test_case' : 'requirement')
  const rows = rowsOf(
    tx,
    { source: text, outsideId: text, ownerId: int },
    sql`
      select o.source, o.outside_id as outsideId, o.owner_id as ownerId
      from import_origin o
      join ${table} t on t.id = o.owner_id
      where o.project_id = ${projectId} and o.owner_kind = ${kind} and t.deleted_at is null`,
  )
  const own = new Map(rows.filter((row) => row.source === source).map(({ outsideId, ownerId }) => [outsideId, ownerId]))
  return { all: new Map([...rows.map(({ outsideId, ownerId }) => [outsideId, ownerId] as const), ...own]), own }
}

export const setOrigin = (
  tx: Tx,
  of: { projectId: number; ownerKind: OwnerKind; source: string; outsideId: string; ownerId: number },
): void =>
  void tx
    .insert(importOrigin)
    .values(of)
    .onConflictDoUpdate({
      target: [importOrigin.projectId, importOrigin.ownerKind, importOrigin.source, importOrigin.outsideId],
      set: { ownerId: of.ownerId },
    })
    .run()

export const idsByNumber = (
  tx: Tx,
  projectId: number,
  kind: OwnerKind,
  numbers: readonly number[],
): Map<number, number> =>
  new Map(
    rowsOf(
      tx,
      { id: int, number: int },
      sql`
        select id, number
        from ${sql.raw(kind === 'case' ? 'test_case' : 'requirement')}
        where project_id = ${projectId} and deleted_at is null and ${inIds(sql`number`, numbers)}`,
    ).map(({ id, number }) => [number, id]),
  )

export const titlesOf = (
  tx: Tx,
  kind: OwnerKind,
  ids: readonly number[],
): { id: number; key: string; title: string }[] =>
  rowsOf(
    tx,
    { id: int, key: text, title: text },
    sql`
      select id, ${keySql(kind, 'number')} as key, title
      from ${sql.raw(kind === 'case' ? 'test_case' : 'requirement')}
      where deleted_at is null and ${inIds(sql`id`, ids)}
      order by number`,
  )

export const listMappings = (tx: Tx, projectId: number): { id: number; name: string; mapping: string }[] =>
  tx
    .select({ id: importMapping.id, name: importMapping.name, mapping: importMapping.mapping })
    .from(importMapping)
    .where(eq(importMapping.projectId, projectId))
    .orderBy(importMapping.name)
    .all()
export const findMapping = (tx: Tx, projectId: number, name: string): string | undefined =>
  tx
    .select({ mapping: importMapping.mapping })
    .from(importMapping)
    .where(and(eq(importMapping.projectId, projectId), eq(importMapping.name, name)))
    .get()?.mapping
export const keepMapping = (
  tx: Tx,
  of: { projectId: number; name: string; mapping: string; personId: string | null; at: number },
): number =>
  tx
    .insert(importMapping)
    .values(of)
    .onConflictDoUpdate({
      target: [importMapping.projectId, importMapping.name],
      set: { mapping: of.mapping, personId: of.personId, at: of.at },
    })
    .returning({ id: importMapping.id })
    .get().id
export const dropMapping = (tx: Tx, projectId: number, id: number): number =>
  tx
    .delete(importMapping)
    .where(and(eq(importMapping.id, id), eq(importMapping.projectId, projectId)))
    .run().changes

/** A tie that stands already is left as it is. */
export function addRelation(
  tx: Tx,
  of: { projectId: number; fromId: number; toId: number; kind: string; now: number },
): void {
  const there = tx
    .select({ id: requirementRelation.id })
    .from(requirementRelation)
    .where(
      and(
        eq(requirementRelation.fromId, of.fromId),
        eq(requirementRelation.toId, of.toId),
        eq(requirementRelation.kind, of.kind),
        isNull(requirementRelation.untilAt),
      ),
    )
    .orderBy(desc(requirementRelation.id))
    .get()
  if (!there)
    tx.insert(requirementRelation)
      .values({ projectId: of.projectId, fromId: of.fromId, toId: of.toId, kind: of.kind, fromAt: of.now })
      .run()
}

export const relationsOf = (tx: Tx, id: number): { key: string; title: string; kind: string; towards: number }[] =>
  rowsOf(
    tx,
    { key: text, title: text, kind: text, towards: int },
    sql`
      select ${keySql('requirement', 'r.number')} as key, r.title, t.kind, t.from_id = ${id} as towards
      from requirement_relation t
      join requirement r on r.id = case when t.from_id = ${id} then t.to_id else t.from_id end
      where (t.from_id = ${id} or t.to_id = ${id}) and t.until_at is null and r.deleted_at is null
      order by t.id`,
  )

export const revisionsOf = (tx: Tx, ids: readonly number[]): Map<number, number> =>
  new Map(
    rowsOf(tx, { id: int, revision: int }, sql`select id, revision from requirement where ${inIds(sql`id`, ids)}`).map(
      ({ id, revision }) => [id, revision],
    ),
  )

export type StandingStored = typeof standingImport.$inferSelect
export const standingImports = (
  tx: Tx,
  projectId: number,
): {
  id: number
  name: string
  file: string
  what: 'cases' | 'requirements'
  everyMinutes: number | null
  by: string | null
  lastAt: number | null
  lastTold: string
}[] =>
  rowsOf(
    tx,
    {
      id: int,
      name: text,
      file: text,
      what: oneOf(['requirements', 'cases']),
      everyMinutes: maybe(int),
      by: maybe(text),
      lastAt: maybe(int),
      lastTold: text,
    },
    sql`
      select s.id, s.name, s.file, s.what, s.every_minutes as everyMinutes, p.name as "by",
        s.last_at as lastAt, s.last_told as lastTold
      from standing_import s
      left join person p on p.id = s.person_id
      where s.project_id = ${projectId} and s.deleted_at is null
      order by s.name`,
  )
export const addStanding = (tx: Tx, of: Omit<typeof standingImport.$inferInsert, 'id'>): number =>
  tx.insert(standingImport).values(of).returning({ id: standingImport.id }).get().id
/** One that goes on, or with `ended` one that was ended. */
export const findStanding = (tx: Tx, projectId: number, id: number, ended = false): StandingStored | undefined =>
  tx
    .select()
    .from(standingImport)
    .where(
      and(
        eq(standingImport.id, id),
        eq(standingImport.projectId, projectId),
        (ended ? isNotNull : isNull)(standingImport.deletedAt),
      ),
    )
    .get()
export const noteStanding = (tx: Tx, id: number, of: { at: number; told: string; hash: string }): void =>
  void tx
    .update(standingImport)
    .set({ lastAt: of.at, lastTold: of.told, lastHash: of.hash })
    .where(eq(standingImport.id, id))
    .run()
export const hideStanding = (tx: Tx, id: number, at: number | null): void =>
  void tx.update(standingImport).set({ deletedAt: at }).where(eq(standingImport.id, id)).run()
export const dueStanding = (tx: Tx, now: number): StandingStored[] =>
  tx
    .select()
    .from(standingImport)
    .where(and(isNull(standingImport.deletedAt), isNotNull(standingImport.everyMinutes)))
    .all()
    .filter(({ lastAt, everyMinutes }) => lastAt === null || now - lastAt >= (everyMinutes ?? 0) * 60_000)
