import { fallenSlots, repairOf } from '#core/reports/doubt.ts'
import type { Db } from '#db/open.ts'
import type { standingSince } from '#db/reports/facts.ts'
import { placesOf } from '#db/runs/doubts.ts'
import { finalAttempts, standsAmong } from '#db/runs/standing.ts'
import type { DoubtQuestion, DoubtReply } from '#server/workers/questions.ts'
import { criteriaEvaluated } from './criteria.ts'
import { type Knowledge, supposing } from './facts-cache.ts'

/** What falls in a scope if some attempts are not believed, and the fewest items that would settle it. */
export function doubtOf(db: Db, known: Knowledge, { ids, ...question }: DoubtQuestion): DoubtReply {
  const after = supposing(known, without(db, known, { projectId: question.projectId, ids }))
  const { anyEnvironment, requirements } = known.facts
  const fallen = fallenSlots(known.slots, after.slots, anyEnvironment)
  const [told, then] = [known, after].map((each) => criteriaEvaluated(db, each, { ...question, most: 0 }))
  const [before, now] = [known.result(), after.result()]
  const parents = new Set(requirements.map(({ parent }) => parent))
  return {
    fallen,
    repair: repairOf(fallen),
    requirements: requirements.flatMap(({ id }) => {
      const [from, to] = [before.byId.get(id)?.state ?? '', now.byId.get(id)?.state ?? '']
      return parents.has(id) || from === to ? [] : [{ id, from, to }]
    }),
    passing: { before: before.total.figures.passing.plain.recorded, after: now.total.figures.passing.plain.recorded },
    criteria: (told ?? []).map((rules, plan) =>
      rules.map(({ outcome }, at) => ({ from: outcome, to: then?.[plan]?.[at]?.outcome ?? outcome })),
    ),
  }
}

/** What stands at the places of some attempts once these are not there; nothing when nothing does. */
function without(
  db: Db,
  known: Knowledge,
  { projectId, ids }: { readonly projectId: number; readonly ids: readonly number[] },
): ReturnType<typeof standingSince> {
  const gone = new Set(ids)
  return placesOf(db, projectId, ids).map((place) => {
    const attempts = finalAttempts(db, { place, until: known.scope.asOf }).filter(({ id }) => !gone.has(id))
    return { ...place, fact: standsAmong(attempts) }
  })
}
