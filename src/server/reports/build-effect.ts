import { sumOf } from '#core/lib/figures.ts'
import type { BuildSheet } from '#core/projects/builds-contract.ts'
import { staleByBuild } from '#core/reports/build-effect.ts'
import type { Db } from '#db/open.ts'
import { caseMinutesOf } from '#db/plans/criteria.ts'
import type { InScope } from '#server/workers/questions.ts'
import type { Knowledge } from './facts-cache.ts'

/** What the build of a scope makes stale, or would once it is offered, and the items that answer it. */
export function buildEffect(db: Db, known: Knowledge, { projectId }: InScope): BuildSheet['effect'] {
  const { stale, spared } = staleByBuild(known.slots, known.facts.builds, known.scope)
  const minutes = new Map(caseMinutesOf(db, projectId))
  return {
    stale: stale.length,
    spared,
    minutes: sumOf(stale, (slot) => minutes.get(slot.case) ?? 0),
    slots: stale.slice(0, mostSlots),
  }
}

/** A run has at most so many items. */
const mostSlots = 20_000
