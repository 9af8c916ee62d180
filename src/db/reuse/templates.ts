import { int, maybe, rowsOf, text } from '#db/rows.ts'
import { and, eq, isNull, sql } from 'drizzle-orm'
import { z } from 'zod'
import { importance } from '#core/cases/case.ts'
import type { Tx } from '#db/open.ts'
import { caseTemplate } from '#db/cases/tables.ts'

const templateContent = z.object({
  objective: z.string(),
  type: z.string(),
  component: z.string(),
  importance,
  tags: z.array(z.string()),
  preconditions: z.string(),
  parameters: z.array(z.string()),
  rows: z.array(z.record(z.string(), z.string())),
  steps: z.array(z.object({ action: z.string(), expected: z.string(), data: z.string() })),
})
export interface Template {
  readonly id: number
  readonly name: string
  readonly content: z.output<typeof templateContent>
  readonly by: string | null
  readonly at: number
}

export const templates = (tx: Tx, projectId: number): Template[] =>
  rowsOf(
    tx,
    { name: text, id: int, at: int, by: maybe(text), content: text },
    sql`
      select t.id, t.name, t.content, p.name as "by", t.at
      from case_template t
      left join person p on p.id = t.person_id
      where t.project_id = ${projectId} and t.deleted_at is null
      order by t.name`,
  ).map((row) => ({ ...row, content: templateContent.parse(JSON.parse(row.content)) }))

export const templateNamed = (tx: Tx, projectId: number, name: string): boolean =>
  tx
    .select({ id: caseTemplate.id })
    .from(caseTemplate)
    .where(and(eq(caseTemplate.projectId, projectId), eq(caseTemplate.name, name), isNull(caseTemplate.deletedAt)))
    .get() !== undefined
export const addTemplate = (tx: Tx, of: Omit<typeof caseTemplate.$inferInsert, 'id'>): number =>
  tx.insert(caseTemplate).values(of).returning({ id: caseTemplate.id }).get().id
/** One that is taken away too. */
export const findTemplate = (
  tx: Tx,
  projectId: number,
  id: number,
): Pick<typeof caseTemplate.$inferSelect, 'name' | 'deletedAt'> | undefined =>
  tx
    .select({ name: caseTemplate.name, deletedAt: caseTemplate.deletedAt })
    .from(caseTemplate)
    .where(and(eq(caseTemplate.id, id), eq(caseTemplate.projectId, projectId)))
    .get()
export const hideTemplate = (tx: Tx, id: number, at: number | null): void =>
  void tx.update(caseTemplate).set({ deletedAt: at }).where(eq(caseTemplate.id, id)).run()
