import { type Keyed, prefixes } from '#core/lib/key.ts'
import { eq, sql } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'
import { int, rowsOf } from '#db/rows.ts'
import { counter, environment, project } from './tables.ts'

export type ProjectRow = typeof project.$inferSelect
export const findProject = (tx: Tx, key: string): ProjectRow | undefined =>
  tx.select().from(project).where(eq(project.key, key)).get()
export const findProjectById = (tx: Tx, id: number): ProjectRow | undefined =>
  tx.select().from(project).where(eq(project.id, id)).get()

/** All there are. */
export const projectIds = (tx: Tx): number[] =>
  rowsOf(tx, { id: int }, sql`select id from project order by id`).map(({ id }) => id)

export const allProjects = (tx: Tx): { key: string; name: string; product: string }[] =>
  tx.select({ key: project.key, name: project.name, product: project.product }).from(project).orderBy(project.id).all()

export function addProject(tx: Tx, of: Omit<typeof project.$inferInsert, 'id'>): number {
  const { id } = tx.insert(project).values(of).returning({ id: project.id }).get()
  tx.insert(environment).values({ projectId: id, position: 0, name: 'any', isAny: true }).run()
  return id
}

export const saveProject = (tx: Tx, id: number, edit: Partial<ProjectRow>): void =>
  void tx.update(project).set(edit).where(eq(project.id, id)).run()

export const bumpStructure = (tx: Tx, projectId: number): void =>
  void tx.run(sql`update project set structure_version = structure_version + 1 where id = ${projectId}`)

/** Takes `count` numbers of a kind; numbers are never used again, whatever becomes of their objects. */
export function takeNumbers(tx: Tx, projectId: number, kind: Keyed, count = 1): number {
  const prefix = prefixes[kind]
  const row = tx
    .insert(counter)
    .values({ projectId, prefix, next: 1 + count })
    .onConflictDoUpdate({ target: [counter.projectId, counter.prefix], set: { next: sql`${counter.next} + ${count}` } })
    .returning({ next: counter.next })
    .get()
  return row.next - count
}
