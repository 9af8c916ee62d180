import type { CombosProblem } from './combos-model.ts'
import type { Notice } from './models.ts'
import type { NamedRow, Survey } from './combos-survey.ts'

/** How much of a model given rows answer, with nothing added: possible tuples and negative values, and those that stand in a row. */
export function heldBy(
  problem: CombosProblem,
  { base, kept, held: cover }: Survey,
): { readonly targets: number; readonly answered: number; readonly refused: readonly Notice[] } {
  const bad = problem.values.reduce((sum, all, column) => sum + all.length - problem.levels[column]!, 0)
  const held = new Set(
    kept.negative
      .map((row) => row.findIndex((value, column) => value >= problem.levels[column]!))
      .map((column, at) => `${column}=${kept.negative[at]![column]!}`),
  )
  return { targets: base.tuples + bad, answered: base.tuples - cover.open + held.size, refused: kept.notices }
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
