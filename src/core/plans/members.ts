import type { SourceKind, SuiteOrder } from './source.ts'

/** Stands for a pin where the sources of a case are told. */
export const pinned = 0

export interface SuiteSource {
  readonly id: number
  readonly kind: SourceKind
  /** Of a suite within the suite. */
  readonly includes: number | null
}

/** What a suite is made of; pins are of live cases. */
export interface SuiteDefinition {
  readonly id: number
  readonly pins: readonly number[]
  readonly sources: readonly SuiteSource[]
  readonly excluded: ReadonlySet<number>
}

/** Case → the sources it is in by (`pinned` for its pin), in the order of the sources. */
export type Members = ReadonlyMap<number, readonly number[]>

/**
 * Who is in a suite now: everything its pins and sources bring, each case once, less its exclusions. `casesOf` answers the live
 * cases of a branch, a rule or the best in some minutes. Suites within suites bring what is in them; one that would come round
 * to itself brings nothing a second time.
 */
export function membership(
  all: ReadonlyMap<number, SuiteDefinition>,
  casesOf: (source: SuiteSource) => readonly number[],
): (suite: number) => Members {
  const known = new Map<number, Members>()
  const open = new Set<number>()
  const broughtBy = (source: SuiteSource): Iterable<number> =>
    source.kind === 'suite' ? (source.includes === null ? [] : of(source.includes).keys()) : casesOf(source)
  function of(id: number): Members {
    const before = known.get(id)
    if (before) return before
    const suite = all.get(id)
    if (!suite || open.has(id)) return new Map()
    open.add(id)
    const members = new Map<number, number[]>()
    const add = (caseId: number, source: number) => {
      if (suite.excluded.has(caseId)) return
      const by = members.get(caseId)
      if (!by) members.set(caseId, [source])
      else if (by.at(-1) !== source) by.push(source)
    }
    for (const caseId of suite.pins) add(caseId, pinned)
    for (const source of suite.sources) for (const caseId of broughtBy(source)) add(caseId, source.id)
    open.delete(id)
    known.set(id, members)
    return members
  }
  return of
}

/** The way by which `included` would lead back to `suite`, from one to the other; `null` when it does not. */
export function wayBack(
  includes: ReadonlyMap<number, readonly number[]>,
  suite: number,
  included: number,
): readonly number[] | null {
  const seen = new Set<number>()
  const walk = (at: number, way: readonly number[]): readonly number[] | null => {
    if (at === suite) return way
    if (seen.has(at)) return null
    seen.add(at)
    for (const next of includes.get(at) ?? []) {
      const found = walk(next, [...way, next])
      if (found) return found
    }
    return null
  }
  return walk(included, [included])
}

/** What an order is told by; higher risk and importance come first, lower ranks do. */
export interface MemberFacts {
  readonly number: number
  /** 0 is the most important. */
  readonly importance: number
  readonly risk: number
  /** Where its first requirement stands in the outline, and its folder among the folders; `null`: nowhere. */
  readonly outline: number | null
  readonly folder: number | null
  /** Where somebody put it; `null`: nobody did. */
  readonly place: number | null
}

const last = Infinity
const ranks: Readonly<Record<SuiteOrder, (of: MemberFacts) => number>> = {
  hand: ({ place }) => place ?? last,
  outline: ({ outline }) => outline ?? last,
  importance: ({ importance }) => importance,
  risk: ({ risk }) => -risk,
  folder: ({ folder }) => folder ?? last,
}

/** Members in their order; alike ones by their numbers, so that a newcomer comes last among what was put by hand. */
export function inSuiteOrder(ids: Iterable<number>, order: SuiteOrder, factsOf: (id: number) => MemberFacts): number[] {
  const rank = ranks[order]
  // Fifty thousand are put in order several times faster as numbers than as objects: the rank, and the number within it.
  const byKey = new Map<number, number>()
  for (const id of ids) {
    const facts = factsOf(id)
    byKey.set(Math.min(rank(facts), mostRank) * mostNumber + facts.number, id)
  }
  return Array.from(Float64Array.from(byKey.keys()).sort(), (key) => byKey.get(key) ?? 0)
}

const [mostRank, mostNumber] = [2 ** 30, 2 ** 22]

/** A stay of a case in a suite that was written down. */
export interface Stay {
  readonly case: number
  readonly sources: readonly number[]
}

export interface MemberChanges {
  readonly came: readonly Stay[]
  readonly went: readonly number[]
  /** In as before, by other sources. */
  readonly moved: readonly Stay[]
}

/** The same of one of several suites, with the sources that cannot be followed any more, and those that can again. */
export interface SuiteChanges extends MemberChanges {
  readonly suite: number
  readonly broken: readonly number[]
  readonly mended: readonly number[]
  /** How many are in, and how long they take. */
  readonly sums: { readonly cases: number; readonly minutes: number }
}

/** What is to be written down so that the stays say who is in now. */
export function memberChanges(stays: readonly Stay[], now: Members): MemberChanges {
  const before = new Map(stays.map((stay) => [stay.case, stay.sources]))
  const told = [...now].map(([id, sources]): Stay => ({ case: id, sources }))
  return {
    came: told.filter((stay) => !before.has(stay.case)),
    went: stays.flatMap((stay) => (now.has(stay.case) ? [] : [stay.case])),
    moved: told.filter((stay) => {
      const sources = before.get(stay.case)
      return sources !== undefined && sources.join() !== stay.sources.join()
    }),
  }
}
