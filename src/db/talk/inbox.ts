import { int, maybe, oneOf, rowOf, rowsOf, text } from '#db/rows.ts'
import { sql } from 'drizzle-orm'
import { inIds } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { noticeKinds, type NoticeKind } from '#core/talk/notice.ts'
import { addLetter, lettersWanted } from './letters.ts'
import { notice } from './tables.ts'

export interface NoticeRow {
  readonly id: number
  readonly kind: NoticeKind
  readonly ref: string
  readonly text: string
  readonly from: string | null
  readonly at: number
  readonly readAt: number | null
}

/** Tells a person something, unless they did it themselves; as a letter too where they want that. */
export function tell(
  tx: Tx,
  of: { projectId: number; personId: string; kind: NoticeKind; ref: string; text: string; fromId: string; at: number },
): void {
  if (of.personId === of.fromId) return
  const { id } = tx
    .insert(notice)
    .values({ ...of, text: of.text.slice(0, 300) })
    .returning({ id: notice.id })
    .get()
  if (lettersWanted(tx, of.personId).includes(of.kind)) addLetter(tx, id, of.at)
}

export const noticesOf = (
  tx: Tx,
  projectId: number,
  personId: string,
  page: { limit: number; before?: number | undefined },
): NoticeRow[] =>
  rowsOf(
    tx,
    {
      id: int,
      kind: oneOf(noticeKinds),
      ref: text,
      text: text,
      from: maybe(text),
      at: int,
      readAt: maybe(int),
    },
    sql`
      select n.id, n.kind, n.ref, n.text, p.name as "from", n.at, n.read_at as readAt
      from notice n
      left join person p on p.id = n.from_id
      where n.person_id = ${personId}
        and n.project_id = ${projectId} ${page.before === undefined ? sql`` : sql`and n.id < ${page.before}`}
      order by n.id desc
      limit ${page.limit}`,
  )

export const unreadOf = (tx: Tx, projectId: number, personId: string): number =>
  rowOf(
    tx,
    { n: int },
    sql`
      select count(*) as n
      from notice
      where person_id = ${personId} and project_id = ${projectId} and read_at is null`,
  )?.n ?? 0

export const markNotices = (tx: Tx, personId: string, ids: readonly number[], at: number | null): void =>
  void tx.run(sql`update notice set read_at = ${at} where person_id = ${personId} and ${inIds(sql`id`, ids)}`)
