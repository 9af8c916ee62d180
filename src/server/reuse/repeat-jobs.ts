import { likeGroups, nearDuplicates } from '#core/reuse/near-duplicates.ts'
import { repeatedSteps, stepSense } from '#core/reuse/repeats.ts'
import { liveSteps, type LiveSteps } from '#db/reuse/repeats.ts'
import type { Db } from '#db/open.ts'
import { doing, type Doing } from '#server/workers/job.ts'
import { alikeJob, repeatsJob, sameJob } from '#server/workers/questions.ts'

/** A few seconds of comparing; more is told as not all. */
const mostComparisons = 2_000_000

/** Reading every step of a project and comparing them: on the thread of the long reads. */
export function repeatJobs(db: Db): Doing[] {
  return [
    doing(repeatsJob, ({ projectId, caseId, limit }) => {
      const cases = liveSteps(db, projectId)
      const byId = new Map(cases.map((each) => [each.id, each]))
      const found = repeatedSteps(cases, { most: Infinity }).filter(
        ({ places }) => caseId === null || places.some(({ id }) => id === caseId),
      )
      return {
        total: found.length,
        rows: found
          .slice(0, limit)
          .map(({ length, saved, places }) => ({ length, saved, places, steps: stepsAt(byId, places[0], length) })),
      }
    }),
    doing(sameJob, ({ projectId, caseId, at, length }) => {
      const cases = liveSteps(db, projectId)
      const wanted = (cases.find(({ id }) => id === caseId)?.steps ?? []).slice(at, at + length).map(stepSense)
      if (wanted.length < length) return []
      return cases
        .filter(({ id }) => id !== caseId)
        .flatMap(({ id, title, steps }) => {
          const there = placeOf(steps.map(stepSense), wanted)
          return there < 0 ? [] : [{ id, title, at: there }]
        })
    }),
    doing(alikeJob, ({ projectId, atLeast, limit }) => {
      const { pairs, whole } = nearDuplicates(liveSteps(db, projectId), {
        atLeast,
        most: 5000,
        comparisons: mostComparisons,
      })
      const groups = likeGroups(pairs)
      return { total: groups.length, whole, rows: groups.slice(0, limit) }
    }),
  ]
}

const placeOf = (all: readonly string[], wanted: readonly string[]): number =>
  all.findIndex((_, at) => wanted.every((each, offset) => all[at + offset] === each))

const stepsAt = (
  byId: ReadonlyMap<number, LiveSteps>,
  place: { id: number; at: number } | undefined,
  length: number,
) => (place ? (byId.get(place.id)?.steps ?? []).slice(place.at, place.at + length) : [])
