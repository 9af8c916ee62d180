import { dayIn } from '#core/lib/days.ts'
import { sumOf } from '#core/lib/figures.ts'
import { keyOf } from '#core/lib/key.ts'
import { criterionWords, figureText, wantedText } from '#core/plans/criteria.ts'
import type { Scope } from '#core/projects/scope.ts'
import type {
  LineAnswer,
  readLine as runContract,
  readOwnLine as ownContract,
  readPlanLine as planContract,
} from '#core/schedule/contract.ts'
import { problemsOf } from '#core/schedule/problems.ts'
import { criteriaOf, planBranches, plansFor } from '#db/plans/criteria.ts'
import { projectDetail } from '#db/projects/detail.ts'
import { placesOf } from '#db/schedule/places.ts'
import { peopleOf } from '#db/schedule/team.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { stakeJob, type WeighedItem } from '#server/workers/questions.ts'
import { type ItemOver, type LineOver, overDay, overPlan, overRun, weighed } from './line-over.ts'
import { needsOf } from './needs.ts'
import { reserveOf, shownHands } from './team-days.ts'

export const readLine = (
  context: OpenContext,
  { params, query }: Input<typeof runContract>,
): Promise<Answer<typeof runContract>> => lineAnswer(context, overRun(context, params.ref), query.minutes)
export const readPlanLine = (
  context: OpenContext,
  { params, query }: Input<typeof planContract>,
): Promise<Answer<typeof planContract>> => lineAnswer(context, overPlan(context, params.ref), query.minutes)
export const readOwnLine = (
  context: OpenContext,
  { query }: Input<typeof ownContract>,
): Promise<Answer<typeof ownContract>> => lineAnswer(context, overDay(context), query.minutes)

async function lineAnswer(context: OpenContext, over: LineOver, asked: number | undefined): Promise<LineAnswer> {
  const { tx, project, services } = context
  const { about, runs, days, hands } = over
  const { items, line, minutes, rate, scope } = await weighed(context, over, { minutes: asked })
  const byKey = new Map(items.map((item) => [String(item.id), item]))
  const order = [...line.above, ...line.below].flatMap((key) => byKey.get(key) ?? [])
  const [above, below] = [order.slice(0, line.above.length), order.slice(line.above.length)]
  const today = dayIn(project.timeZone, services.now())
  const open = new Set(items.map(({ id }) => id))
  const all = runs.flatMap((run) => placesOf(tx, run.id))
  const places = over.whose === null ? all : all.filter(({ person }) => person === over.whose)
  const requirements = (of: readonly WeighedItem[]) => new Set(of.flatMap((item) => item.requirements)).size
  return {
    about,
    runs: runs.map((run) => ({
      key: keyOf('run', run.number),
      title: run.title,
      state: run.state,
      startOn: run.startOn,
      endOn: run.endOn,
      reserve: reserveOf(project, run),
      ownReserve: run.reservePercent !== null,
      team: peopleOf(tx, [run.id]),
      version: run.version,
    })),
    days: [...days],
    slipped: places
      .filter(({ item, day }) => day < today && open.has(item))
      .map(({ item, person, day }) => ({ item, person, day })),
    problems: problemsOf({ today, days, hands, work: workOf(context, over, order), places }),
    ...inColumns(order),
    above: above.length,
    line: minutes,
    hours: over.hours,
    drawn: over.drawn !== null,
    reached: { worth: line.worth, bound: line.bound, whole: line.whole, cost: line.cost },
    requirements: { above: requirements(above), below: requirements(below) },
    rate,
    hands: shownHands(hands, days, places),
    places,
    seats: seatsOf(context, items),
    criteria: await atStake(context, over.whose === null ? scope : null, { above, all: order }),
  }
}

/** The items as they are planned: by skills, order and due days. */
export function workOf(
  { tx, project }: Pick<OpenContext, 'tx' | 'project'>,
  { runs }: LineOver,
  items: readonly ItemOver[],
) {
  const needs = runs.map((run, at) =>
    needsOf(
      tx,
      { projectId: project.id, runId: run.id },
      items.filter(({ runOf }) => runOf === at),
    ),
  )
  return items.map(({ id, key, minutes, due, verdict, runOf }) => ({
    id,
    key,
    minutes,
    due,
    begun: verdict === 'In progress',
    ...(needs[runOf]?.(id) ?? { skills: [], after: [] }),
  }))
}

/** The items side by side; what each adds counts a place once, by the greatest chance so far. */
function inColumns(order: readonly ItemOver[]) {
  const known = new Map<string, number>()
  const added = order.map(({ place, share, chance }) => {
    const before = known.get(place)
    known.set(place, Math.max(before ?? 0, chance))
    return { adds: share * Math.max(0, chance - (before ?? 0)), risk: before === undefined ? share : 0 }
  })
  return {
    ids: order.map(({ id }) => id),
    runOf: order.map(({ runOf }) => runOf),
    keys: order.map(({ key }) => key),
    titles: order.map(({ title }) => title),
    environments: order.map(({ environmentName }) => environmentName),
    assignees: order.map(({ assignee }) => assignee),
    minutes: order.map((item) => item.minutes),
    sources: order.map(({ source }) => source),
    worth: order.map(({ share, chance }) => share * chance),
    adds: added.map(({ adds }) => adds),
    risk: added.map(({ risk }) => risk),
    why: order.map(({ why }) => why),
    leaves: order.map(({ leaves }) => [...leaves]),
    shares: order.map(({ share }) => share),
    held: order.map(({ held }) => held),
  }
}

/** Environments with a number of seats that items of the run need, and for how long. */
function seatsOf({ tx, project }: OpenContext, items: readonly WeighedItem[]): LineAnswer['seats'] {
  return projectDetail(tx, project, 'viewer').environments.flatMap(({ id, name, seats }) => {
    const minutes = sumOf(
      items.filter(({ environment }) => environment === id),
      (item) => item.minutes,
    )
    return seats === null || minutes === 0 ? [] : [{ environment: name, seats, minutes }]
  })
}

/** Criteria that would be met if everything passed, and are not if only what is above the line does. */
export async function atStake(
  { services, tx, project }: OpenContext,
  scope: Scope | null,
  of: { readonly above: readonly WeighedItem[]; readonly all: readonly WeighedItem[] },
): Promise<LineAnswer['criteria']> {
  if (!scope?.release) return { stake: [], met: 0, of: 0 }
  const plans = plansFor(tx, { projectId: project.id, release: scope.release.id, iteration: null }).map((plan) => ({
    plan,
    rules: criteriaOf(tx, plan.id)
      .filter(({ side }) => side === 'exit')
      .map(({ rule }) => rule),
    branches: planBranches(tx, plan.id),
  }))
  const slots = (items: readonly WeighedItem[]) => items.map((item) => ({ case: item.case, environment: item.answers }))
  const told = await services.jobs.run(stakeJob, {
    projectId: project.id,
    scope,
    plans: plans.map(({ rules, branches }) => ({ rules, branches })),
    sets: [slots(of.above), slots(of.all)],
  })
  const rows = plans.flatMap(({ plan, rules }, at) =>
    rules.flatMap((rule, n) => {
      const [now, above, all] = told[at]?.[n] ?? []
      return now && above && all ? [{ plan, rule, now, above, all }] : []
    }),
  )
  return {
    met: rows.filter(({ above }) => above.outcome === 'met').length,
    of: rows.length,
    stake: rows
      .filter(({ above, all }) => all.outcome === 'met' && above.outcome !== 'met')
      .map(({ plan, rule, now, above, all }) => ({
        plan: plan.key,
        words: criterionWords(rule, null),
        wanted: wantedText(rule),
        now: figureText(rule, now.figure),
        above: figureText(rule, above.figure),
        all: figureText(rule, all.figure),
      })),
  }
}
