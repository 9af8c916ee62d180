import type { ScopeQuery } from '#core/lib/shapes.ts'

/** What a scope may name, oldest first in each list. */
export interface ScopeChoices {
  readonly releases: readonly {
    readonly id: number
    readonly name: string
    readonly state: string
    readonly position: number
  }[]
  readonly iterations: readonly {
    readonly id: number
    readonly release: number
    readonly name: string
    readonly position: number
  }[]
  readonly builds: readonly {
    readonly id: number
    readonly release: number
    readonly name: string
    readonly state: string
    readonly position: number
  }[]
  readonly environments: readonly { readonly id: number; readonly name: string; readonly isAny: boolean }[]
}

/** A scope with its names settled; `null` is open. `asOf` is `null` for now. */
export interface Scope {
  readonly release: { readonly id: number; readonly name: string; readonly position: number } | null
  readonly iteration: { readonly id: number; readonly name: string; readonly position: number } | null
  readonly build: { readonly id: number; readonly name: string; readonly position: number } | null
  readonly environment: { readonly id: number; readonly name: string } | null
  readonly asOf: number | null
}

/** The word in an address that leaves a part of the scope open, where leaving it out means the usual. */
export const openWord = 'all'

/**
 * Names to a scope. Left out, the release is the one in test (else the newest), the build its newest that is offered
 * for testing, the iteration and environment open. A name nobody knows is answered by a sentence.
 */
export function resolveScope(choices: ScopeChoices, query: ScopeQuery): { scope: Scope } | { problem: string } {
  const release =
    query.release === openWord
      ? null
      : query.release === undefined
        ? usualRelease(choices)
        : (choices.releases.find(({ name }) => name === query.release) ?? undefined)
  if (release === undefined) return { problem: `There is no release “${query.release}” in this project.` }
  const within = <T extends { release: number }>(all: readonly T[]) =>
    all.filter((each) => release === null || each.release === release.id)
  const iteration = named(within(choices.iterations), query.iteration)
  if (iteration === undefined)
    return {
      problem: `There is no iteration “${query.iteration}” in ${release ? `release ${release.name}` : 'this project'}.`,
    }
  const build =
    query.build === undefined ? usualBuild(within(choices.builds)) : named(within(choices.builds), query.build)
  if (build === undefined)
    return { problem: `There is no build “${query.build}” in ${release ? `release ${release.name}` : 'this project'}.` }
  const environment = named(choices.environments, query.environment)
  if (environment === undefined) return { problem: `There is no environment “${query.environment}” in this project.` }
  return {
    scope: {
      release,
      iteration,
      build,
      environment: environment?.id === undefined ? null : environment,
      asOf: query.asOf ?? null,
    },
  }
}

const named = <T extends { name: string }>(all: readonly T[], name: string | undefined): T | null | undefined =>
  name === undefined || name === openWord ? null : all.find((each) => each.name === name)

const usualRelease = ({ releases }: ScopeChoices) =>
  releases.find(({ state }) => state === 'In test') ?? releases.at(-1) ?? null
const usualBuild = (builds: ScopeChoices['builds']) => builds.filter(({ state }) => state === 'Offered').at(-1) ?? null

/** From when a case can be tested: as it is given by hand, else as its requirements say. */
export interface CaseTargets {
  readonly own: { readonly releasePosition: number; readonly iterationPosition: number | null } | null
  /** Targets of each of its live requirements. */
  readonly requirements: readonly Parameters<typeof isTestable>[0][]
}

/** Is a case testable in a scope? Given by hand; else from the latest of its live requirements; else always. */
export const isCaseTestable = (
  { own, requirements }: CaseTargets,
  release: number | null,
  iteration: number | null,
): boolean =>
  own ? isTestable([own], release, iteration) : requirements.every((targets) => isTestable(targets, release, iteration))

interface TargetAt {
  readonly releasePosition: number
  readonly iterationPosition: number | null
}

/** The target that comes last; nothing where there is none. */
export const latestTarget = <T extends TargetAt>(targets: readonly T[]): T | undefined =>
  targets.reduce<T | undefined>((last, each) => (last === undefined || isLater(each, last) ? each : last), undefined)

const isLater = (a: TargetAt, b: TargetAt): boolean =>
  a.releasePosition === b.releasePosition
    ? (a.iterationPosition ?? 0) > (b.iterationPosition ?? 0)
    : a.releasePosition > b.releasePosition

/** Is a requirement testable in a scope? With no target given it always is. */
export function isTestable(targets: readonly TargetAt[], release: number | null, iteration: number | null): boolean {
  if (targets.length === 0 || release === null) return true
  return targets.some((target) =>
    target.releasePosition === release
      ? target.iterationPosition === null || iteration === null || target.iterationPosition <= iteration
      : target.releasePosition < release,
  )
}
