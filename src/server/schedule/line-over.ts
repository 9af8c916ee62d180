import { keyOf } from '#core/lib/key.ts'
import { dayAfter, dayIn, daysBetween } from '#core/lib/days.ts'
import { weightsIn } from '#core/projects/weights.ts'
import type { Scope } from '#core/projects/scope.ts'
import { waitState } from '#core/runs/waits.ts'
import type { LineAnswer } from '#core/schedule/contract.ts'
import type { Line, LineItem } from '#core/schedule/line.ts'
import { findPlan } from '#db/plans/plans.ts'
import { projectDetail } from '#db/projects/detail.ts'
import type { RunStored } from '#db/runs/runs.ts'
import { waitsOfRun } from '#db/runs/waits.ts'
import { goingRunsOf, type Hand, handsOf, openRunsFor, peopleOf } from '#db/schedule/team.ts'
import { scopeOf } from '#server/finding/scope-of.ts'
import { found } from '#server/http/context.ts'
import type { OpenContext } from '#server/http/route.ts'
import { lineJob, type WeighedItem, worthJob, type WorthReply } from '#server/workers/questions.ts'
import { daysLeft, handsIn, hoursOf, mostDays, runNamed } from './team-days.ts'

/** What a line is drawn over, with the days and people there are for it. */
export interface LineOver {
  readonly about: LineAnswer['about']
  readonly runs: readonly RunStored[]
  readonly days: readonly string[]
  readonly hands: readonly Hand[]
  /** Minutes above the line, where somebody drew it. */
  readonly drawn: number | null
  /** Minutes there are for it; they may be fewer than those of all the days. */
  readonly hours: number
  /** Whose items alone are meant; `null`: all. */
  readonly whose: string | null
}

type Reading = Pick<OpenContext, 'tx' | 'project'>

export function overRun(context: OpenContext, ref: number): LineOver {
  const run = runNamed(context.tx, context.project, ref)
  const days = daysLeft(context.project, run, context.services.now())
  const hands = handsIn(context, run, days)
  const { title, startOn, endOn, lineMinutes } = run
  return {
    about: { kind: 'run', key: keyOf('run', run.number), title, startOn, endOn },
    runs: [run],
    days,
    hands,
    drawn: lineMinutes,
    hours: hoursOf(hands, days),
    whose: null,
  }
}

/** The runs of a plan that go on, as one. */
export function overPlan(context: OpenContext, ref: number): LineOver {
  const { tx, project, services } = context
  const plan = found(findPlan(tx, project.id, ref), keyOf('plan', ref))
  const runs = goingRunsOf(tx, plan.id).map((number) => runNamed(tx, project, number))
  const today = dayIn(project.timeZone, services.now())
  const startOn = runs.map((run) => run.startOn).sort()[0] ?? today
  const endOn =
    runs
      .map((run) => run.endOn)
      .sort()
      .at(-1) ?? today
  const days = runs.length === 0 ? [] : daysLeft(project, { startOn, endOn }, services.now())
  const ids = runs.map(({ id }) => id)
  const hands = handsOf(
    tx,
    { projectId: project.id, people: peopleOf(tx, ids), runs: ids, reservePercent: project.reservePercent },
    days,
  )
  return {
    about: { kind: 'plan', key: keyOf('plan', ref), title: plan.title, startOn, endOn },
    runs,
    days,
    hands,
    drawn: null,
    hours: hoursOf(hands, days),
    whose: null,
  }
}

/** So many days of one's own are shown. */
const ownDays = 14

/** What is one's own, in the minutes one has today. */
export function overDay(context: OpenContext): LineOver {
  const { tx, project, person, services } = context
  const runs = openRunsFor(tx, project.id, person.id).map((number) => runNamed(tx, project, number))
  const today = dayIn(project.timeZone, services.now())
  const last = dayAfter(today, ownDays - 1)
  const days = daysBetween(today, last, mostDays)
  const hands = handsOf(
    tx,
    {
      projectId: project.id,
      people: [person.id],
      runs: runs.map(({ id }) => id),
      reservePercent: project.reservePercent,
    },
    days,
  )
  return {
    about: { kind: 'day', key: null, title: 'My day', startOn: today, endOn: last },
    runs,
    days,
    hands,
    drawn: null,
    hours: hoursOf(hands, days.slice(0, 1)),
    whose: person.id,
  }
}

/** The scope a run is weighed in: its release up to its build, in all environments. */
function scopeOfRun({ tx, project }: Reading, run: Pick<RunStored, 'releaseId' | 'buildId'>): Scope {
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

/** An item with the place of its run among those the line is drawn over. */
export type ItemOver = WeighedItem & { readonly runOf: number }
export interface Weighed {
  readonly items: readonly ItemOver[]
  readonly line: Line
  readonly minutes: number
  readonly rate: number
  /** Of the newest of the runs. */
  readonly scope: Scope | null
}

interface DrawnAt {
  /** Minutes above the line; else as it is drawn, else the hours there are. */
  readonly minutes?: number | undefined
  /** Nothing is executed in these environments. */
  readonly without?: readonly number[]
}

/** What the open items are worth now, in the time there is. */
export async function weighed(context: OpenContext, over: LineOver, at: DrawnAt = {}): Promise<Weighed> {
  const items: ItemOver[] = []
  let [rate, scope]: [number, Scope | null] = [0, null]
  for (const [runOf, run] of over.runs.entries()) {
    const told = await worthIn(context, run)
    rate = told.rate
    scope ??= told.scope
    const own = ownAmong(context, run, over.whose)
    for (const item of told.items) if (own(item)) items.push({ ...item, runOf })
  }
  const minutes = at.minutes ?? over.drawn ?? over.hours
  const without = new Set(at.without)
  const asked = items.map((of): LineItem => {
    const { place, share, chance, held, environment } = of
    return {
      key: String(of.id),
      minutes: of.minutes,
      place,
      share,
      chance,
      held: without.has(environment) ? 'below' : held,
    }
  })
  const line = await context.services.jobs.run(lineJob, { items: asked, minutes })
  return { items, line, minutes, rate, scope }
}

/** Of somebody's own: what is given to them and waits for nothing. */
function ownAmong({ tx }: OpenContext, run: RunStored, whose: string | null): (item: WeighedItem) => boolean {
  if (whose === null) return () => true
  const waits = waitsOfRun(tx, run.id)
  return ({ id, assignee, verdict }) => assignee === whose && waitState(waits.get(id) ?? [], verdict) !== 'waiting'
}
