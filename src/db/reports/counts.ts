import { int, maybe, rowOf, rowsOf, text } from '#db/rows.ts'
import { isOpenVerdict } from '#db/rules.ts'
import { keySql } from '#db/key-sql.ts'
import { type SQL, sql } from 'drizzle-orm'
import type { Frame, Today } from '#core/projects/contract.ts'
import type { Tx } from '#db/open.ts'
import { minutesGiven } from '#db/people/members.ts'
import { itemMinutes } from '#db/runs/items.ts'

const one = (tx: Tx, query: ReturnType<typeof sql>): number => rowOf(tx, { n: maybe(int) }, query)?.n ?? 0

/** What wants a person's attention at each station, but for requirements, which the coverage of a scope tells. */
export function attentionCounts(tx: Tx, projectId: number, personId: string): Omit<Frame['counts'], 'requirements'> {
  return {
    cases: one(
      tx,
      sql`
        select count(*) as n
        from test_case
        where project_id = ${projectId} and state = 'In review' and deleted_at is null`,
    ),
    plans: one(
      tx,
      sql`
        select count(*) as n
        from plan
        where project_id = ${projectId} and state = 'In review' and deleted_at is null`,
    ),
    runs: one(
      tx,
      sql`
        select count(*) as n
        from item i
        join run r on r.id = i.run_id
        where i.assignee_id = ${personId}
          and ${isOpenVerdict('i.verdict')}
          and i.deleted_at is null
          and r.state = 'Open'
          and r.deleted_at is null
          and r.project_id = ${projectId}`,
    ),
    defects: one(
      tx,
      sql`
        select count(*) as n
        from defect
        where project_id = ${projectId} and state = 'Ready to retest' and deleted_at is null`,
    ),
    reports: 0,
  }
}

export function todayLoad(
  tx: Tx,
  projectId: number,
  personId: string,
  { dayStart, today }: { readonly dayStart: number; readonly today: string },
): Pick<Today, 'capacityMinutes' | 'doneMinutes' | 'doneToday'> {
  const done = rowOf(
    tx,
    { n: int, minutes: maybe(int) },
    sql`
      select count(*) as n, sum(${itemMinutes}) as minutes
      from attempt a
      join item i on i.id = a.item_id
      join test_case c on c.id = a.case_id
      where a.person_id = ${personId}
        and a.project_id = ${projectId}
        and a.final = 1
        and a.struck is null
        and a.finished_at >= ${dayStart}`,
  )
  return {
    capacityMinutes: minutesGiven(tx, projectId, personId, today),
    doneMinutes: done?.minutes ?? 0,
    doneToday: done?.n ?? 0,
  }
}

/** Defects that wait for a retest, with the item of an open run where it can be done; the person's own first. */
export function retestsFor(tx: Tx, projectId: number, personId: string): Today['retests'] {
  const where = (told: SQL) => sql`
    (
      select ${told}
      from defect_link l
      join item i on i.case_id = l.case_id
      join run r on r.id = i.run_id
      where l.defect_id = d.id and i.deleted_at is null and r.state = 'Open' and r.deleted_at is null
      order by i.assignee_id = ${personId} desc, i.id desc
      limit 1
    )`
  return rowsOf(
    tx,
    { ref: text, title: text, severity: text, fixedIn: maybe(text), item: maybe(int), run: maybe(text) },
    sql`
      select ${keySql('defect', 'd.number')} as ref, d.title, d.severity, b.name as fixedIn,
        ${where(sql`i.id`)} as item, ${where(keySql('run', 'r.number'))} as run
      from defect d
      left join build b on b.id = d.fixed_in_build_id
      where d.project_id = ${projectId} and d.state = 'Ready to retest' and d.deleted_at is null
      order by d.reporter_id = ${personId} desc,
        case d.severity when 'Critical' then 0 when 'Major' then 1 when 'Minor' then 2 else 3 end, d.number
      limit 20`,
  )
}

export const reviewsWaiting = (tx: Tx, projectId: number, personId: string): Today['reviews'] =>
  rowsOf(
    tx,
    { ref: text, title: text, version: text, by: maybe(text), at: int },
    sql`
      select ${keySql('case', 'c.number')} as ref, c.title, v.major || '.' || v.minor as version,
        p.name as "by", v.created_at as at
      from test_case c
      join case_version v on v.id = c.newest_version_id
      left join person p on p.id = v.created_by
      where c.project_id = ${projectId}
        and c.state = 'In review'
        and c.deleted_at is null
        and coalesce(v.created_by, '') <> ${personId}
      order by v.created_at
      limit 20`,
  )

export const recentChanges = (tx: Tx, projectId: number, since: number, limit: number): Today['changes'] =>
  rowsOf(
    tx,
    { at: int, person: maybe(text), kind: text, ref: text, action: text, title: maybe(text) },
    sql`
      select c.at, p.name as person, c.kind, c.ref, c.action,
        case c.kind
          when 'requirement' then (select title from requirement where id = c.owner_id)
          when 'case' then (select title from test_case where id = c.owner_id)
          when 'defect' then (select title from defect where id = c.owner_id)
          when 'run' then (select title from run where id = c.owner_id)
          when 'plan' then (select title from plan where id = c.owner_id)
        end as title
      from change c
      left join person p on p.id = c.person_id
      where c.project_id = ${projectId} and c.at >= ${since} and c.kind <> 'attempt'
      order by c.id desc
      limit ${limit}`,
  )

export function sinceYesterday(tx: Tx, projectId: number, since: number): Today['since'] {
  return {
    results: one(
      tx,
      sql`select count(*) as n from attempt where project_id = ${projectId} and final = 1 and struck is null and finished_at >= ${since}`,
    ),
    failed: one(
      tx,
      sql`
        select count(*) as n
        from attempt
        where project_id = ${projectId} and final = 1 and struck is null and finished_at >= ${since} and verdict = 'Failed'`,
    ),
    defects: one(
      tx,
      sql`
        select count(*) as n
        from defect
        where project_id = ${projectId} and created_at >= ${since} and deleted_at is null`,
    ),
    cases: one(
      tx,
      sql`
        select count(*) as n
        from test_case
        where project_id = ${projectId} and created_at >= ${since} and deleted_at is null`,
    ),
  }
}
