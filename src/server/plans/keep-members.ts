import { keyOf } from '#core/lib/key.ts'
import type { SuiteChanges } from '#core/plans/members.ts'
import type { Tx } from '#db/open.ts'
import { lastChange } from '#db/history/changes.ts'
import { plansThatSpread, saveDeals } from '#db/plans/asked.ts'
import { onlyPersonSince, setNoticed, unnoticedProjects, writeSuiteChanges } from '#db/plans/stays.ts'
import { suiteById } from '#db/plans/suites.ts'
import { findProjectById } from '#db/projects/projects.ts'
import { inSlices } from '#server/http/going.ts'
import type { Services } from '#server/http/services.ts'
import { freshDealsJob, suiteChangesJob } from '#server/workers/questions.ts'

type Own = Pick<Services, 'db' | 'jobs' | 'events' | 'now' | 'logError'>

/** So many cases of a suite are written down in one step. */
const atATime = 500

/**
 * Writes down who came into the suites of a project and went out since it was last done. Who is in now is reckoned on another thread;
 * whoever looks at a list of suites is told when it is written.
 */
export async function noticeMembers({ db, jobs, events, now }: Own, projectId: number, since: number): Promise<void> {
  const structure = findProjectById(db, projectId)?.structureVersion ?? 0
  const all = await jobs.run(suiteChangesJob, { projectId })
  const by = { now: now(), personId: onlyPersonSince(db, projectId, since), since }
  const parts = all.flatMap(inParts)
  await inSlices(
    parts.length,
    <T>(work: (tx: Tx) => T): T => db.transaction(work, { behavior: 'immediate' }),
    (tx, at) => {
      const part = parts[at]
      if (part) writeSuiteChanges(tx, part, by)
    },
  )
  await dealNewcomers({ db, jobs }, projectId)
  // What changed meanwhile has a newer number, and is looked at again.
  setNoticed(db, projectId, structure)
  const told = all.flatMap(({ suite }) => suiteById(db, projectId, suite) ?? [])
  if (told.length > 0)
    events.publish(
      projectId,
      told.map(({ number }) => ({
        id: lastChange(db, projectId),
        kind: 'suite' as const,
        ref: keyOf('suite', number),
        action: 'changed' as const,
        at: by.now,
      })),
    )
}

/** Deals cases that came into plans that spread them; what was dealt before stays. */
async function dealNewcomers({ db, jobs }: Pick<Own, 'db' | 'jobs'>, projectId: number): Promise<void> {
  const plans = plansThatSpread(db, projectId)
  if (plans.length === 0) return
  const fresh = await jobs.run(freshDealsJob, { projectId, plans })
  const parts = fresh.flatMap(({ plan, deals }) =>
    Array.from({ length: Math.ceil(deals.length / atATime) }, (_, at) => ({
      plan,
      deals: deals.slice(at * atATime, (at + 1) * atATime),
    })),
  )
  await inSlices(
    parts.length,
    <T>(work: (tx: Tx) => T): T => db.transaction(work, { behavior: 'immediate' }),
    (tx, at) => {
      const part = parts[at]
      if (part) saveDeals(tx, part.plan, part.deals)
    },
  )
}

/** A change of many cases as several of fewer. */
function inParts(changes: SuiteChanges): SuiteChanges[] {
  const { came, went, moved, broken, mended, ...same } = changes
  const parts: SuiteChanges[] = [{ ...same, came: [], went: [], moved: [], broken, mended }]
  const nothing = { ...same, came: [], went: [], moved: [], broken: [], mended: [] }
  for (let at = 0; at < came.length; at += atATime) parts.push({ ...nothing, came: came.slice(at, at + atATime) })
  for (let at = 0; at < went.length; at += atATime) parts.push({ ...nothing, went: went.slice(at, at + atATime) })
  for (let at = 0; at < moved.length; at += atATime) parts.push({ ...nothing, moved: moved.slice(at, at + atATime) })
  return parts
}

/** Several changes that come one after the other are looked at together. */
const pause = 300

/** Looks after every change of a project who came into its suites and went out, and at the start at what changed while nobody looked. */
export function watchMembers(own: Own): void {
  const waiting = new Map<number, number>()
  let busy = false
  const look = async (): Promise<void> => {
    if (busy) return
    busy = true
    try {
      for (const [projectId, since] of [...waiting]) {
        waiting.delete(projectId)
        await noticeMembers(own, projectId, since)
      }
    } catch (error) {
      own.logError(error)
    } finally {
      busy = false
      if (waiting.size > 0) later()
    }
  }
  const later = (): void => void setTimeout(() => void look(), pause).unref()
  const known = new Map<number, number>()
  const wait = (projectId: number): void => {
    if (!waiting.has(projectId)) waiting.set(projectId, known.get(projectId) ?? 0)
    known.set(projectId, lastChange(own.db, projectId))
    later()
  }
  for (const projectId of unnoticedProjects(own.db)) wait(projectId)
  own.events.listenAll((projectId) => {
    const project = findProjectById(own.db, projectId)
    if (project && project.suitesNoticed !== project.structureVersion) wait(projectId)
  })
}
