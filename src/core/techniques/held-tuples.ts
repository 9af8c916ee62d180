import type { CombosProblem } from './combos-model.ts'
import type { Notice } from './models.ts'
import type { NamedRow, Survey } from './combos-survey.ts'
import { OwnerSets, type SharedTargets } from './owner-sets.ts'

/** The value that stands alone among ordinary ones. */
function negativeIn(row: Int32Array, { levels }: Pick<CombosProblem, 'levels'>): string {
  const column = row.findIndex((value, at) => value >= levels[at]!)
  return `${column}=${row[column]!}`
}

/** How much of a model given rows answer, with nothing added: possible tuples and negative values, and those that stand in a row. */
export function heldBy(
  problem: CombosProblem,
  { base, kept, held: cover }: Survey,
): { readonly targets: number; readonly answered: number; readonly refused: readonly Notice[] } {
  const bad = problem.values.reduce((sum, all, column) => sum + all.length - problem.levels[column]!, 0)
  const held = new Set(kept.negative.map((row) => negativeIn(row, problem)))
  return { targets: base.tuples + bad, answered: base.tuples - cover.open + held.size, refused: kept.notices }
}

/** More looks at a row for a tuple than this take longer than it is worth to tell owners apart. */
const mostLooks = 4_000_000

/**
 * Whose rows hold which possible tuples and negative values.
 * @param owners whose each surveyed row is, ascending
 * @returns `null` where they are too many to be told apart
 */
export function ownersOfTuples(
  { base: { targets }, kept }: Survey,
  owners: readonly number[],
): readonly SharedTargets[] | null {
  if (kept.rows.length * targets.subsets.length > mostLooks) return null
  const sets = new OwnerSets(owners)
  const held = new Int32Array(targets.size)
  for (let subset = 0; subset < targets.subsets.length; subset++)
    kept.rows.forEach((row, at) => {
      const tuple = targets.tupleIn(row, subset)
      if (tuple >= 0) held[tuple] = sets.with(held[tuple]!, owners[kept.rowsAt[at]!]!)
    })
  const alone = new Map<string, number>()
  kept.negative.forEach((row, at) => {
    const value = negativeIn(row, targets)
    alone.set(value, sets.with(alone.get(value) ?? 0, owners[kept.negativeAt[at]!]!))
  })
  return sets.shared(held, alone.values())
}

/** The tuples that a row holds and no row before it does, as pairs of names and values; at most `most` of them. */
export function tuplesAdded(
  problem: CombosProblem,
  before: readonly NamedRow[],
  row: NamedRow,
  most = 300,
): NamedRow[] {
  const found: NamedRow[] = []
  for (const subset of problem.subsets) {
    const names = subset.map((column) => problem.names[column]!)
    if (found.length < most && !before.some((other) => names.every((name) => other[name] === row[name])))
      found.push(Object.fromEntries(names.map((name) => [name, row[name]!])))
  }
  return found
}
