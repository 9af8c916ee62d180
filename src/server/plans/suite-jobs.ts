import type { Db } from '#db/open.ts'
import { casesChangedAlone, lastChange } from '#db/history/changes.ts'
import { slotsAsked } from '#core/plans/asks.ts'
import { askedNow } from '#db/plans/asked.ts'
import { bestWithin, casesOfBranch, type SuitesNow, suitesNow } from '#db/plans/members.ts'
import { suiteChanges } from '#db/plans/stays.ts'
import { findProjectById } from '#db/projects/projects.ts'
import { doing, type Doing } from '#server/workers/job.ts'
import {
  asksJob,
  bestJob,
  membersJob,
  ruleJob,
  suiteChangesJob,
  suiteJob,
  type SuiteQuestion,
  type SuiteReply,
} from '#server/workers/questions.ts'

const mostHeld = 4
interface Held {
  readonly project: number
  readonly structure: number
  /** The last change that had happened before it was reckoned. */
  readonly last: number
  readonly now: SuitesNow
}

/** Most changes are of what single cases say, and most of these leave all suites as they are: that is told without reckoning them again. */
function holdsStill(db: Db, { project, structure, last, now }: Held, current: number): boolean {
  if (structure === current) return true
  const changed = casesChangedAlone(db, project, last)
  return changed !== null && now.holds(changed)
}

/** Who is in which suite, reckoned over one read-only connection and kept until the project changes. */
export function suiteJobs(db: Db): Doing[] {
  let held: Held[] = []
  const know = (projectId: number): SuitesNow => {
    // Read before the rest: what comes meanwhile is looked at again the next time, and nothing is missed.
    const last = lastChange(db, projectId)
    const structure = findProjectById(db, projectId)?.structureVersion ?? 0
    const known = held.find((each) => each.project === projectId)
    const now = known && holdsStill(db, known, structure) ? known.now : suitesNow(db, projectId)
    const own = { project: projectId, structure, last, now }
    held = [own, ...held.filter((each) => each.project !== projectId)].slice(0, mostHeld)
    return own.now
  }
  return [
    doing(suiteJob, (question) => suiteReply(know(question.projectId), question)),
    doing(ruleJob, ({ projectId, rule, limit }) => {
      const now = know(projectId)
      const tried = now.tried(rule)
      return 'problem' in tried
        ? { total: 0, minutes: 0, first: [], problem: tried.problem }
        : {
            total: tried.cases.length,
            minutes: now.minutesOf(tried.cases),
            first: tried.cases.slice(0, limit),
            problem: null,
          }
    }),
    doing(bestJob, ({ projectId, minutes, requirement }) => {
      const { cases, why } = bestWithin(db, projectId, { minutes, requirementId: requirement })
      return {
        total: cases.length,
        minutes: know(projectId).minutesOf(cases),
        rows: cases.map((id) => ({ id, why: why[id] ?? '' })),
      }
    }),
    doing(membersJob, ({ projectId, suites, requirements }) => {
      const now = know(projectId)
      const members = suites.flatMap((id) => now.ordered(id))
      return [...new Set([...members, ...requirements.flatMap((id) => casesOfBranch(db, id))])]
    }),
    doing(asksJob, ({ projectId, plan }) => {
      const { world, plans } = askedNow(db, projectId, [plan])
      const own = plans.get(plan)
      return own && own.asks.length > 0 ? [...slotsAsked(own, world).sets] : null
    }),
    doing(suiteChangesJob, ({ projectId }) => {
      // Not what is kept: that may be of before a write this thread has not heard of.
      const now = suitesNow(db, projectId)
      return suiteChanges(db, now, now.definitions.keys())
    }),
  ]
}

function suiteReply(now: SuitesNow, { suite, cursor, limit }: SuiteQuestion): SuiteReply {
  const members = now.members(suite)
  const own = now.sources.filter(({ suiteId }) => suiteId === suite)
  const why = own.map((source) => now.why(source))
  const reason = (id: number) => why.map((each) => each[id]).find((each) => each !== undefined) ?? null
  return {
    total: members.size,
    minutes: now.minutes(suite),
    rows: now
      .ordered(suite)
      .slice(cursor, cursor + limit)
      .map((id) => ({ id, by: members.get(id) ?? [], why: reason(id) })),
    sources: own.map((source) => ({
      id: source.id,
      cases: now.broughtBy(source).length,
      problem: now.problem(source),
    })),
  }
}
