import { findsAny, int, maybe, oneOf, rowOf, rowsOf, text } from '#db/rows.ts'
import { sql } from 'drizzle-orm'
import { versionName } from '#core/cases/steps.ts'
import { keySql } from '#db/key-sql.ts'
import type { Tx } from '#db/open.ts'
import { reviewAsked, suggestion } from '#db/cases/tables.ts'

export type SuggestionStored = typeof suggestion.$inferSelect

/** Asks a person once about a version. */
export function askReview(
  tx: Tx,
  of: { projectId: number; caseId: number; versionId: number; askedBy: string; personId: string; at: number },
): void {
  if (
    !findsAny(
      tx,
      sql`
        select 1
        from review_asked
        where version_id = ${of.versionId} and person_id = ${of.personId} and answer is null`,
    )
  )
    tx.insert(reviewAsked).values(of).run()
}

/** Answers what a person was asked about a case; answers who had asked anybody about it, and so waits to hear. */
export function answerReview(
  tx: Tx,
  of: { caseId: number; personId: string; answer: 'approved' | 'sent back'; at: number },
): string[] {
  const open = rowsOf(
    tx,
    { id: int, askedBy: text, personId: text },
    sql`
      select id, asked_by as askedBy, person_id as personId
      from review_asked
      where case_id = ${of.caseId} and answer is null`,
  )
  const own = open.filter(({ personId }) => personId === of.personId)
  for (const { id } of own)
    tx.run(sql`update review_asked set answer = ${of.answer}, answered_at = ${of.at} where id = ${id}`)
  return [...new Set(open.map(({ askedBy }) => askedBy))]
}

/** Cases somebody was asked to review and has not answered about. */
export const reviewsAskedOf = (tx: Tx, projectId: number, personId: string): { ref: string; title: string }[] =>
  rowsOf(
    tx,
    { ref: text, title: text },
    sql`
      select distinct ${keySql('case', 'c.number')} as ref, c.title
      from review_asked a
      join test_case c on c.id = a.case_id
      where a.person_id = ${personId} and a.answer is null and a.project_id = ${projectId} and c.deleted_at is null
      order by c.number`,
  )

export interface ReviewRow {
  readonly person: string
  readonly personId: string
  readonly by: string
  readonly at: number
  readonly version: string
  readonly answer: 'approved' | 'sent back' | null
  readonly answeredAt: number | null
}
export const reviewsOf = (tx: Tx, caseId: number): ReviewRow[] =>
  rowsOf(
    tx,
    {
      at: int,
      person: text,
      by: text,
      personId: text,
      answer: maybe(oneOf(['sent back', 'approved'])),
      answeredAt: maybe(int),
      major: int,
      minor: int,
    },
    sql`
      select p.name as person, a.person_id as personId, b.name as "by", a.at, v.major, v.minor, a.answer,
        a.answered_at as answeredAt
      from review_asked a
      join person p on p.id = a.person_id
      join person b on b.id = a.asked_by
      join case_version v on v.id = a.version_id
      where a.case_id = ${caseId}
      order by a.id desc
      limit 20`,
  ).map(({ major, minor, ...row }) => ({ ...row, version: versionName(major, minor) }))

export const addSuggestion = (tx: Tx, of: Omit<typeof suggestion.$inferInsert, 'id'>): number =>
  tx.insert(suggestion).values(of).returning({ id: suggestion.id }).get().id
export const findSuggestion = (tx: Tx, projectId: number, id: number): SuggestionStored | undefined =>
  rowOf(
    tx,
    {
      id: int,
      projectId: int,
      state: oneOf(['Open', 'Taken', 'Declined']),
      at: int,
      caseId: int,
      content: text,
      personId: text,
      versionId: int,
      note: text,
      decidedAt: maybe(int),
      decidedBy: maybe(text),
    },
    sql`
      select id, project_id as projectId, case_id as caseId, version_id as versionId, content, note, state,
        at, person_id as personId, decided_at as decidedAt, decided_by as decidedBy
      from suggestion
      where id = ${id} and project_id = ${projectId}`,
  )
export const saveSuggestion = (
  tx: Tx,
  id: number,
  edit: { content?: string; note?: string; state?: 'Taken' | 'Declined'; decidedAt?: number; decidedBy?: string },
): void =>
  void tx
    .update(suggestion)
    .set(edit)
    .where(sql`id = ${id}`)
    .run()
export const suggestionsOf = (
  tx: Tx,
  caseId: number,
): {
  id: number
  by: string
  personId: string
  at: number
  note: string
  state: 'Open' | 'Taken' | 'Declined'
  version: string
}[] =>
  rowsOf(
    tx,
    {
      id: int,
      by: text,
      personId: text,
      at: int,
      note: text,
      state: oneOf(['Open', 'Taken', 'Declined']),
      major: int,
      minor: int,
    },
    sql`
      select s.id, p.name as "by", s.person_id as personId, s.at, s.note, s.state, v.major, v.minor
      from suggestion s
      join person p on p.id = s.person_id
      join case_version v on v.id = s.version_id
      where s.case_id = ${caseId}
      order by s.id desc
      limit 20`,
  ).map(({ major, minor, ...row }) => ({ ...row, version: versionName(major, minor) }))
