import { keyOf } from '#core/lib/key.ts'
import { sumOf } from '#core/lib/figures.ts'
import { criterionWords, figureText, wantedText } from '#core/plans/criteria.ts'
import type { LineAnswer, readLine as contract } from '#core/schedule/contract.ts'
import { weightsIn } from '#core/projects/weights.ts'
import type { Line, LineItem } from '#core/schedule/line.ts'
import { criteriaOf, planBranches, plansFor } from '#db/plans/criteria.ts'
import { projectDetail } from '#db/projects/detail.ts'
import { placesOf } from '#db/schedule/places.ts'
import { scopeOf } from '#server/finding/scope-of.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { lineJob, stakeJob, type WeighedItem, worthJob, type WorthReply } from '#server/workers/questions.ts'
import type { RunStored } from '#db/runs/runs.ts'
import type { Scope } from '#core/projects/scope.ts'
import { daysLeft, handsIn, hoursOf, runNamed, shownHands } from './team-days.ts'

/** The scope a run is weighed in: its release up to its build, in all environments. */
function scopeOfRun({ tx, project }: Pick<OpenContext, 'tx' | 'project'>, run: RunStored): Scope {
  const { releases, builds } = projectDetail(tx, project, 'viewer')
  const release = releases.find(({ id }) => id === run.releaseId)?.name
  const build = builds.find(({ id }) => id === run.buildId)?.name
  return scopeOf(tx, project, { ...(release !== undefined && { release }), ...(build !== undefined && { build }) })
}

/** What each open item of a run is worth now. */
export async function worthIn(context: OpenContext, run: RunStored): Promise<WorthReply & { readonly scope: Scope }> {
  const { services, project } = context
  const scope = scopeOfRun(context, run)
  const told = await services.jobs.run(worthJob, {
    projectId: project.id,
    scope,
    run: run.id,
    weights: weightsIn(project.worthWeights),
    now: services.now(),
  })
  return { ...told, scope }
}

/** What the open items of a run are worth now, in the time there is. */
export async function weighed(
  context: OpenContext,
  run: RunStored,
  at: { readonly minutes: number | undefined; readonly hours: number },
): Promise<{ items: readonly WeighedItem[]; line: Line; minutes: number; rate: number; scope: Scope }> {
  const { services } = context
  const { scope, ...told } = await worthIn(context, run)
  const minutes = at.minutes ?? run.lineMinutes ?? at.hours
  const items = told.items.map((of): LineItem => ({
    key: String(of.id),
    minutes: of.minutes,
    place: of.place,
    share: of.share,
    chance: of.chance,
    held: of.held,
  }))
  const line = await services.jobs.run(lineJob, { items, minutes })
  return { items: told.items, line, minutes, rate: told.rate, scope }
}

export async function readLine(
  context: OpenContext,
  { params, query }: Input<typeof contract>,
): Promise<Answer<typeof contract>> {
  const { services, tx, project } = context
  const run = runNamed(tx, project, params.ref)
  const days = daysLeft(project, run, services.now())
  const hands = handsIn(context, run, days)
  const hours = hoursOf(hands, days)
  const { items, line, minutes, rate, scope } = await weighed(context, run, { minutes: query.minutes, hours })
  const byKey = new Map(items.map((item) => [String(item.id), item]))
  const order = [...line.above, ...line.below].flatMap((key) => byKey.get(key) ?? [])
  const [above, below] = [order.slice(0, line.above.length), order.slice(line.above.length)]
  const places = placesOf(tx, run.id)
  const requirements = (of: readonly WeighedItem[]) => new Set(of.flatMap((item) => item.requirements)).size
  const { title, state, startOn, endOn, version } = run
  return {
    run: { key: keyOf('run', run.number), title, state, startOn, endOn, version },
    days,
    ...inColumns(order),
    above: above.length,
    line: minutes,
    hours,
    drawn: run.lineMinutes !== null,
    reached: { worth: line.worth, bound: line.bound, whole: line.whole, cost: line.cost },
    requirements: { above: requirements(above), below: requirements(below) },
    rate,
    hands: shownHands(hands, days, places),
    places,
    seats: seatsOf(context, items),
    criteria: await atStake(context, scope, { above, all: order }),
  }
}

/** The items side by side; what each adds counts a place once, by the greatest chance so far. */
function inColumns(order: readonly WeighedItem[]) {
  const known = new Map<string, number>()
  const added = order.map(({ place, share, chance }) => {
    const before = known.get(place)
    known.set(place, Math.max(before ?? 0, chance))
    return { adds: share * Math.max(0, chance - (before ?? 0)), risk: before === undefined ? share : 0 }
  })
  return {
    ids: order.map(({ id }) => id),
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
async function atStake(
  { services, tx, project }: OpenContext,
  scope: Scope,
  of: { readonly above: readonly WeighedItem[]; readonly all: readonly WeighedItem[] },
): Promise<LineAnswer['criteria']> {
  if (scope.release === null) return { stake: [], met: 0, of: 0 }
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
