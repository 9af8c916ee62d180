import { groupBy } from '#core/lib/group.ts'
import { type CarryCase, type CarryGroup, carryGroupOf } from '#core/plans/carry.ts'
import type { Db } from '#db/open.ts'
import { basisOfCases, retiredOfPlan } from '#db/plans/carry.ts'
import type { PlanQuestion } from '#server/workers/questions.ts'
import { reckon } from './asks.ts'
import type { Knowledge } from './facts-cache.ts'

interface Carried {
  readonly id: number
  readonly group: CarryGroup
  readonly minutes: number
}

/** Every case of a plan with the group it falls into, over all its environments in a scope that ends with the last build. */
export function carriedOf(db: Db, known: Knowledge, question: PlanQuestion): Carried[] {
  const { slots, minutesOf } = reckon(db, known, question)
  const revisions = new Map(known.facts.requirements.map(({ id, revision }) => [id, revision]))
  const suspect = new Set(
    known.facts.links
      .filter((link) => (revisions.get(link.requirement) ?? 0) > link.confirmedRevision)
      .map((link) => `${link.requirement}:${link.case}`),
  )
  const basis = groupBy(basisOfCases(db, question.projectId), (row) => row.case)
  const live = [...slots].map(([id, own]): CarryCase => ({
    id,
    retired: false,
    requirements: (basis.get(id) ?? []).map(({ requirement, live: isLive, changedAt }) => ({
      live: isLive,
      changedAt,
      suspect: suspect.has(`${requirement}:${id}`),
    })),
    slots: own.map(({ verdict, standing }) => ({ verdict, finishedAt: standing?.finishedAt ?? null })),
  }))
  const retired = retiredOfPlan(db, question.plan)
    .filter((id) => !slots.has(id))
    .map((id): CarryCase => ({ id, retired: true, requirements: [], slots: [] }))
  return [...live, ...retired].map((of) => ({ id: of.id, group: carryGroupOf(of), minutes: minutesOf(of.id) }))
}
