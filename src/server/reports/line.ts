import { weightsIn } from '#core/projects/weights.ts'
import { waitState } from '#core/runs/waits.ts'
import type { LineAnswer, NextBest } from '#core/schedule/contract.ts'
import type { Levelled } from '#core/schedule/level.ts'
import type { Line, LineItem } from '#core/schedule/line.ts'
import { worthOf } from '#core/schedule/worth.ts'
import { keyOf } from '#core/lib/key.ts'
import type { Scope } from '#core/projects/scope.ts'
import type { Db } from '#db/open.ts'
import type { ProjectRow } from '#db/projects/projects.ts'
import type { RunStored } from '#db/runs/runs.ts'
import { waitsOfRun } from '#db/runs/waits.ts'
import { openRunsFor } from '#db/schedule/team.ts'
import { basisOf, levelAnswer, levelModel } from '#server/schedule/level-run.ts'
import { overOf, ownAmong, readingOf, scopeOfRun } from '#server/schedule/line-over.ts'
import { type Drawn, itemsOf, type ItemOver, shownLine } from '#server/schedule/shown-line.ts'
import { runNamed } from '#server/schedule/team-days.ts'
import { wayFigures } from '#server/schedule/way-figures.ts'
import { type Doing, doing } from '#server/workers/job.ts'
import {
  askLineJob,
  basisJob,
  nextBestJob,
  levelModelJob,
  levelTextJob,
  type LineAsked,
  type LineDrawn,
  type LineQuestion,
  lineTextJob,
  wayTextJob,
} from '#server/workers/questions.ts'
import type { Knowledge } from './facts-cache.ts'
import { atStake } from './stake.ts'
import { weighRun } from './worth.ts'

type Know = (projectId: number, scope: Scope) => Knowledge
/** So many lines are kept between what is asked of them. */
const mostDrawn = 6

/**
 * Lines on the thread of the figures: what is asked of a solver, and, once that has answered, the text of what a page shows. What was
 * read for a line is kept between the two; where it is gone it is read again.
 */
export function lineJobs(db: Db, know: Know): Doing[] {
  const kept = new Map<number, Drawn>()
  let next = 0
  const draw = (question: LineQuestion): LineAsked => {
    const drawn = drawnOf(db, know, question)
    kept.set(++next, drawn)
    const [oldest] = kept.keys()
    if (kept.size > mostDrawn && oldest !== undefined) kept.delete(oldest)
    return { token: next, minutes: drawn.minutes, items: JSON.stringify(lineItemsOf(drawn)) }
  }
  const of = ({ token, ...question }: LineDrawn): Drawn =>
    kept.get(token) ?? { ...drawnOf(db, know, question), basis: '' }
  const stake = (drawn: Drawn, line: Line): LineAnswer['criteria'] => {
    const { scope, items, projectId } = drawn
    if (scope === null) return { stake: [], met: 0, of: 0 }
    return atStake(db, know(projectId, scope), { projectId, scope, above: itemsOf(drawn, line.above), all: items })
  }
  return [
    doing(askLineJob, draw),
    doing(lineTextJob, (question) => {
      const [drawn, { line }] = [of(question), question]
      const answer: LineAnswer = { ...shownLine(readingOf(db, question), drawn, line), criteria: stake(drawn, line) }
      return JSON.stringify(answer)
    }),
    doing(levelModelJob, (question) =>
      JSON.stringify(levelModel(readingOf(db, question), { drawn: of(question), ...question })),
    ),
    doing(levelTextJob, (question) =>
      JSON.stringify(
        levelAnswer(readingOf(db, question), { ...question, drawn: of(question), told: levelled(question.told) }),
      ),
    ),
    doing(wayTextJob, (question) => {
      const [drawn, { line }] = [of(question), question]
      const told = { line, told: levelled(question.told), criteria: stake(drawn, line) }
      return JSON.stringify(wayFigures(readingOf(db, question), drawn, told))
    }),
    doing(basisJob, (question) => {
      const reading = readingOf(db, question)
      return { basis: basisOf(reading, question.ref), seen: reading.project.structureVersion }
    }),
    doing(nextBestJob, (question) => bestOf(db, know, question)),
  ]
}

// What another thread of ours wrote is what it says.
const levelled = (text: string): Levelled => JSON.parse(text) as Levelled

function weighedIn(db: Db, know: Know, of: { project: ProjectRow; run: RunStored; now: number }) {
  const { project, run, now } = of
  const scope = scopeOfRun({ tx: db, project }, run)
  const question = { projectId: project.id, scope, run: run.id, weights: weightsIn(project.worthWeights), now }
  return { ...weighRun(db, know(project.id, scope), question), scope }
}

function drawnOf(db: Db, know: Know, question: LineQuestion): Drawn {
  const reading = readingOf(db, question)
  const basis = question.basis && question.of.kind === 'run' ? basisOf(reading, question.of.ref) : ''
  const over = overOf(reading, question.of)
  const items: ItemOver[] = []
  let [rate, scope]: [number, Scope | null] = [0, null]
  for (const [runOf, run] of over.runs.entries()) {
    const told = weighedIn(db, know, { ...reading, run })
    rate = told.rate
    scope ??= told.scope
    const own = ownAmong(db, run, over.whose)
    for (const item of told.items) if (own(item)) items.push({ ...item, runOf })
  }
  return {
    projectId: question.projectId,
    over,
    items,
    minutes: question.minutes ?? over.drawn ?? over.hours,
    rate,
    scope: over.whose === null ? scope : null,
    basis,
  }
}

function lineItemsOf({ items, over }: Drawn): LineItem[] {
  const without = new Set(over.without)
  return items.map(({ id, minutes, parts, chance, held, environment }) => ({
    key: String(id),
    minutes,
    parts,
    chance,
    held: without.has(environment) ? 'below' : held,
  }))
}

/** What is worth most for its minutes, of all that somebody may execute now: theirs or nobody's, and waiting for nothing. */
function bestOf(
  db: Db,
  know: Know,
  of: { readonly projectId: number; readonly person: string; readonly not: number | null; readonly now: number },
): { best: NextBest['best']; among: number } {
  const { project, now } = readingOf(db, of)
  let best: NextBest['best'] = null
  let [most, among] = [-1, 0]
  for (const number of openRunsFor(db, project.id, of.person)) {
    const run = runNamed(db, project, number)
    const waits = waitsOfRun(db, run.id)
    for (const item of weighedIn(db, know, { project, run, now }).items) {
      const isTheirs = item.assignee === of.person
      if ((!isTheirs && item.assignee !== null) || item.id === of.not || item.held === 'below') continue
      if (waitState(waits.get(item.id) ?? [], item.verdict) === 'waiting') continue
      among++
      const worth = worthOf(item)
      const each = worth / Math.max(1, item.minutes)
      if (each <= most) continue
      most = each
      best = {
        item: item.id,
        run: keyOf('run', number),
        case: item.key,
        title: item.title,
        environment: item.environmentName,
        minutes: item.minutes,
        worth,
        why: item.why,
        free: !isTheirs,
      }
    }
  }
  return { best, among }
}
