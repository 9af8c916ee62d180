import { int, maybe, rowOf, rowsOf, text } from '#db/rows.ts'
import { keySql } from '#db/key-sql.ts'
import { and, eq, sql } from 'drizzle-orm'
import { groupBy } from '#core/lib/group.ts'
import { inIds } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { requirement, requirementRevision } from './tables.ts'

export type RequirementStored = typeof requirement.$inferSelect

export const findRequirement = (tx: Tx, projectId: number, number: number): RequirementStored | undefined =>
  tx
    .select()
    .from(requirement)
    .where(and(eq(requirement.projectId, projectId), eq(requirement.number, number)))
    .get()

export const requirementById = (tx: Tx, projectId: number, id: number): RequirementStored | undefined =>
  tx
    .select()
    .from(requirement)
    .where(and(eq(requirement.projectId, projectId), eq(requirement.id, id)))
    .get()

export interface NewRequirement {
  readonly projectId: number
  readonly number: number
  readonly parentId: number | null
  readonly position: number
  readonly title: string
  readonly text?: string
  readonly kind?: string
  readonly component?: string
  readonly state?: RequirementStored['state']
  readonly likelihood?: number | null
  readonly impact?: number | null
  readonly priority?: number | null
  readonly ownerId?: string | null
  readonly outsideRef?: string
  readonly outsideUrl?: string
  readonly createdAt?: number
  readonly deletedAt?: number
}

export function addRequirement(tx: Tx, of: NewRequirement, by: { now: number; personId: string | null }): number {
  const { id } = tx
    .insert(requirement)
    .values({ createdAt: by.now, ...of, updatedAt: by.now })
    .returning({ id: requirement.id })
    .get()
  tx.insert(requirementRevision)
    .values({ requirementId: id, revision: 1, title: of.title, text: of.text ?? '', at: by.now, personId: by.personId })
    .run()
  return id
}

/** Stores an edit; a change of title or text writes the next revision. */
export function saveRequirement(
  tx: Tx,
  before: RequirementStored,
  edit: Partial<RequirementStored>,
  by: { now: number; personId: string | null },
): RequirementStored {
  const after = { ...before, ...edit, updatedAt: by.now, version: before.version + 1 }
  const revised = after.title !== before.title || after.text !== before.text
  if (revised) after.revision = before.revision + 1
  tx.update(requirement).set(after).where(eq(requirement.id, before.id)).run()
  if (revised)
    tx.insert(requirementRevision)
      .values({
        requirementId: before.id,
        revision: after.revision,
        title: after.title,
        text: after.text,
        at: by.now,
        personId: by.personId,
      })
      .run()
  return after
}

export const revisionsOf = (
  tx: Tx,
  id: number,
): { revision: number; title: string; text: string; at: number; by: string | null }[] =>
  rowsOf(
    tx,
    { revision: int, title: text, text: text, at: int, by: maybe(text) },
    sql`
      select v.revision, v.title, v.text, v.at, p.name as "by"
      from requirement_revision v
      left join person p on p.id = v.person_id
      where v.requirement_id = ${id}
      order by v.revision desc`,
  )

export const titlesOf = (tx: Tx, projectId: number): Map<number, string> =>
  new Map(
    rowsOf(
      tx,
      { id: int, title: text },
      sql`select id, title from requirement where project_id = ${projectId} and deleted_at is null`,
    ).map(({ id, title }) => [id, title]),
  )
export const mergedRequirement = (tx: Tx, projectId: number, key: string): string | undefined =>
  rowOf(
    tx,
    { key: text },
    sql`
      select ${keySql('requirement', 'r.number')} as key
      from alias a
      join requirement r on r.id = a.owner_id
      join requirement old on old.project_id = a.project_id and ${keySql('requirement', 'old.number')} = a.key
      where a.project_id = ${projectId}
        and a.key = ${key}
        and a.kind = 'requirement'
        and r.deleted_at is null
        and old.deleted_at is not null`,
  )?.key

/** Requirements that were reworded since their link to some cases was made or confirmed: their keys by case. */
export const rewordedFor = (tx: Tx, cases: readonly number[]): Map<number, string[]> =>
  new Map(
    [
      ...groupBy(
        rowsOf(
          tx,
          { case: int, key: text },
          sql`
            select distinct l.case_id as "case", ${keySql('requirement', 'r.number')} as key
            from link l
            join requirement r on r.id = l.requirement_id
            where ${inIds(sql`l.case_id`, cases)}
              and l.until_at is null
              and r.deleted_at is null
              and r.revision > l.confirmed_revision
            order by r.number`,
        ),
        (row) => row.case,
      ),
    ].map(([id, own]) => [id, own.map(({ key }) => key)]),
  )
