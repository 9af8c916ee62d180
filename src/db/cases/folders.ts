import { int, maybe, rowOf, rowsOf, text } from '#db/rows.ts'
import { eq, sql } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'
import { folder } from './tables.ts'

export const folders = (
  tx: Tx,
  projectId: number,
): { id: number; parent: number | null; name: string; position: number; cases: number }[] =>
  rowsOf(
    tx,
    { id: int, parent: maybe(int), name: text, position: int, cases: int },
    sql`
      select f.id, f.parent_id as parent, f.name, f.position,
        (
          select count(*)
          from test_case c
          where c.project_id = ${projectId} and c.folder_id = f.id and c.deleted_at is null
        ) as cases
      from folder f
      where f.project_id = ${projectId} and f.deleted_at is null
      order by f.position, f.id`,
  )

export function addFolder(tx: Tx, projectId: number, name: string, parentId: number | null): number {
  const last =
    rowOf(
      tx,
      { n: maybe(int) },
      sql`select max(position) as n from folder where project_id = ${projectId} and parent_id is ${parentId}`,
    )?.n ?? 0
  return tx
    .insert(folder)
    .values({ projectId, name, parentId, position: last + 1 })
    .returning({ id: folder.id })
    .get().id
}

export const findFolder = (tx: Tx, projectId: number, name: string, parentId: number | null): number | undefined =>
  rowOf(
    tx,
    { id: int },
    sql`
      select id
      from folder
      where project_id = ${projectId} and parent_id is ${parentId} and name = ${name} and deleted_at is null`,
  )?.id

export const folderById = (
  tx: Tx,
  projectId: number,
  id: number,
): { id: number; name: string; parentId: number | null } | undefined =>
  rowOf(
    tx,
    { id: int, name: text, parentId: maybe(int) },
    sql`
      select id, name, parent_id as parentId
      from folder
      where id = ${id} and project_id = ${projectId} and deleted_at is null`,
  )
export const saveFolder = (
  tx: Tx,
  id: number,
  edit: { name?: string; parentId?: number | null; position?: number; deletedAt?: number | null },
): void => void tx.update(folder).set(edit).where(eq(folder.id, id)).run()
export const casesInFolder = (tx: Tx, projectId: number, id: number): number[] =>
  rowsOf(
    tx,
    { id: int },
    sql`select id from test_case where project_id = ${projectId} and folder_id = ${id} and deleted_at is null`,
  ).map((row) => row.id)
