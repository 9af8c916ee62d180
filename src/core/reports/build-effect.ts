import { type BuildAt, buildsInScope, offeredAfter } from '#core/runs/standing.ts'
import type { AnsweredSlot, CoverageScope } from './scope-coverage.ts'

/** What a build makes stale, or would if it were offered. */
export interface StaleByBuild {
  /** Slots whose result is current but for this build. */
  readonly stale: readonly { readonly case: number; readonly environment: number }[]
  /** How many results before it stay current because it says that it does not touch them. */
  readonly spared: number
}

/**
 * What the last build of a scope makes stale: results on builds before it that nothing else makes stale. A result that fails or
 * blocks is gained again as well as one that passes.
 * @param slots case → its slots in the scope, which ends with the build
 */
export function staleByBuild(
  slots: ReadonlyMap<number, readonly AnsweredSlot[]>,
  builds: readonly BuildAt[],
  scope: Pick<CoverageScope, 'release' | 'build'>,
): StaleByBuild {
  const all = buildsInScope(builds, scope.release, scope.build)
  const own = builds.find(({ id }) => id === scope.build)
  if (!own) return { stale: [], spared: 0 }
  const before = all.filter(({ id }) => id !== own.id)
  const positions = new Map(before.map(({ id, position }) => [id, position]))
  const stale: { case: number; environment: number }[] = []
  let spared = 0
  for (const [id, answered] of slots)
    for (const { standing, reasons, environment } of answered) {
      const position = standing ? positions.get(standing.buildId) : undefined
      if (position === undefined || reasons.some((reason) => reason !== 'older build')) continue
      if (offeredAfter(before, position, id) > 0) continue
      if (own.touches && !own.touches.has(id)) spared++
      else stale.push({ case: id, environment })
    }
  return { stale, spared }
}
