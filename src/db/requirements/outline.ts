import { int, maybe, rowOf, rowsOf, text } from '#db/rows.ts'
import { keySql } from '#db/key-sql.ts'
import { and, eq, isNull, sql } from 'drizzle-orm'
import { outlineOrder, type OutlinePlace } from '#core/requirements/outline.ts'
import { inIds } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { requirement } from './tables.ts'

export const outlinePlaces = (tx: Tx, projectId: number): OutlinePlace[] =>
  rowsOf(
    tx,
    { id: int, parent: maybe(int), position: int },
    sql`
      select id, parent_id as parent, position
      from requirement
      where project_id = ${projectId} and deleted_at is null`,
  )

export const depthsOf = (tx: Tx, projectId: number): Map<number, number> =>
  new Map(outlineOrder(outlinePlaces(tx, projectId)).map(({ place, depth }) => [place.id, depth]))

export const lastPosition = (tx: Tx, projectId: number, parentId: number | null): number =>
  rowOf(
    tx,
    { n: maybe(int) },
    sql`select max(position) as n from requirement where project_id = ${projectId} and parent_id is ${parentId}`,
  )?.n ?? 0

export const childrenOf = (tx: Tx, projectId: number, id: number): { key: string; title: string }[] =>
  rowsOf(
    tx,
    { key: text, title: text },
    sql`
      select ${keySql('requirement', 'number')} as key, title
      from requirement
      where project_id = ${projectId} and parent_id = ${id} and deleted_at is null
      order by position`,
  )

export function pathOf(tx: Tx, id: number): { key: string; title: string }[] {
  const rows = rowsOf(
    tx,
    { key: text, title: text },
    sql`
      with recursive up(id, parent_id, number, title, depth) as (
        select id, parent_id, number, title, 0
        from requirement
        where id = ${id}
        union all
        select r.id, r.parent_id, r.number, r.title, up.depth + 1
        from requirement r
        join up on r.id = up.parent_id
        where up.depth < 50
      )
      select ${keySql('requirement', 'number')} as key, title
      from up
      where depth > 0
      order by depth desc`,
  )
  return rows
}

/** The ids and everything below them, not yet deleted. */
export const branchIds = (tx: Tx, projectId: number, ids: readonly number[]): { id: number; key: string }[] =>
  rowsOf(
    tx,
    { id: int, key: text },
    sql`
      with recursive down(id) as (
        select r.id
        from requirement r
        where r.project_id = ${projectId} and ${inIds(sql`r.id`, ids)}
        union
        select r.id
        from requirement r
        join down on r.parent_id = down.id
        where r.project_id = ${projectId}
      )
      select r.id, ${keySql('requirement', 'r.number')} as key
      from requirement r
      join down on down.id = r.id
      where r.deleted_at is null`,
  )

export function placeRequirement(tx: Tx, id: number, parentId: number | null, order: readonly number[]): void {
  tx.update(requirement).set({ parentId }).where(eq(requirement.id, id)).run()
  order.forEach((sibling, index) =>
    tx
      .update(requirement)
      .set({ position: index + 1 })
      .where(eq(requirement.id, sibling))
      .run(),
  )
}

export const siblings = (tx: Tx, projectId: number, parentId: number | null): number[] =>
  tx
    .select({ id: requirement.id })
    .from(requirement)
    .where(
      and(
        eq(requirement.projectId, projectId),
        parentId === null ? isNull(requirement.parentId) : eq(requirement.parentId, parentId),
        isNull(requirement.deletedAt),
      ),
    )
    .orderBy(requirement.position, requirement.id)
    .all()
    .map(({ id }) => id)
export const childIds = (tx: Tx, projectId: number, parent: number): number[] =>
  rowsOf(
    tx,
    { id: int },
    sql`
      select id
      from requirement
      where project_id = ${projectId} and parent_id = ${parent} and deleted_at is null
      order by position`,
  ).map(({ id }) => id)
