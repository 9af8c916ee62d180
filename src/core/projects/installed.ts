/** What the build of an attempt was taken from: its run, what stood in its environment, or who executed it said so. */
export const buildSaidBy = ['run', 'installation', 'person'] as const
type BuildSaidBy = (typeof buildSaidBy)[number]

/** From an instant on a build stands in an environment, until the next that is said; `null`: none is known. */
export interface Installed {
  readonly id: number
  readonly fromAt: number
  readonly build: number | null
}

/** What stood in an environment at an instant, of what was said of it in any order; nothing where nothing was said. */
export function installedAt(all: readonly Installed[], at: number): Installed | null {
  let last: Installed | null = null
  for (const each of all) if (each.fromAt <= at && (last === null || each.fromAt > last.fromAt)) last = each
  return last
}

/** The time in which what stands there may differ once an entry is said, corrected or taken back: until the next that stays. */
export function timeTouched(
  rest: readonly Installed[],
  entries: readonly (Pick<Installed, 'fromAt'> | null)[],
): { readonly from: number; readonly until: number | null } {
  const own = entries.flatMap((entry) => entry?.fromAt ?? [])
  const last = Math.max(...own)
  const later = rest.filter(({ fromAt }) => fromAt > last).map(({ fromAt }) => fromAt)
  return { from: Math.min(...own), until: later.length === 0 ? null : Math.min(...later) }
}

/** An attempt as far as its build goes. */
export interface Placed {
  readonly id: number
  readonly startedAt: number
  readonly build: number
  readonly buildBy: BuildSaidBy
  /** The build that its run had expected; `null` where it is of none. */
  readonly ofRun: number | null
}
export interface Move {
  readonly id: number
  readonly from: number
  readonly to: number
  readonly buildBy: 'run' | 'installation'
}

/**
 * Attempts of an environment that go to another build by what is said of it. What a person said of theirs stays; where none is known
 * to have stood, an attempt goes to the build of its run, or stays where it is of none.
 */
export function movesBy(all: readonly Installed[], attempts: readonly Placed[]): Move[] {
  return attempts.flatMap(({ id, startedAt, build, buildBy, ofRun }): Move[] => {
    if (buildBy === 'person') return []
    const installed = installedAt(all, startedAt)?.build ?? null
    // What came from the run before anything was said of the place stays, whatever the run is on by now.
    const to = installed ?? (buildBy === 'installation' ? ofRun : build) ?? build
    return to === build ? [] : [{ id, from: build, to, buildBy: installed === null ? 'run' : 'installation' }]
  })
}
