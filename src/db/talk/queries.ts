import { and, eq, isNull, sql } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'
import { person } from '#db/people/tables.ts'
import { attachment, comment } from './tables.ts'

export type AttachmentStored = typeof attachment.$inferSelect
export const addAttachment = (tx: Tx, of: Omit<typeof attachment.$inferInsert, 'id'>): number => tx.insert(attachment).values(of).returning({ id: attachment.id }).get().id
export const findAttachment = (tx: Tx, projectId: number, id: number): AttachmentStored | undefined => tx.select().from(attachment).where(and(eq(attachment.id, id), eq(attachment.projectId, projectId))).get()
export const hideAttachment = (tx: Tx, id: number, at: number | null): void => void tx.update(attachment).set({ deletedAt: at }).where(eq(attachment.id, id)).run()
export const allHashes = (tx: Tx): { hash: string; size: number }[] => tx.all(sql`select distinct hash, size from attachment`)

export const listComments = (tx: Tx, kind: string, ownerId: number): { id: number; person: string; personId: string; text: string; at: number }[] =>
  tx.select({ id: comment.id, person: person.name, personId: comment.personId, text: comment.text, at: comment.at }).from(comment).innerJoin(person, eq(person.id, comment.personId))
    .where(and(eq(comment.ownerKind, kind), eq(comment.ownerId, ownerId), isNull(comment.deletedAt))).orderBy(comment.id).limit(500).all()
export const addComment = (tx: Tx, of: { projectId: number; ownerKind: string; ownerId: number; text: string; at: number; personId: string }): number =>
  tx.insert(comment).values(of).returning({ id: comment.id }).get().id
