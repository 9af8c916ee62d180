import { int, maybe, oneOf, rowOf, rowsOf, text } from '#db/rows.ts'
import { verdicts } from '#core/lib/verdict.ts'
import { isRepairedDefect } from '#db/rules.ts'
import { sql } from 'drizzle-orm'
import { buildStates } from '#core/projects/builds.ts'
import { isTestable } from '#core/projects/scope.ts'
import { type CoverageFacts, type SlotAsked, slotsOf, type StandingFact } from '#core/reports/scope-coverage.ts'
import { reduced, slotsAsked, type SlotSet } from '#core/plans/asks.ts'
import { groupBy } from '#core/lib/group.ts'
import { inIds } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { askWorldOf, plansAsked } from '#db/plans/asked.ts'
import { suitesNow } from '#db/plans/members.ts'
import { notYetTestable } from '#db/cases/testable.ts'
import { casesThen } from '#db/plans/stays.ts'
import { finalAttempts, standsAmong } from '#db/runs/standing.ts'
import { during, type FactsOf, touchedBy } from './during.ts'

interface RequirementFact {
  readonly id: number
  readonly number: number
  readonly title: string
  readonly parent: number | null
  readonly position: number
  readonly risk: number | null
  readonly revision: number
}
interface CaseFact {
  readonly id: number
  readonly number: number
  readonly title: string
  readonly designed: boolean
  readonly fingerprint: string | null
}
/** The part of the facts that verdicts do not change, with what people read. */
export interface StructureFacts extends Omit<CoverageFacts, 'standing'> {
  readonly requirements: readonly RequirementFact[]
  readonly cases: readonly CaseFact[]
  readonly buildNames: ReadonlyMap<number, string>
  readonly environmentNames: ReadonlyMap<number, string>
}

/** Reads everything coverage is computed from, but the results. */
export function structureFacts(tx: Tx, of: FactsOf): StructureFacts {
  const environments = rowsOf(
    tx,
    { id: int, name: text, isAny: int },
    sql`select id, name, is_any as isAny from environment where project_id = ${of.projectId}`,
  )
  const builds = rowsOf(
    tx,
    {
      id: int,
      release: int,
      position: int,
      state: oneOf(buildStates),
      name: text,
      endedAt: maybe(int),
      touches: maybe(text),
    },
    sql`
      select id, release_id as "release", position, state, name, ended_at as endedAt, touches
      from build
      where project_id = ${of.projectId} and offered_at <= ${of.asOf}`,
  )
  return {
    requirements: requirementFacts(tx, of),
    links: rowsOf(
      tx,
      { requirement: int, case: int, confirmedRevision: int },
      sql`
        select requirement_id as requirement, case_id as "case", confirmed_revision as confirmedRevision
        from link
        where project_id = ${of.projectId} and ${during(of)}
        order by id`,
    ),
    cases: caseFacts(tx, of),
    slots: slotFacts(tx, of, environments.find(({ isAny }) => isAny === 1)?.id ?? 0),
    notYet: new Set(notYetTestable(tx, of.projectId, of.scope).map(({ id }) => id)),
    quarantined: rowsOf(
      tx,
      { case: int, environment: maybe(int) },
      sql`
        select q.case_id as "case", q.environment_id as environment
        from quarantine q
        join test_case c on c.id = q.case_id
        where c.project_id = ${of.projectId}
          and q.from_at <= ${of.asOf}
          and (q.until_at is null or q.until_at > ${of.asOf})`,
    ),
    builds: builds.map((build) => ({
      ...build,
      state: build.endedAt !== null && build.endedAt > of.asOf ? ('Offered' as const) : build.state,
      touches: touchedBy(tx, of, build.touches),
    })),
    fixes: fixFacts(tx, of),
    anyEnvironment: environments.find(({ isAny }) => isAny === 1)?.id ?? 0,
    buildNames: new Map(builds.map(({ id, name }) => [id, name])),
    environmentNames: new Map(environments.map(({ id, name }) => [id, name])),
  }
}

function requirementFacts(tx: Tx, of: FactsOf): RequirementFact[] {
  const revision =
    of.scope.asOf === null
      ? sql`r.revision`
      : sql`(select max(revision) from requirement_revision v where v.requirement_id = r.id and v.at <= ${of.asOf})`
  const rows = rowsOf(
    tx,
    { id: int, number: int, title: text, parent: maybe(int), position: int, risk: maybe(int), revision: int },
    sql`
      select r.id, r.number, r.title, r.parent_id as parent, r.position, r.likelihood * r.impact as risk,
        ${revision} as revision
      from requirement r
      where r.project_id = ${of.projectId}
        and r.deleted_at is null
        and r.state <> 'Dropped'
        and r.created_at <= ${of.asOf}`,
  )
  const targets = groupBy(
    rowsOf(
      tx,
      { id: int, releasePosition: int, iterationPosition: maybe(int) },
      sql`
        select t.requirement_id as id, e.position as releasePosition, i.position as iterationPosition
        from requirement_target t
        join release e on e.id = t.release_id
        left join iteration i on i.id = t.iteration_id
        where e.project_id = ${of.projectId}`,
    ),
    ({ id }) => id,
  )
  return rows.filter(({ id }) =>
    isTestable(targets.get(id) ?? [], of.scope.release?.position ?? null, of.scope.iteration?.position ?? null),
  )
}

function caseFacts(tx: Tx, of: FactsOf): CaseFact[] {
  const past = sql`
    (
      select v.fingerprint
      from case_version v
      where v.case_id = c.id
        and v.major >= 0
        and ${of.approvalRequired ? sql`v.approved_at <= ${of.asOf}` : sql`v.created_at <= ${of.asOf}`}
      order by v.major desc, v.minor desc
      limit 1
    )`
  const present = sql`
    (
      select v.fingerprint
      from case_version v
      where v.id = ${of.approvalRequired ? sql`c.approved_version_id` : sql`c.newest_version_id`}
    )`
  return rowsOf(
    tx,
    { number: int, id: int, title: text, fingerprint: maybe(text), designed: int },
    sql`
      select c.id, c.number, c.title, (c.steps > 0 or c.automation = 'Automated') as designed,
        ${of.scope.asOf === null ? present : past} as fingerprint
      from test_case c
      where c.project_id = ${of.projectId}
        and c.deleted_at is null
        and (c.retired_at is null or c.retired_at > ${of.asOf})
        and c.created_at <= ${of.asOf}`,
  ).map((row) => ({ ...row, designed: row.designed === 1 }))
}

/** Slots of a case: what plans of the release ask for, united; else those of its items in runs of the release. */
function slotFacts(tx: Tx, of: FactsOf, anyEnvironment: number): SlotAsked[] {
  const release = of.scope.release
  const inRelease = (column: string) => (release ? sql`${sql.raw(column)} = ${release.id}` : sql`1`)
  const plans = rowsOf(
    tx,
    { id: int },
    sql`
      select l.id
      from plan l
      where l.project_id = ${of.projectId} and l.deleted_at is null and ${inRelease('l.release_id')}
      order by l.id`,
  ).map(({ id }) => id)
  const world = askWorldOf(tx, of.projectId)
  const asked = plansAsked(tx, plans, {
    allowed: new Set(world.places.keys()),
    members: (suites) => casesIn(tx, of, suites),
    asOf: of.scope.asOf,
  })
  const united = new Map<number, SlotSet[]>()
  for (const plan of asked.values())
    for (const [id, sets] of slotsAsked(plan, world).sets) united.set(id, [...(united.get(id) ?? []), ...sets])
  const slots = [...united].flatMap(([id, sets]) => slotsOf(id, reduced(sets), anyEnvironment))
  const run = rowsOf(
    tx,
    { case: int, environment: int },
    sql`
      select distinct i.case_id as "case", i.environment_id as environment
      from run r
      join item i on i.run_id = r.id
      where r.project_id = ${of.projectId}
        and r.deleted_at is null
        and i.deleted_at is null
        and ${inRelease('r.release_id')}`,
  )
  return [...slots, ...run.filter((slot) => !united.has(slot.case))]
}

/** Who is in suites: reckoned for the present, as it was written down for the past. */
function casesIn(tx: Tx, of: FactsOf, suites: readonly number[]): (suite: number) => Iterable<number> {
  if (of.scope.asOf === null) {
    const now = suitesNow(tx, of.projectId)
    return (suite) => now.members(suite).keys()
  }
  const then = groupBy(casesThen(tx, suites, of.scope.asOf), ({ suite }) => suite)
  return (suite) => (then.get(suite) ?? []).map((each) => each.case)
}

function fixFacts(tx: Tx, of: FactsOf): Map<number, number[]> {
  const rows =
    of.scope.asOf === null
      ? rowsOf(
          tx,
          { attempt: int, position: int },
          sql`
            select l.attempt_id as attempt, b.position
            from defect d
            join build b on b.id = d.fixed_in_build_id
            join defect_link l on l.defect_id = d.id
            where d.project_id = ${of.projectId}
              and d.deleted_at is null
              and ${isRepairedDefect('d.state')}
              and l.until_at is null
              and l.attempt_id is not null`,
        )
      : rowsOf(
          tx,
          { attempt: int, position: int },
          sql`
            select l.attempt_id as attempt, b.position
            from defect d
            join defect_state_at s on s.id = (
              select id
              from defect_state_at
              where defect_id = d.id and at <= ${of.asOf}
              order by at desc, id desc
              limit 1
            )
            join build b on b.id = s.fixed_in_build_id
            join defect_link l on l.defect_id = d.id
            where d.project_id = ${of.projectId}
              and d.deleted_at is null
              and ${isRepairedDefect('s.state')}
              and l.from_at <= ${of.asOf}
              and (l.until_at is null or l.until_at > ${of.asOf})
              and l.attempt_id is not null`,
        )
  return new Map(
    [...groupBy(rows, ({ attempt }) => attempt)].map(([attempt, fixes]) => [
      attempt,
      fixes.map(({ position }) => position),
    ]),
  )
}

const standingShape = {
  caseId: int,
  environmentId: int,
  buildId: int,
  attemptId: int,
  verdict: oneOf(verdicts),
  word: maybe(text),
  finishedAt: int,
  fingerprint: text,
  doubted: int,
}
/** What is kept, with the word of the attempt that stands: as long as it says what stands. */
const standingRows = sql`
  select s.case_id as caseId, s.environment_id as environmentId, s.build_id as buildId, s.attempt_id as attemptId,
    s.verdict, case when a.verdict = s.verdict then a.word end as word, s.finished_at as finishedAt, s.fingerprint, s.doubted
  from standing_result s
  join attempt a on a.id = s.attempt_id`

/** Standing results on some builds: kept ones for the present, computed from the attempts for the past. */
export function standingFacts(tx: Tx, builds: readonly number[], asOf: number | null): StandingFact[] {
  if (asOf === null) return rowsOf(tx, standingShape, sql`${standingRows} where ${inIds(sql`s.build_id`, builds)}`)
  return standingFromAttempts(tx, { builds, until: asOf }).map(({ disputedBy: _, ...fact }) => fact)
}

/** The same from the attempts themselves: what `verify` holds the kept table against. */
export function standingFromAttempts(
  tx: Tx,
  of: { builds?: readonly number[]; until?: number },
): (StandingFact & { disputedBy: number | null; doubted: number })[] {
  const places = groupBy(finalAttempts(tx, of), (each) => `${each.buildId}:${each.caseId}:${each.environmentId}`)
  return [...places.values()].flatMap((attempts) => standsAmong(attempts) ?? [])
}

/** Places at which a verdict came since an event. */
export const placesSince = (
  tx: Tx,
  projectId: number,
  afterEvent: number,
): { caseId: number; environmentId: number; buildId: number }[] =>
  rowsOf(
    tx,
    { caseId: int, environmentId: int, buildId: int },
    sql`
      select distinct a.case_id as caseId, a.environment_id as environmentId, a.build_id as buildId
      from verdict_event v
      join attempt a on a.id = v.attempt_id
      where v.id > ${afterEvent} and a.project_id = ${projectId}`,
  )

/** Places whose result may have changed since an event, with what stands there now (nothing when nothing does). */
export function standingSince(
  tx: Tx,
  projectId: number,
  afterEvent: number,
): { caseId: number; environmentId: number; buildId: number; fact: StandingFact | null }[] {
  return placesSince(tx, projectId, afterEvent).map((place) => ({
    ...place,
    fact:
      rowOf(
        tx,
        standingShape,
        sql`
          ${standingRows}
          where s.build_id = ${place.buildId}
            and s.case_id = ${place.caseId}
            and s.environment_id = ${place.environmentId}`,
      ) ?? null,
  }))
}

export const lastEvent = (tx: Tx): number =>
  rowOf(tx, { id: maybe(int) }, sql`select max(id) as id from verdict_event`)?.id ?? 0

export const defectFacts = (
  tx: Tx,
  projectId: number,
): {
  id: number
  number: number
  title: string
  state: string
  cases: string | null
  requirements: string | null
  attempts: string | null
}[] =>
  rowsOf(
    tx,
    {
      id: int,
      number: int,
      title: text,
      state: text,
      cases: maybe(text),
      requirements: maybe(text),
      attempts: maybe(text),
    },
    sql`
      select d.id, d.number, d.title, d.state, group_concat(distinct l.case_id) as cases,
        group_concat(distinct l.requirement_id) as requirements, group_concat(distinct l.attempt_id) as attempts
      from defect d
      left join defect_link l on l.defect_id = d.id and l.until_at is null
      where d.project_id = ${projectId} and d.deleted_at is null
      group by d.id
      order by d.number desc`,
  )
