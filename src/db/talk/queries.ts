import { int, maybe, rowsOf, text } from '#db/rows.ts'
import { and, eq, isNull, sql } from 'drizzle-orm'
import type { PlanPart } from '#core/plans/state.ts'
import type { Tx } from '#db/open.ts'
import { person } from '#db/people/tables.ts'
import { attachment, comment } from './tables.ts'

export type AttachmentStored = typeof attachment.$inferSelect
export const addAttachment = (tx: Tx, of: Omit<typeof attachment.$inferInsert, 'id'>): number =>
  tx.insert(attachment).values(of).returning({ id: attachment.id }).get().id
export const findAttachment = (tx: Tx, projectId: number, id: number): AttachmentStored | undefined =>
  tx
    .select()
    .from(attachment)
    .where(and(eq(attachment.id, id), eq(attachment.projectId, projectId)))
    .get()
export const hideAttachment = (tx: Tx, id: number, at: number | null): void =>
  void tx.update(attachment).set({ deletedAt: at }).where(eq(attachment.id, id)).run()
export const allHashes = (tx: Tx): { hash: string; size: number }[] =>
  rowsOf(tx, { hash: text, size: int }, sql`select distinct hash, size from attachment`)

export const listComments = (
  tx: Tx,
  kind: string,
  ownerId: number,
): {
  id: number
  person: string
  personId: string
  step: number | null
  part: PlanPart | null
  text: string
  at: number
}[] =>
  tx
    .select({
      id: comment.id,
      person: person.name,
      personId: comment.personId,
      step: comment.stepId,
      part: comment.part,
      text: comment.text,
      at: comment.at,
    })
    .from(comment)
    .innerJoin(person, eq(person.id, comment.personId))
    .where(and(eq(comment.ownerKind, kind), eq(comment.ownerId, ownerId), isNull(comment.deletedAt)))
    .orderBy(comment.id)
    .limit(500)
    .all()
export const addComment = (
  tx: Tx,
  of: {
    projectId: number
    ownerKind: string
    ownerId: number
    stepId?: number | null
    part?: PlanPart | null
    text: string
    at: number
    personId: string
  },
): number => tx.insert(comment).values(of).returning({ id: comment.id }).get().id

/** How many comments each step of a case has. */
export const stepComments = (tx: Tx, caseId: number): { step: number; n: number }[] =>
  rowsOf(
    tx,
    { step: int, n: int },
    sql`
      select step_id as step, count(*) as n
      from comment
      where owner_kind = 'case' and owner_id = ${caseId} and step_id is not null and deleted_at is null
      group by 1`,
  )
export const attachmentsOf = (
  tx: Tx,
  kind: string,
  ownerId: number,
): { id: number; name: string; mime: string; size: number; at: number; person: string | null }[] =>
  rowsOf(
    tx,
    { id: int, name: text, mime: text, size: int, at: int, person: maybe(text) },
    sql`
      select a.id, a.name, a.mime, a.size, a.at, p.name as person
      from attachment a
      left join person p on p.id = a.person_id
      where a.owner_kind = ${kind} and a.owner_id = ${ownerId} and a.deleted_at is null
      order by a.id`,
  )
