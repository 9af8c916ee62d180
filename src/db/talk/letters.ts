import { eq, sql } from 'drizzle-orm'
import { noticeKinds, type NoticeKind, type ToldByLetter } from '#core/talk/notice.ts'
import type { Tx } from '#db/open.ts'
import { int, maybe, oneOf, rowsOf, text } from '#db/rows.ts'
import { person } from '#db/people/tables.ts'
import { noticeLetter } from './tables.ts'

/** What is seen in the inbox by then needs no letter, in ms. */
const moment = 120_000

export function lettersWanted(tx: Tx, personId: string): NoticeKind[] {
  const stored = tx.select({ letters: person.letters }).from(person).where(eq(person.id, personId)).get()
  const kinds = (stored?.letters ?? '').split(',')
  return noticeKinds.filter((kind) => kinds.includes(kind))
}
export const wantLetters = (tx: Tx, personId: string, kinds: readonly NoticeKind[]): void =>
  void tx
    .update(person)
    .set({ letters: [...new Set(kinds)].join(',') })
    .where(eq(person.id, personId))
    .run()

export const addLetter = (tx: Tx, noticeId: number, at: number): void =>
  void tx
    .insert(noticeLetter)
    .values({ noticeId, dueAt: at + moment })
    .run()

export interface LetterDue extends ToldByLetter {
  readonly id: number
  readonly at: number
  readonly tries: number
  /** Nobody needs it any more: it was seen, or its person is no longer of the project. */
  readonly idle: boolean
}

/** Letters that are due, the oldest first. */
export const lettersDue = (tx: Tx, now: number, most: number): LetterDue[] =>
  rowsOf(
    tx,
    {
      id: int,
      at: int,
      tries: int,
      kind: oneOf(noticeKinds),
      ref: text,
      text: text,
      from: maybe(text),
      project: text,
      name: text,
      address: text,
      idle: int,
    },
    sql`
      select l.notice_id as id, n.at, l.tries, n.kind, n.ref, n.text, f.name as "from", j.key as project, p.name,
        p.email as address,
        n.read_at is not null or p.ended_at is not null or not (p.administrator or exists (
          select 1 from membership m where m.project_id = n.project_id and m.person_id = p.id)) as idle
      from notice_letter l
      join notice n on n.id = l.notice_id
      join person p on p.id = n.person_id
      join project j on j.id = n.project_id
      left join person f on f.id = n.from_id
      where l.due_at <= ${now}
      order by l.due_at
      limit ${most}`,
  ).map(({ name, address, idle, ...row }) => ({ ...row, to: { name, address }, idle: idle === 1 }))

/** What came of a letter: it left, waits for another try, or is given up. */
export const noteLetter = (tx: Tx, id: number, set: Partial<typeof noticeLetter.$inferInsert>): void =>
  void tx.update(noticeLetter).set(set).where(eq(noticeLetter.noticeId, id)).run()
