import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core'
import { planParts } from '#core/plans/state.ts'
import { noticeKinds } from '#core/talk/notice.ts'
import { deletedAt, instant, serial } from '#db/columns.ts'

/** One table of attachments for all owners; an owner may be narrowed to a row and a step of an attempt. */
export const attachment = sqliteTable(
  'attachment',
  {
    id: serial(),
    projectId: integer().notNull(),
    ownerKind: text().notNull(),
    ownerId: integer().notNull(),
    row: integer(),
    stepId: integer(),
    /** SHA-256 of the bytes; the file's name on disk. */
    hash: text().notNull(),
    name: text().notNull(),
    mime: text().notNull(),
    size: integer().notNull(),
    at: instant().notNull(),
    personId: text(),
    deletedAt: deletedAt(),
  },
  (t) => [index('attachment_owner').on(t.ownerKind, t.ownerId), index('attachment_hash').on(t.hash)],
)

export const comment = sqliteTable(
  'comment',
  {
    id: serial(),
    projectId: integer().notNull(),
    ownerKind: text().notNull(),
    ownerId: integer().notNull(),
    stepId: integer(),
    /** Of a plan: the part it is about. */
    part: text({ enum: planParts }),
    text: text().notNull(),
    at: instant().notNull(),
    personId: text().notNull(),
    editedAt: instant(),
    deletedAt: deletedAt(),
  },
  (t) => [index('comment_owner').on(t.ownerKind, t.ownerId)],
)

/** What waits for a person to see: a mention, a review asked, an answer. */
export const notice = sqliteTable(
  'notice',
  {
    id: serial(),
    projectId: integer().notNull(),
    personId: text().notNull(),
    kind: text({ enum: noticeKinds }).notNull(),
    ref: text().notNull(),
    text: text().notNull(),
    fromId: text(),
    at: instant().notNull(),
    readAt: instant(),
  },
  (t) => [index('notice_person').on(t.personId, t.projectId, t.readAt)],
)

/** A notice that goes as a letter too: when it is tried next, until it has left or was given up. */
export const noticeLetter = sqliteTable(
  'notice_letter',
  {
    noticeId: integer().primaryKey(),
    dueAt: instant(),
    tries: integer().notNull().default(0),
    sentAt: instant(),
    problem: text().notNull().default(''),
  },
  (t) => [index('notice_letter_due').on(t.dueAt)],
)
