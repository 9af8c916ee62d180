import { type SQL, sql } from 'drizzle-orm'
import { memberChanges, type Stay, type SuiteChanges } from '#core/plans/members.ts'
import { steadyMinutes } from '#db/cases/list.ts'
import { inIds } from '#db/finding/list.ts'
import { isLiveCase } from '#db/rules.ts'
import { numbersIn } from '#db/json.ts'
import { keySql } from '#db/key-sql.ts'
import type { Tx } from '#db/open.ts'
import { int, maybe, rowsOf, text } from '#db/rows.ts'
import { type SuitesNow, suitesNow } from './members.ts'

/** Who is in a suite as it was last written down. */
export const openStays = (tx: Tx, suite: number): Stay[] =>
  rowsOf(
    tx,
    { case: int, sources: text },
    sql`
      select case_id as "case", sources
      from suite_member
      where suite_id = ${suite} and until_at is null`,
  ).map((row) => ({ case: row.case, sources: numbersIn(row.sources) }))

/** Suites of which what is written down is not what is. */
export function suiteChanges(tx: Tx, now: SuitesNow, suites: Iterable<number>): SuiteChanges[] {
  const written = sumsWritten(tx)
  return [...suites].flatMap((suite) => {
    const own = now.sources.filter((source) => source.suiteId === suite)
    const changes: SuiteChanges = {
      suite,
      ...memberChanges(openStays(tx, suite), now.members(suite)),
      broken: own.flatMap((source) => (source.brokenAt === null && now.problem(source) !== null ? [source.id] : [])),
      sums: { cases: now.members(suite).size, minutes: now.minutes(suite) },
      mended: own.flatMap((source) => (source.brokenAt !== null && now.problem(source) === null ? [source.id] : [])),
    }
    const { came, went, moved, broken, mended, sums } = changes
    const before = written.get(suite)
    const summed = before?.cases !== sums.cases || before.minutes !== sums.minutes
    const n = came.length + went.length + moved.length + broken.length + mended.length
    return n > 0 || summed ? [changes] : []
  })
}

const sumsWritten = (tx: Tx): Map<number, { cases: number; minutes: number }> =>
  new Map(
    rowsOf(
      tx,
      { id: int, cases: int, minutes: int },
      sql`select id, case_count as cases, case_minutes as minutes from suite where deleted_at is null`,
    ).map(({ id, ...sums }) => [id, sums]),
  )

interface By {
  readonly now: number
  readonly personId: string | null
  /** Changes after this one brought it about: of a case, whoever changed it last. */
  readonly since?: number
}

/** Who changed the case since, else the one who changed anything. */
const changedBy = (id: SQL, { personId, since }: By): SQL =>
  since === undefined
    ? sql`${personId}`
    : sql`
      coalesce(
        (
          select h.person_id
          from change h
          where h.kind = 'case' and h.owner_id = ${id} and h.id > ${since}
          order by h.id desc
          limit 1
        ),
        ${personId}
      )`

/** Writes changes down; one that somebody wrote down meanwhile is left as it is. */
export function writeSuiteChanges(
  tx: Tx,
  { suite, came, went, moved, broken, mended, sums }: SuiteChanges,
  by: By,
): void {
  tx.run(sql`update suite set case_count = ${sums.cases}, case_minutes = ${sums.minutes} where id = ${suite}`)
  if (went.length > 0)
    tx.run(sql`
      update suite_member
      set until_at = ${by.now}, until_by = ${changedBy(sql`suite_member.case_id`, by)}
      where suite_id = ${suite} and until_at is null and ${inIds(sql`case_id`, went)}`)
  if (came.length > 0)
    tx.run(sql`
      insert or ignore into suite_member (suite_id, case_id, sources, from_at, from_by)
      select ${suite}, j.value ->> 0, j.value ->> 1, ${by.now}, ${changedBy(sql`(j.value ->> 0)`, by)}
      from json_each(${JSON.stringify(came.map((stay) => [stay.case, JSON.stringify(stay.sources)]))}) j`)
  for (const stay of moved)
    tx.run(sql`
      update suite_member
      set sources = ${JSON.stringify(stay.sources)}
      where suite_id = ${suite} and case_id = ${stay.case} and until_at is null`)
  if (broken.length > 0) tx.run(sql`update suite_source set broken_at = ${by.now} where ${inIds(sql`id`, broken)}`)
  if (mended.length > 0) tx.run(sql`update suite_source set broken_at = null where ${inIds(sql`id`, mended)}`)
}

/** Writes down who is in a suite that holds pins alone. */
export function noticePins(tx: Tx, suite: number, by: By): void {
  const isIn = (id: ReturnType<typeof sql>) => sql`
    exists (
      select 1
      from suite_pin p
      join test_case c on c.id = p.case_id
      where p.suite_id = ${suite}
        and p.case_id = ${id}
        and ${isLiveCase('c')}
        and not exists (select 1 from suite_exclusion x where x.suite_id = p.suite_id and x.case_id = p.case_id)
    )`
  tx.run(sql`
    update suite_member
    set until_at = ${by.now}, until_by = ${by.personId}
    where suite_id = ${suite} and until_at is null and not ${isIn(sql`suite_member.case_id`)}`)
  tx.run(sql`
    insert or ignore into suite_member (suite_id, case_id, sources, from_at, from_by)
    select ${suite}, q.case_id, '[0]', ${by.now}, ${by.personId}
    from suite_pin q
    where q.suite_id = ${suite} and ${isIn(sql`q.case_id`)}`)
  tx.run(sql`
    update suite
    set (case_count, case_minutes) = (
      select count(*), coalesce(sum(${steadyMinutes}), 0)
      from suite_member m
      join test_case c on c.id = m.case_id
      where m.suite_id = ${suite} and m.until_at is null
    )
    where id = ${suite}`)
}

/** Notes as of which change of the project who is in its suites is written down. */
export const setNoticed = (tx: Tx, projectId: number, structure: number): void =>
  void tx.run(sql`update project set suites_noticed = ${structure} where id = ${projectId}`)

/** Projects that changed since who is in their suites was written down. */
export const unnoticedProjects = (tx: Tx): number[] =>
  rowsOf(
    tx,
    { id: int },
    sql`
      select id
      from project p
      where p.suites_noticed <> p.structure_version and exists (select 1 from suite s where s.project_id = p.id)`,
  ).map(({ id }) => id)

/** Projects in which what is written down of their suites is not what is, though nothing changed since it was. */
export const wrongStays = (tx: Tx): { id: number; project: string; suites: number }[] =>
  rowsOf(
    tx,
    { id: int, key: text },
    sql`select id, key from project where suites_noticed = structure_version order by id`,
  ).flatMap(({ id, key }) => {
    const now = suitesNow(tx, id)
    const suites = suiteChanges(tx, now, now.definitions.keys()).length
    return suites > 0 ? [{ id, project: key, suites }] : []
  })

/** Who did what changed a project after a change of it: the one person, or nobody where there were several. */
export function onlyPersonSince(tx: Tx, projectId: number, change: number): string | null {
  const people = rowsOf(
    tx,
    { id: maybe(text) },
    sql`select distinct person_id as id from change where project_id = ${projectId} and id > ${change} limit 2`,
  )
  return people.length === 1 ? (people[0]?.id ?? null) : null
}

/** Writes down who is in every suite of the project. */
export function noticeAllSuites(tx: Tx, projectId: number, by: By): number {
  const now = suitesNow(tx, projectId)
  const all = suiteChanges(tx, now, now.definitions.keys())
  for (const changes of all) writeSuiteChanges(tx, changes, by)
  tx.run(sql`update project set suites_noticed = structure_version where id = ${projectId}`)
  return all.length
}

/** What a source held when it could be followed last. */
export const lastMembersOf = (
  tx: Tx,
  source: { readonly id: number; readonly suiteId: number; readonly brokenAt: number | null },
): { id: number; key: string; title: string }[] =>
  rowsOf(
    tx,
    { id: int, key: text, title: text },
    sql`
      select distinct c.id, ${keySql('case', 'c.number')} as key, c.title
      from suite_member m
      join test_case c on c.id = m.case_id
      join json_each(m.sources) j on j.value = ${source.id}
      where m.suite_id = ${source.suiteId}
        and m.from_at <= ${source.brokenAt}
        and (m.until_at is null or m.until_at >= ${source.brokenAt})
        and c.deleted_at is null
      order by c.number`,
  )

const comings = { id: int, key: text, title: text, at: int, by: maybe(text), sources: text }
type Coming = Omit<ReturnType<typeof comingRows>[number], 'sources'> & { sources: number[] }
const comingRows = (tx: Tx, query: ReturnType<typeof sql>) => rowsOf(tx, comings, query)
const read = (rows: ReturnType<typeof comingRows>): Coming[] =>
  rows.map((row) => ({ ...row, sources: numbersIn(row.sources) }))

/** Cases that are in and were not at an instant. */
export const cameSince = (tx: Tx, suite: number, since: number): Coming[] =>
  read(
    comingRows(
      tx,
      sql`
        select c.id, ${keySql('case', 'c.number')} as key, c.title, m.from_at as at, p.name as "by", m.sources
        from suite_member m
        join test_case c on c.id = m.case_id
        left join person p on p.id = m.from_by
        where m.suite_id = ${suite}
          and m.until_at is null
          and m.from_at > ${since}
          and not ${wasIn(suite, since)}
        order by m.from_at desc, c.number`,
    ),
  )

/** Cases that were in at an instant and are not. */
export const wentSince = (tx: Tx, suite: number, since: number): Coming[] =>
  read(
    comingRows(
      tx,
      sql`
        select c.id, ${keySql('case', 'c.number')} as key, c.title, max(m.until_at) as at, p.name as "by", m.sources
        from suite_member m
        join test_case c on c.id = m.case_id
        left join person p on p.id = m.until_by
        where m.suite_id = ${suite}
          and m.until_at > ${since}
          and ${wasIn(suite, since)}
          and not exists (
            select 1
            from suite_member o
            where o.suite_id = m.suite_id and o.case_id = m.case_id and o.until_at is null
          )
        group by c.id
        order by at desc, c.number`,
    ),
  )

const wasIn = (suite: number, at: number) => sql`
  exists (
    select 1
    from suite_member w
    where w.suite_id = ${suite}
      and w.case_id = c.id
      and w.from_at <= ${at}
      and (w.until_at is null or w.until_at > ${at})
  )`

/** Cases that are in, were in, and have a newer version than then. */
export const rewrittenSince = (tx: Tx, suite: number, since: number): Coming[] =>
  read(
    comingRows(
      tx,
      sql`
        select c.id, ${keySql('case', 'c.number')} as key, c.title, v.created_at as at, p.name as "by", m.sources
        from suite_member m
        join test_case c on c.id = m.case_id
        join case_version v on v.id = c.newest_version_id
        left join person p on p.id = v.created_by
        where m.suite_id = ${suite}
          and m.until_at is null
          and v.created_at > ${since}
          and ${wasIn(suite, since)}
        order by v.created_at desc, c.number`,
    ),
  )

/** Cases that suites held at an instant, as it was written down. */
export const casesThen = (tx: Tx, suites: readonly number[], at: number): { suite: number; case: number }[] =>
  rowsOf(
    tx,
    { suite: int, case: int },
    sql`
      select distinct suite_id as suite, case_id as "case"
      from suite_member
      where ${inIds(sql`suite_id`, suites)} and from_at <= ${at} and (until_at is null or until_at > ${at})`,
  )
