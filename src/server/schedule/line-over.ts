import { keyOf } from '#core/lib/key.ts'
import { dayAfter, dayIn, daysBetween } from '#core/lib/days.ts'
import type { Scope } from '#core/projects/scope.ts'
import { waitState } from '#core/runs/waits.ts'
import type { LineAnswer } from '#core/schedule/contract.ts'
import type { Changes } from '#core/schedule/what-if-contract.ts'
import { findPlan } from '#db/plans/plans.ts'
import { projectDetail } from '#db/projects/detail.ts'
import type { RunStored } from '#db/runs/runs.ts'
import { waitsOfRun } from '#db/runs/waits.ts'
import { goingRunsOf, type Hand, handsOf, newcomerMinutes, openRunsFor, peopleOf } from '#db/schedule/team.ts'
import { scopeOf } from '#server/finding/scope-of.ts'
import { found } from '#server/http/context.ts'
import type { Db, Tx } from '#db/open.ts'
import { findProjectById, type ProjectRow } from '#db/projects/projects.ts'
import type { LineOf, WeighedItem } from '#server/workers/questions.ts'
import { daysLeft, handsIn, hoursOf, mostDays, reserveOf, runNamed } from './team-days.ts'

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
  /** Environments nothing is executed in. */
  readonly without: readonly number[]
}

/** What is read, and at which instant: by the request, or by the thread of the figures. */
export interface Reading {
  readonly tx: Tx
  readonly project: ProjectRow
  readonly now: number
}

export function readingOf(db: Db, { projectId, now }: { readonly projectId: number; readonly now: number }): Reading {
  const project = findProjectById(db, projectId)
  if (!project) throw new Error(`there is no project ${projectId}`)
  return { tx: db, project, now }
}

export function overRun(reading: Reading, ref: number): LineOver {
  const run = runNamed(reading.tx, reading.project, ref)
  const days = daysLeft(reading.project, run, reading.now)
  const hands = handsIn(reading, run, days)
  const { title, startOn, endOn, lineMinutes } = run
  return {
    about: { kind: 'run', key: keyOf('run', run.number), title, startOn, endOn },
    runs: [run],
    days,
    hands,
    drawn: lineMinutes,
    hours: hoursOf(hands, days),
    whose: null,
    without: [],
  }
}

/** The runs of a plan that go on, as one. */
function overPlan({ tx, project, now }: Reading, ref: number): LineOver {
  const plan = found(findPlan(tx, project.id, ref), keyOf('plan', ref))
  const runs = goingRunsOf(tx, plan.id).map((number) => runNamed(tx, project, number))
  const today = dayIn(project.timeZone, now)
  const startOn = runs.map((run) => run.startOn).sort()[0] ?? today
  const endOn =
    runs
      .map((run) => run.endOn)
      .sort()
      .at(-1) ?? today
  const days = runs.length === 0 ? [] : daysLeft(project, { startOn, endOn }, now)
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
    without: [],
  }
}

/** So many days of one's own are shown. */
const ownDays = 14

/** What is one's own, in the minutes one has today. */
function overDay({ tx, project, now }: Reading, person: string): LineOver {
  const runs = openRunsFor(tx, project.id, person).map((number) => runNamed(tx, project, number))
  const today = dayIn(project.timeZone, now)
  const last = dayAfter(today, ownDays - 1)
  const days = daysBetween(today, last, mostDays)
  const hands = handsOf(
    tx,
    {
      projectId: project.id,
      people: [person],
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
    whose: person,
    without: [],
  }
}

/** The run as it would go: its days, and who there is on them. */
function overWay(reading: Reading, ref: number, changes: Changes): LineOver {
  const { tx, project } = reading
  const now = overRun(reading, ref)
  const run = runNamed(tx, project, ref)
  const { join, more, endOn, reservePercent } = changes
  const days = endOn === null ? now.days : daysLeft(project, { startOn: run.startOn, endOn }, reading.now)
  const asked = {
    projectId: project.id,
    people: [...new Set([...peopleOf(tx, [run.id]), ...join])],
    runs: [run.id],
    reservePercent: reservePercent ?? reserveOf(project, run),
  }
  const minutes = newcomerMinutes(tx, { ...asked, workingDays: project.workingDays }, days)
  const unnamed = Array.from({ length: more }, (_, at): Hand => ({
    id: `new ${at + 1}`,
    name: 'a new tester',
    skills: [],
    minutes,
    busy: days.map(() => 0),
  }))
  const hands = [...handsOf(tx, asked, days), ...unnamed]
  const hours = hoursOf(hands, days)
  return {
    ...now,
    days,
    hands,
    hours,
    without: changes.without,
    // A line drawn by hand moves with the hours that come or go.
    drawn: now.drawn === null ? null : Math.max(0, now.drawn + hours - now.hours),
  }
}

export const overOf = (reading: Reading, of: LineOf): LineOver =>
  of.kind === 'run'
    ? of.changes === null
      ? overRun(reading, of.ref)
      : overWay(reading, of.ref, of.changes)
    : of.kind === 'plan'
      ? overPlan(reading, of.ref)
      : overDay(reading, of.person)

/** The scope a run is weighed in: its release up to its build, in all environments. */
export function scopeOfRun(
  { tx, project }: Pick<Reading, 'tx' | 'project'>,
  run: Pick<RunStored, 'releaseId' | 'buildId'>,
): Scope {
  const { releases, builds } = projectDetail(tx, project, 'viewer')
  const release = releases.find(({ id }) => id === run.releaseId)?.name
  const build = builds.find(({ id }) => id === run.buildId)?.name
  return scopeOf(tx, project, { ...(release !== undefined && { release }), ...(build !== undefined && { build }) })
}

/** Of somebody's own: what is given to them and waits for nothing. */
export function ownAmong(tx: Tx, run: RunStored, whose: string | null): (item: WeighedItem) => boolean {
  if (whose === null) return () => true
  const waits = waitsOfRun(tx, run.id)
  return ({ id, assignee, verdict }) => assignee === whose && waitState(waits.get(id) ?? [], verdict) !== 'waiting'
}
