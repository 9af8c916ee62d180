import { type SQL, sql } from 'drizzle-orm'
import { numberIn } from '#core/lib/key.ts'
import { inOrder } from '#core/lib/in-order.ts'
import { versionName } from '#core/cases/steps.ts'
import { verdicts } from '#core/lib/verdict.ts'
import { timings } from '#core/runs/timing.ts'
import type { AttemptRow } from '#core/runs/attempts-contract.ts'
import { contains } from '#db/finding/contains.ts'
import { inIds, type ListSource } from '#db/finding/list.ts'
import { keySql } from '#db/key-sql.ts'
import type { Tx } from '#db/open.ts'
import { int, maybe, oneOf, rowsOf, text } from '#db/rows.ts'
import { defectsOf, evidenceCount } from './of-attempt.ts'

const day = 86_400_000
const ofCase = (what: string) => sql.raw(`(select c.${what} from test_case c where c.id = a.case_id)`)
const runOf = sql`from item i join run r on r.id = i.run_id where i.id = a.item_id`

/** It is what counts at its place. */
const stands = sql`
  exists (
    select 1
    from standing_result s
    where s.build_id = a.build_id
      and s.case_id = a.case_id
      and s.environment_id = a.environment_id
      and s.attempt_id = a.id
  )`
const counts = sql`
  case
    when a.struck is not null then 'struck out'
    when a.final = 0 then 'not final'
    when a.doubt is not null then 'doubted'
    when ${stands} then 'stands'
    else 'earlier'
  end`

/** The attempts of cases for which something holds. */
const ofCases = (projectId: number, holds: SQL): SQL => sql`
  a.case_id in (select k.id from test_case k where k.project_id = ${projectId} and ${holds})`

/** What can be asked of attempts; ages are told as of `now`. The newest first, those that go on before all. */
export const attemptSource = (projectId: number, now = 0): ListSource => ({
  id: sql`a.id`,
  from: sql`attempt a`,
  where: sql`a.project_id = ${projectId}`,
  fields: {
    id: sql`a.id`,
    case: ofCase('number'),
    title: ofCase('title'),
    verdict: sql`a.verdict`,
    word: sql`a.word`,
    reason: sql`a.reason`,
    environment: sql`(select name from environment where id = a.environment_id)`,
    build: sql`(select name from build where id = a.build_id)`,
    release: sql`(select e.name from build b join release e on e.id = b.release_id where b.id = a.build_id)`,
    run: sql`(select r.number ${runOf})`,
    person: sql`(select name from person where id = a.person_id)`,
    importance: ofCase('importance'),
    component: ofCase('component'),
    age: sql`cast((${now} - a.finished_at) / ${day} as integer)`,
    minutes: sql`(a.seconds / 60)`,
    timing: sql`a.timing`,
    defects: sql`(select count(distinct d.id) ${defectsOf})`,
    evidence: evidenceCount,
    counts,
  },
  // Asked of one case or run, a million are not gone through: what they are is looked up first.
  related: {
    case: { expression: sql`k.number`, some: (holds) => ofCases(projectId, holds) },
    run: {
      expression: sql`r.number`,
      some: (holds) => sql`
        (
          a.item_id is not null
          and a.item_id in (
            select i.id
            from run r
            join item i on i.run_id = r.id
            where r.project_id = ${projectId} and ${holds}
          )
        )`,
    },
  },
  search: (word) =>
    numberIn('case', word) > 0
      ? ofCases(projectId, sql`k.number = ${numberIn('case', word)}`)
      : sql`(${contains(ofCase('title'), word)} or ${contains(sql`a.comment`, word)})`,
  defaultSort: sql`a.finished_at desc, a.id desc`,
})

const attemptCells = {
  id: int,
  case: text,
  caseId: int,
  title: text,
  major: maybe(int),
  minor: maybe(int),
  verdict: oneOf(verdicts),
  word: maybe(text),
  final: int,
  environment: text,
  build: text,
  run: maybe(text),
  item: maybe(int),
  person: maybe(text),
  recordedBy: maybe(text),
  startedAt: int,
  finishedAt: maybe(int),
  seconds: int,
  timing: oneOf(timings),
  reason: maybe(text),
  comment: text,
  defects: maybe(text),
  evidence: int,
  doubt: maybe(text),
  struck: maybe(text),
  stands: int,
}

export function attemptRows(tx: Tx, projectId: number, ids: readonly number[]): AttemptRow[] {
  const rows = rowsOf(
    tx,
    attemptCells,
    sql`
      select a.id, ${keySql('case', 'c.number')} as "case", c.id as caseId, c.title, v.major, v.minor, a.verdict, a.word,
        a.final, e.name as environment, b.name as build, (select ${keySql('run', 'r.number')} ${runOf}) as run,
        a.item_id as item, p.name as person,
        (
          select x.name
          from verdict_event w
          join person x on x.id = w.person_id
          where w.attempt_id = a.id and w.person_id is not a.person_id
          order by w.id desc
          limit 1
        ) as recordedBy,
        a.started_at as startedAt, a.finished_at as finishedAt, a.seconds, a.timing, a.reason, a.comment,
        (select group_concat(distinct ${keySql('defect', 'd.number')}) ${defectsOf}) as defects,
        ${evidenceCount} as evidence, a.doubt, a.struck, ${stands} as stands
      from attempt a
      join test_case c on c.id = a.case_id
      join case_version v on v.id = a.version_id
      join environment e on e.id = a.environment_id
      join build b on b.id = a.build_id
      left join person p on p.id = a.person_id
      where ${inIds(sql`a.id`, ids)} and +a.project_id = ${projectId}`,
  )
  return inOrder(ids, rows).map(({ major, minor, final, stands: standing, defects, ...row }) => ({
    ...row,
    version: versionName(major ?? 0, minor ?? 0),
    final: final === 1,
    stands: standing === 1,
    defects: defects?.split(',') ?? [],
  }))
}
