import { int, maybe, oneOf, rowsOf, text } from '#db/rows.ts'
import { versionStates, importances, automations } from '#core/cases/case.ts'
import { isOpenDefect, minutesOf, guessOf } from '#db/rules.ts'
import { keySql } from '#db/key-sql.ts'
import { type SQL, sql } from 'drizzle-orm'
import type { CaseRow } from '#core/cases/contract.ts'
import { versionName } from '#core/cases/steps.ts'
import { inIds, type ListSource, wordSearch } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { tagsOf, valuesOf } from '#db/projects/fields.ts'

export const caseId = sql`c.id`

const day = 86_400_000

const yesNo = (holds: SQL): SQL => sql`case when ${holds} then 'yes' else 'no' end`

/** Passing and failing turned into each other twice on one build, within the last 20 results in an environment; outages aside. */
const isUnreliable = sql`
  exists (
    select 1
    from (
      select environment_id, build_id, verdict,
        lag(verdict) over (partition by environment_id, build_id order by finished_at, id) as before
      from (
        select a.id, a.environment_id, a.build_id, a.verdict, a.finished_at,
          row_number() over (partition by a.environment_id order by a.finished_at desc, a.id desc) as nth
        from attempt a
        where a.case_id = c.id
          and a.final = 1
          and a.struck is null
          and a.verdict in ('Passed', 'Failed')
          and not exists (
            select 1
            from outage o
            where o.environment_id = a.environment_id
              and o.deleted_at is null
              and o.from_at <= a.finished_at
              and (o.until_at is null or o.until_at > a.finished_at)
          )
      )
      where nth <= 20
    )
    where before is not null and before <> verdict
    group by environment_id, build_id
    having count(*) >= 2
  )`

/** What can be asked of cases; ages are told as of `now`. */
export const caseSource = (projectId: number, now = 0): ListSource => ({
  id: sql`c.id`,
  from: sql`test_case c`,
  where: sql`c.project_id = ${projectId} and c.deleted_at is null`,
  fields: {
    // Said of a scope: the server puts the ids it holds for in its place before a list is asked.
    finding: sql`null`,
    made: sql`cast((${now} - c.created_at) / ${day} as integer)`,
    changed: sql`cast((${now} - c.updated_at) / ${day} as integer)`,
    versions: sql`(select count(*) from case_version where case_id = c.id and major >= 0)`,
    id: sql`c.id`,
    number: sql`c.number`,
    title: sql`c.title`,
    importance: sql`c.importance`,
    state: sql`c.state`,
    type: sql`c.type`,
    component: sql`c.component`,
    owner: sql`(select name from person where id = c.owner_id)`,
    automation: sql`c.automation`,
    estimate: sql`c.estimate`,
    folder: sql`(select name from folder where id = c.folder_id)`,
    folderId: sql`c.folder_id`,
    steps: sql`c.steps`,
    requirements: sql`
      (
        select count(*)
        from link l
        join requirement r on r.id = l.requirement_id
        where l.case_id = c.id and l.until_at is null and r.deleted_at is null
      )`,
    retired: sql`case when c.retired_at is null then 'no' else 'yes' end`,
    tags: sql`(select group_concat(tag, ', ') from tagging where owner_kind = 'case' and owner_id = c.id)`,
    attempts: sql`(select count(*) from attempt where case_id = c.id)`,
    defects: sql`
      (
        select count(distinct d.id)
        from defect_link l
        join defect d on d.id = l.defect_id
        where l.case_id = c.id and l.until_at is null and d.deleted_at is null and ${isOpenDefect('d.state')}
      )`,
    quarantined: yesNo(sql`
      exists (
        select 1
        from quarantine q
        where q.case_id = c.id and q.from_at <= ${now} and (q.until_at is null or q.until_at > ${now})
      )`),
    unreliable: yesNo(isUnreliable),
  },
  search: (word) => wordSearch('case', { id: sql`c.id`, number: sql`c.number`, title: sql`c.title` }, word),
  defaultSort: sql`c.number`,
})

export function caseRows(tx: Tx, projectId: number, ids: readonly number[]): CaseRow[] {
  const f = caseSource(projectId).fields
  const rows = rowsOf(
    tx,
    {
      number: int,
      id: int,
      key: text,
      state: oneOf(versionStates),
      title: text,
      version: int,
      folder: maybe(text),
      type: text,
      component: text,
      importance: oneOf(importances),
      automation: oneOf(automations),
      estimate: maybe(int),
      steps: int,
      owner: maybe(text),
      requirements: int,
      retired: text,
      major: maybe(int),
      minor: maybe(int),
    },
    sql`
      select c.id, ${keySql('case', 'c.number')} as key, c.number, c.title, c.importance, c.state, c.type,
        c.component, ${f['owner']} as owner, c.automation, c.estimate, ${f['folder']} as folder, c.steps,
        ${f['requirements']} as requirements, ${f['retired']} as retired, c.version, v.major, v.minor
      from test_case c
      left join case_version v on v.id = c.newest_version_id
      where c.project_id = ${projectId} and c.deleted_at is null and ${inIds(sql`c.id`, ids)}`,
  )
  const byId = new Map(rows.map((row) => [row.id, row]))
  const [tags, values] = [tagsOf(tx, 'case', ids), valuesOf(tx, 'case', projectId, ids)]
  return ids.flatMap((id) => {
    const row = byId.get(id)
    if (!row) return []
    const { major, minor, ...rest } = row
    return [
      {
        ...rest,
        tags: tags.get(id) ?? [],
        custom: values.get(id) ?? {},
        retired: row.retired === 'yes',
        versionName: major === null || minor === null ? null : versionName(major, minor),
      },
    ]
  })
}

/**
 * Minutes that no attempt changes: given, else guessed from the steps. Suites go by them, so that nobody's verdict moves a case in
 * or out of one.
 */
export const steadyMinutes = sql.raw(`coalesce(c.estimate, ${guessOf('c.steps')})`)

/** Minutes a case takes anywhere: given, else learned, else from its steps. */
export const caseMinutes = minutesOf(['c.estimate'], '0')
export const minutesOfCases = (tx: Tx, ids: readonly number[]): Map<number, number> =>
  new Map(
    rowsOf(
      tx,
      { id: int, minutes: int },
      sql`select c.id, ${caseMinutes} as minutes from test_case c where ${inIds(sql`c.id`, ids)}`,
    ).map(({ id, minutes }) => [id, minutes]),
  )
