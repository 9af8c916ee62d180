import type { Random } from '#core/lib/random.ts'
import type { Budget, Cover } from './cover.ts'
import type { Solver } from './solver.ts'

/** Between two points where a search may be shown, or stopped. */
const movesBetweenLooks = 20_000
/** How long a changed cell stays as it is, in moves: 1 … this. */
const longestRest = 12

const shuffled = (size: number, random: Random): Int32Array => {
  const order = Int32Array.from({ length: size }, (_, at) => at)
  for (let at = size - 1; at > 0; at--) {
    const other = Math.floor(random() * (at + 1))
    const kept = order[at]!
    order[at] = order[other]!
    order[other] = kept
  }
  return order
}

/** How much heavier a value is than others, used only between values that cover the same. */
export type Weights = readonly (readonly number[] | undefined)[]

interface Filling {
  readonly cover: Cover
  readonly random: Random
  readonly solver: Solver | null
  readonly weights: Weights
  /** Values a row may take: those below. */
  readonly ordinary: ArrayLike<number>
}

/**
 * Fills the open cells of a row, each with the value that holds most open targets with the cells before it.
 * Source: D. M. Cohen, S. R. Dalal, M. L. Fredman, G. C. Patton, "The AETG system", IEEE Transactions on Software
 * Engineering 23 (1997), with rules kept by always knowing one valid completion of the row.
 */
export function fillRow({ cover, random, solver, weights, ordinary }: Filling, row: number): boolean {
  const { width } = cover
  let witness = solver ? solver.complete(cover.row(row), ordinary, random) : null
  if (solver && !witness) return false
  const gains = new Int32Array(Math.max(...Array.from(ordinary)))
  for (const column of shuffled(width, random)) {
    if (cover.cell(row, column) >= 0) continue
    const level = ordinary[column]!
    gains.fill(0)
    cover.gains(row, column, gains)
    const order = shuffled(level, random).sort(
      (a, b) => gains[b]! - gains[a]! || (weights[column]?.[b] ?? 1) - (weights[column]?.[a] ?? 1),
    )
    for (const value of order) {
      if (!solver?.constrained(column) || witness?.[column] === value) {
        cover.set(row, column, value)
        break
      }
      const tried = cover.row(row)
      tried[column] = value
      const other = solver.complete(tried, ordinary, random, witness ?? undefined)
      if (!other) continue
      witness = other
      cover.set(row, column, value)
      break
    }
  }
  return true
}

/** Adds rows until nothing is open: each the best of `tries` greedy ones. */
export function* addRows(filling: Filling, tries: number): Generator<void> {
  const { cover, random } = filling
  const values = new Int32Array(cover.width)
  while (cover.open > 0) {
    const before = cover.open
    let best: { readonly open: number; readonly row: number[] } | null = null
    for (let at = 0; at < tries; at++) {
      const tuple = cover.anyOpen(random)
      const subset = cover.targets.subsetOf(tuple)
      cover.targets.read(tuple, subset, values)
      const start = new Int32Array(cover.width).fill(-1)
      cover.targets.subsets[subset]!.forEach((column, each) => (start[column] = values[each]!))
      const row = cover.add(start)
      if (fillRow(filling, row) && (!best || cover.open < best.open)) best = { open: cover.open, row: cover.row(row) }
      cover.remove(row)
    }
    if (!best || best.open === before) throw new RangeError('an open target that no row can hold was asked for')
    cover.add(best.row)
    yield
  }
}

/** Takes away every row from `keep` on that alone holds nothing. */
export function dropIdle(cover: Cover, keep: number): void {
  for (let row = cover.rows - 1; row >= keep; row--) if (cover.loss(row) === 0) cover.remove(row)
}

/** The row from `keep` on whose loss is least; −1 when there is none. */
function weakest(cover: Cover, random: Random, keep: number): number {
  let best = -1
  let least = Infinity
  const free = cover.rows - keep
  const from = Math.floor(random() * free)
  for (let step = 0; step < free; step++) {
    const row = keep + ((from + step) % free)
    const loss = cover.loss(row)
    if (loss >= least) continue
    least = loss
    best = row
  }
  return best
}

/**
 * Moves cells until every target is held, by tabu search: of all changes of one cell that bring in an open tuple, the best is
 * made, and a cell just changed rests. True when nothing is open any more, false when the moves are spent.
 * Source: K. J. Nurmela, "Upper bounds for covering arrays by tabu search", Discrete Applied Mathematics 138 (2004).
 */
export function* repair(
  cover: Cover,
  budget: Budget,
  limit: number,
  tupleOf: (slot: number) => number = (slot) => slot,
): Generator<void, boolean> {
  const { random } = budget
  const resting = new Int32Array(cover.rows * cover.width)
  const values = new Int32Array(cover.width)
  let left = Math.min(limit, budget.moves)
  let nextLook = left - movesBetweenLooks
  let least = cover.open
  for (let now = 1; cover.open > 0 && left > 0; now++) {
    const tuple = tupleOf(cover.anyOpen(random))
    const subset = cover.targets.subsetOf(tuple)
    cover.targets.read(tuple, subset, values)
    const columns = cover.targets.subsets[subset]!
    let best = -1
    let bestColumn = -1
    let bestValue = -1
    let bestGain = -Infinity
    let ties = 0
    let looked = 1
    for (let row = 0; row < cover.rows; row++) {
      const at = singleMiss(cover, row, columns, values)
      if (at < 0 || cover.isFixed(row, columns[at]!) || !allows(cover, budget.solver, row, columns[at]!, values[at]!))
        continue
      const gain = cover.gain(row, columns[at]!, values[at]!)
      looked++
      if (resting[row * cover.width + columns[at]!]! > now && cover.open - gain >= least) continue
      ties = gain > bestGain ? 1 : ties + 1
      if (gain < bestGain || (gain === bestGain && random() * ties >= 1)) continue
      best = row
      bestColumn = columns[at]!
      bestValue = values[at]!
      bestGain = gain
    }
    left -= looked
    budget.moves -= looked
    if (best >= 0) {
      cover.set(best, bestColumn, bestValue)
      resting[best * cover.width + bestColumn] = now + 1 + Math.floor(random() * longestRest)
    } else force(cover, budget, columns, values)
    if (cover.open < least) least = cover.open
    if (left < nextLook) {
      nextLook = left - movesBetweenLooks
      yield
    }
  }
  return cover.open === 0
}

/** Which of the columns is the only one whose cell differs; −1 when none or several do. */
function singleMiss(cover: Cover, row: number, columns: readonly number[], values: Int32Array): number {
  let miss = -1
  for (let at = 0; at < columns.length; at++) {
    if (cover.cell(row, columns[at]!) === values[at]) continue
    if (miss >= 0) return -1
    miss = at
  }
  return miss
}

function allows(cover: Cover, solver: Solver | null, row: number, column: number, value: number): boolean {
  if (!solver?.constrained(column)) return true
  const at = row * cover.width + column
  const before = cover.cells[at]!
  cover.cells[at] = value
  const kept = solver.keeps(cover.cells, column, row * cover.width)
  cover.cells[at] = before
  return kept
}

/** Puts a tuple into some row that may take it, whatever that costs. */
function force(cover: Cover, { random, solver }: Budget, columns: readonly number[], values: Int32Array): void {
  const from = Math.floor(random() * cover.rows)
  for (let step = 0; step < cover.rows; step++) {
    const row = (from + step) % cover.rows
    if (columns.some((column, at) => cover.isFixed(row, column) && cover.cell(row, column) !== values[at])) continue
    if (!solver) {
      columns.forEach((column, at) => cover.set(row, column, values[at]!))
      return
    }
    const asked = Int32Array.from({ length: cover.width }, (_, column) =>
      cover.isFixed(row, column) ? cover.cell(row, column) : -1,
    )
    columns.forEach((column, at) => (asked[column] = values[at]!))
    const full = solver.complete(asked, cover.targets.levels, random, cover.row(row))
    if (!full) continue
    full.forEach((value, column) => cover.set(row, column, value))
    return
  }
}

/**
 * Takes rows away one by one and repairs what that opened, until the least possible number is reached or the moves are
 * spent. Between two yields that say `better` the cover may have open targets; at the end it has none.
 */
export function* shrink(
  cover: Cover,
  budget: Budget,
  least: number,
  patience: number,
): Generator<{ readonly better: boolean }> {
  while (budget.moves > 0 && cover.rows > least) {
    const kept = cover.snapshot()
    const row = weakest(cover, budget.random, budget.keep)
    if (row < 0) return
    cover.remove(row)
    const steps = repair(cover, budget, patience)
    let step = steps.next()
    for (; !step.done; step = steps.next()) yield { better: false }
    if (step.value) yield { better: true }
    else cover.restore(kept)
  }
}
