import { sql } from 'drizzle-orm'
import { keySql } from '#db/key-sql.ts'
import type { Tx } from '#db/open.ts'
import { int, maybe, rowsOf, text } from '#db/rows.ts'

interface Told {
  readonly key: string
  readonly title: string
}
const told = { key: text, title: text }

/** Cases that came into a plan's suites since, and went out of all of them. */
export function casesSince(tx: Tx, planId: number, since: number): { came: Told[]; went: Told[] } {
  const rows = rowsOf(
    tx,
    { ...told, before: int, now: int },
    sql`
      select ${keySql('case', 'c.number')} as key, c.title,
        max(m.from_at <= ${since} and (m.until_at is null or m.until_at > ${since})) as before,
        max(m.until_at is null) as now
      from plan_suite s
      join suite u on u.id = s.suite_id
      join suite_member m on m.suite_id = s.suite_id
      join test_case c on c.id = m.case_id
      where s.plan_id = ${planId} and u.deleted_at is null
      group by c.id
      having max(coalesce(m.until_at, m.from_at)) > ${since}
      order by c.number`,
  )
  const of = (holds: (row: (typeof rows)[number]) => boolean) =>
    rows.filter(holds).map(({ key, title }) => ({ key, title }))
  return { came: of(({ before, now }) => !before && now === 1), went: of(({ before, now }) => before === 1 && !now) }
}

/** Requirements worded anew since, with how many cases of the plan's suites that makes suspect. */
export const rewordedSince = (tx: Tx, planId: number, since: number): (Told & { suspect: number })[] =>
  rowsOf(
    tx,
    { ...told, suspect: int },
    sql`
      select ${keySql('requirement', 'r.number')} as key, r.title, count(distinct l.case_id) as suspect
      from plan p
      join requirement r on r.project_id = p.project_id
      join requirement_revision v on v.requirement_id = r.id and v.at > ${since} and v.revision > 1
      join link l on l.requirement_id = r.id and l.until_at is null and l.confirmed_revision < r.revision
      where p.id = ${planId}
        and r.deleted_at is null
        and exists (
          select 1
          from plan_suite s
          join suite_member m on m.suite_id = s.suite_id and m.until_at is null
          where s.plan_id = p.id and m.case_id = l.case_id
        )
      group by r.id
      order by r.number`,
  )

/** Builds of the plan's release offered, refused or withdrawn since. */
export const buildsSince = (tx: Tx, planId: number, since: number): { name: string; state: string; at: number }[] =>
  rowsOf(
    tx,
    { name: text, state: text, at: int },
    sql`
      select b.name, b.state, coalesce(b.ended_at, b.offered_at) as at
      from plan p
      join build b on b.release_id = p.release_id
      where p.id = ${planId} and coalesce(b.ended_at, b.offered_at) > ${since}
      order by b.position desc`,
  )

/** People of the plan who are away on a day from today on, in the next two weeks. */
export const awaySoon = (
  tx: Tx,
  planId: number,
  { from, to }: { readonly from: string; readonly to: string },
): { id: string; name: string; startOn: string; endOn: string }[] =>
  rowsOf(
    tx,
    { id: text, name: text, startOn: text, endOn: text },
    sql`
      select p.id, p.name, a.start_on as startOn, a.end_on as endOn
      from plan_person t
      join person p on p.id = t.person_id
      join absence a on a.person_id = p.id
      where t.plan_id = ${planId} and a.end_on >= ${from} and a.start_on <= ${to}
      order by a.start_on, p.name`,
  )

/** What others did to the plan itself since. */
export const actsSince = (
  tx: Tx,
  planId: number,
  { since, but }: { readonly since: number; readonly but: string },
): { action: string; person: string | null; at: number }[] =>
  rowsOf(
    tx,
    { action: text, person: maybe(text), at: int },
    sql`
      select c.action, p.name as person, c.at
      from change c
      left join person p on p.id = c.person_id
      where c.kind = 'plan' and c.owner_id = ${planId} and c.at > ${since} and coalesce(c.person_id, '') <> ${but}
      order by c.id desc
      limit 10`,
  )
