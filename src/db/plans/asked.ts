import { eq, type SQL, sql } from 'drizzle-orm'
import { groupBy } from '#core/lib/group.ts'
import { once } from '#core/lib/once.ts'
import {
  type Ask,
  askAbouts,
  askWays,
  type AskWorld,
  type Place,
  type PlanAsked,
  slotsAsked,
  type SlotSet,
} from '#core/plans/asks.ts'
import { notAllowed, readFactors } from '#core/plans/factors.ts'
import type { Tx } from '#db/open.ts'
import { inIds } from '#db/finding/list.ts'
import { numbersIn } from '#db/json.ts'
import { int, maybe, oneOf, rowOf, rowsOf, text } from '#db/rows.ts'
import { environmentValues } from '#db/projects/environments.ts'
import { suitesNow } from './members.ts'
import { openStays } from './stays.ts'
import { frozenSlots } from './versions.ts'
import { planAsk, planDeal } from './tables.ts'

/** Environments of a project that are there, by what they stand for. */
export function placesOf(tx: Tx, projectId: number): Place[] {
  const values = environmentValues(tx, projectId)
  return rowsOf(
    tx,
    { id: int },
    sql`
      select id
      from environment
      where project_id = ${projectId} and deleted_at is null and is_any = 0
      order by position`,
  ).map(({ id }) => ({ id, values: values.get(id) ?? {} }))
}

/** The factors of a project, with what its environments have beside. */
export function factorsOf(tx: Tx, projectId: number, places: readonly Place[]) {
  const lines = rowOf(
    tx,
    { factors: text, rules: text },
    sql`select factors, factor_rules as rules from project where id = ${projectId}`,
  )
  return readFactors(lines ?? { factors: '', rules: '' }, places)
}

/** Environments that may be asked for. */
function allowedPlaces(tx: Tx, projectId: number): Place[] {
  const places = placesOf(tx, projectId)
  const refused = notAllowed(factorsOf(tx, projectId, places), places)
  return places.filter(({ id }) => !refused.has(id))
}

/** What asks are read with: environments, links and the outline of a project. */
export function askWorldOf(tx: Tx, projectId: number): AskWorld {
  const links = once(() =>
    groupBy(
      rowsOf(
        tx,
        { case: int, requirement: int },
        sql`
          select l.case_id as "case", l.requirement_id as requirement
          from link l
          join requirement r on r.id = l.requirement_id
          where l.project_id = ${projectId} and l.until_at is null and r.deleted_at is null
          order by l.id`,
      ),
      (link) => link.case,
    ),
  )
  const parents = once(
    () =>
      new Map(
        rowsOf(
          tx,
          { id: int, parent: maybe(int) },
          sql`select id, parent_id as parent from requirement where project_id = ${projectId}`,
        ).map(({ id, parent }) => [id, parent]),
      ),
  )
  return {
    places: new Map(allowedPlaces(tx, projectId).map((place) => [place.id, place])),
    requirementsOf: (id) => (links().get(id) ?? []).map(({ requirement }) => requirement),
    parentOf: (requirement) => parents().get(requirement) ?? null,
  }
}

/** What plans say about the environments they ask for, by plan. */
export function asksOf(tx: Tx, plans: readonly number[]): Map<number, Ask[]> {
  const rows = rowsOf(
    tx,
    { plan: int, about: oneOf(askAbouts), id: int, way: oneOf(askWays), environments: maybe(text) },
    sql`
      select plan_id as "plan", about, coalesce(suite_id, requirement_id, case_id, 0) as id, way, environments
      from plan_ask
      where ${inIds(sql`plan_id`, plans)}
      order by plan_id, about, id`,
  )
  return new Map(
    [...groupBy(rows, (row) => row.plan)].map(([plan, own]) => [
      plan,
      own.map(({ about, id, way, environments }) => ({
        about,
        id,
        way,
        environments: environments === null ? null : numbersIn(environments),
      })),
    ]),
  )
}

const columnOf = { suite: 'suiteId', requirement: 'requirementId', case: 'caseId' } as const

/** What a plan says about the environments it asks for, anew. */
export function setAsks(tx: Tx, planId: number, asks: readonly Ask[]): void {
  tx.delete(planAsk).where(eq(planAsk.planId, planId)).run()
  for (const { about, id, way, environments } of asks)
    tx.insert(planAsk)
      .values({
        planId,
        about,
        way,
        environments: environments === null ? null : JSON.stringify(environments),
        ...(about !== 'plan' && { [columnOf[about]]: id }),
      })
      .run()
}

/** Where the cases of plans are dealt, by plan. */
function dealsOf(tx: Tx, plans: readonly number[]): Map<number, Map<number, number>> {
  const rows = rowsOf(
    tx,
    { plan: int, case: int, environment: int },
    sql`
      select plan_id as "plan", case_id as "case", environment_id as environment
      from plan_deal
      where ${inIds(sql`plan_id`, plans)}`,
  )
  return new Map(
    [...groupBy(rows, (row) => row.plan)].map(([plan, own]) => [
      plan,
      new Map(own.map((deal) => [deal.case, deal.environment])),
    ]),
  )
}

/** Plans that are not closed and spread some of their cases. */
export const plansThatSpread = (tx: Tx, projectId: number): number[] =>
  rowsOf(
    tx,
    { id: int },
    sql`
      select l.id
      from plan l
      where l.project_id = ${projectId}
        and l.deleted_at is null
        and l.state <> 'Closed'
        and exists (select 1 from plan_ask a where a.plan_id = l.id and a.way = 'spread')
      order by l.id`,
  ).map(({ id }) => id)

interface Deal {
  readonly case: number
  readonly environment: number
}

/** Writes down where cases are dealt; what was dealt before and is not named stays. */
export function saveDeals(tx: Tx, planId: number, deals: readonly Deal[]): void {
  for (const deal of deals)
    tx.insert(planDeal)
      .values({ planId, caseId: deal.case, environmentId: deal.environment })
      .onConflictDoUpdate({ target: [planDeal.planId, planDeal.caseId], set: { environmentId: deal.environment } })
      .run()
}

/** What plans are read with: the environments that may be asked for, who is in a suite, and as of when (`null`: now). */
interface AskedBy {
  readonly allowed: ReadonlySet<number>
  readonly members: (suites: readonly number[]) => (suite: number) => Iterable<number>
  readonly asOf: number | null
}

/** Plans as far as they ask for slots; what was frozen asks for what it did then. */
export function plansAsked(
  tx: Tx,
  plans: readonly number[],
  { allowed, members, asOf }: AskedBy,
): Map<number, PlanAsked> {
  const byPlan = (query: SQL) => groupBy(rowsOf(tx, { plan: int, id: int }, query), (row) => row.plan)
  const suites = byPlan(sql`
    select s.plan_id as "plan", u.id
    from plan_suite s
    join suite u on u.id = s.suite_id
    where ${inIds(sql`s.plan_id`, plans)} and u.deleted_at is null
    order by s.plan_id, s.position`)
  const environments = byPlan(sql`
    select p.plan_id as "plan", e.id
    from plan_environment p
    join environment e on e.id = p.environment_id
    where ${inIds(sql`p.plan_id`, plans)}
    order by p.plan_id, e.position`)
  const [asks, deals] = [asksOf(tx, plans), dealsOf(tx, plans)]
  const frozen = frozenSlots(tx, plans, asOf)
  const living = plans.filter((plan) => !frozen.has(plan))
  const who = members([...new Set(living.flatMap((plan) => (suites.get(plan) ?? []).map(({ id }) => id)))])
  return new Map(
    plans.map((plan) => {
      const held = frozen.get(plan)
      const own = {
        environments: (environments.get(plan) ?? []).flatMap(({ id }) => (allowed.has(id) ? [id] : [])),
        asks: asks.get(plan) ?? [],
        deals: deals.get(plan) ?? new Map<number, number>(),
      }
      return [
        plan,
        held
          ? { ...own, suites: [{ id: 0, cases: [...held.keys()] }], frozen: held }
          : { ...own, suites: (suites.get(plan) ?? []).map(({ id }) => ({ id, cases: [...who(id)] })) },
      ]
    }),
  )
}

/** What plans ask for now, over who is in their suites now, with what it is read with. */
export function askedNow(
  tx: Tx,
  projectId: number,
  plans: readonly number[],
): { readonly world: AskWorld; readonly plans: ReadonlyMap<number, PlanAsked> } {
  const world = askWorldOf(tx, projectId)
  const now = suitesNow(tx, projectId)
  const allowed = new Set(world.places.keys())
  const members = () => (suite: number) => now.members(suite).keys()
  return { world, plans: plansAsked(tx, plans, { allowed, members, asOf: null }) }
}

/** What a plan asks for, case by case: by who was written down as in its suites where that is up to date, else reckoned anew. */
export function slotsOfPlan(
  tx: Tx,
  project: { readonly id: number; readonly structureVersion: number; readonly suitesNoticed: number },
  plan: number,
): ReadonlyMap<number, readonly SlotSet[]> {
  const world = askWorldOf(tx, project.id)
  const isNoticed = project.suitesNoticed === project.structureVersion
  const now = once(() => suitesNow(tx, project.id))
  const members = () => (suite: number) =>
    isNoticed ? openStays(tx, suite).map((stay) => stay.case) : now().members(suite).keys()
  const own = plansAsked(tx, [plan], { allowed: new Set(world.places.keys()), members, asOf: null }).get(plan)
  return own ? slotsAsked(own, world).sets : new Map()
}
