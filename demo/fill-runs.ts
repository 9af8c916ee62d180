import { sumOf } from '#core/lib/figures.ts'
import type { FinalVerdict } from '#core/lib/verdict.ts'
import { executedStepIds } from '#db/cases/uses.ts'
import type { Tx } from '#db/open.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { addAttempt, addAttemptRow, saveChange, saveStepComment } from '#db/runs/attempts.ts'
import { addItem, saveItem } from '#db/runs/items.ts'
import { addRun, setTeam } from '#db/runs/runs.ts'
import { refreshStanding } from '#server/runs/refresh-standing.ts'
import type { Random } from '#core/lib/random.ts'
import { day } from '../standins/crossing-desk/clock.ts'
import { routineNamed } from './basis/all.ts'
import type { WrittenCase } from './basis/read-basis.ts'
import type { organise } from './fill-plans.ts'
import { type Basis, type FilledCase, type Filling, type Frame } from './fill.ts'
import { type Happened, happenings, type RunHappened, testers } from './story/attempts.ts'
import { releaseOf } from './story/runs.ts'

interface Executing extends Filling {
  readonly random: Random
  readonly basis: Basis
}

/** An attempt as it is stored, with what it came from. */
export interface DoneAttempt extends Happened {
  readonly id: number
  readonly itemId: number
  readonly filled: FilledCase
  /** The first row that shows it, and the step. */
  readonly row: number
  readonly stepId: number | null
}

/** Executes the runs as the story tells. */
export function execute(
  tx: Tx,
  frame: Frame,
  plans: ReturnType<typeof organise>['plans'],
  of: Executing,
): DoneAttempt[] {
  const filled = new Map(of.basis.cases.filter(({ approved }) => approved).map((each) => [each.own.title, each]))
  const cases = [...filled.values()].map(({ own }) => own)
  const steps = stepsOf(tx)
  return happenings(cases, of).flatMap((happened) => {
    const runId = writeRun(tx, frame, plans[happened.story.plan], { happened, now: of.now })
    const items = writeItems(tx, frame, filled, { happened, runId })
    return happened.attempts.flatMap((own) => {
      const place = items.get(`${own.own.title}/${own.environment}`)
      return place ? [attemptOn(tx, frame, own, { ...place, steps: steps(place.filled) })] : []
    })
  })
}

/** Ids of the steps that an attempt on a case marks, read once a case. */
function stepsOf(tx: Tx): (of: FilledCase) => readonly number[] {
  const known = new Map<number, number[]>()
  return ({ id, versionId }) => {
    const steps = known.get(id) ?? executedStepIds(tx, versionId ?? 0)
    known.set(id, steps)
    return steps
  }
}

interface Written {
  readonly happened: RunHappened
  readonly now: number
}

function writeRun(
  tx: Tx,
  { projectId, releases, builds, date }: Frame,
  planId: number,
  { happened, now }: Written,
): number {
  const { title, state, phases, end } = happened.story
  const { build = '2.4.0-rc2' } = phases.at(-1) ?? {}
  const from = phases[0]?.from ?? 0
  const runId = addRun(
    tx,
    {
      projectId,
      number: takeNumbers(tx, projectId, 'run'),
      title,
      planId,
      releaseId: releases.get(releaseOf(build)) ?? 0,
      buildId: builds.get(build) ?? 0,
      state,
      startOn: date(from),
      endOn: date(end),
    },
    now + Math.min(from, -0.5) * day,
  )
  setTeam(tx, runId, testers)
  return runId
}

interface Item {
  readonly itemId: number
  readonly filled: FilledCase
}

function writeItems(
  tx: Tx,
  { environments }: Frame,
  cases: ReadonlyMap<string, FilledCase>,
  { happened: { story, slots }, runId }: { happened: RunHappened; runId: number },
): Map<string, Item> {
  const items = new Map<string, Item>()
  slots.forEach(({ own, environment, person }, index) => {
    const filled = cases.get(own.title)
    if (!filled) return
    const environmentId = environments.get(environment) ?? 0
    const itemId = addItem(tx, { runId, caseId: filled.id, environmentId, position: index + 1 })
    // The last items of a run stay with nobody, as they do.
    const dealt = story.state !== 'Open' || index < slots.length - 9
    if (dealt) saveItem(tx, itemId, { assigneeId: person })
    items.set(`${own.title}/${environment}`, { itemId, filled })
  })
  return items
}

/** How many steps somebody at the desk sees before one of the case's own: a routine is written out. */
const stepsBefore = (own: WrittenCase, step: number): number =>
  sumOf(own.steps.slice(0, step), (each) => ('action' in each ? 1 : routineNamed(each.routine).steps.length))

function attemptOn(
  tx: Tx,
  { projectId, environments, builds }: Frame,
  happened: Happened,
  { itemId, filled, steps }: Item & { readonly steps: readonly number[] },
): DoneAttempt {
  const { own, verdict, startedAt, finishedAt, person, seen } = happened
  const place = {
    caseId: filled.id,
    environmentId: environments.get(happened.environment) ?? 0,
    buildId: builds.get(happened.build) ?? 0,
  }
  const seconds = Math.round((finishedAt - startedAt) / 1000)
  const versionId = filled.versionId ?? 0
  const times = { startedAt, finishedAt, seconds }
  const id = addAttempt(tx, {
    projectId,
    ...place,
    versionId,
    itemId,
    personId: person,
    verdict,
    final: true,
    ...times,
  })
  own.rows.forEach((row, at) =>
    addAttemptRow(tx, {
      attemptId: id,
      row: at + 1,
      origin: null,
      values: Object.fromEntries(own.columns.map((name, column) => [name, row[column] ?? ''])),
    }),
  )
  const failing = happened.step === null ? null : stepsBefore(own, happened.step)
  saveChange(tx, id, { marks: marksOf(happened, steps, failing), whole: null }, finishedAt)
  const row = (own.failing[0] ?? 0) + 1
  const stepId = failing === null ? null : (steps[failing] ?? null)
  if (stepId !== null && seen !== '') saveStepComment(tx, { attemptId: id, row, stepId, comment: seen, at: finishedAt })
  saveItem(tx, itemId, { verdict, attemptId: id, assigneeId: person })
  refreshStanding(tx, place)
  return { ...happened, id, itemId, filled, row, stepId }
}

/** Up to the step that was met all passed; a row that does not show it passed whole. */
function marksOf({ own, verdict }: Happened, steps: readonly number[], failing: number | null) {
  const rows = Array.from({ length: Math.max(1, own.rows.length) }, (_, index) => index)
  const mark = (row: number, step: number, given: FinalVerdict) => ({
    from: null,
    to: { row: row + 1, step, verdict: given, word: null, final: true },
  })
  return rows.flatMap((row) => {
    const meets = failing !== null && (verdict !== 'Failed' || own.failing.length === 0 || own.failing.includes(row))
    if (!meets) return steps.map((step) => mark(row, step, 'Passed'))
    return steps.slice(0, failing + 1).map((step, at) => mark(row, step, at === failing ? verdict : 'Passed'))
  })
}
