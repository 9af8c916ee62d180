import { seeded } from '#core/lib/random.ts'
import { binaryPairsSize } from './arrays.ts'
import type { CombosProblem } from './combos-model.ts'
import { constructions } from './constructions.ts'
import { type Budget, Cover } from './cover.ts'
import type { Notice } from './models.ts'
import { addRows, dropIdle, fillRow, shrink } from './search.ts'
import { Targets } from './targets.ts'
import { type ExistingRow, type NamedRow, type Ground, type Kept, survey, keptCover } from './combos-survey.ts'

export interface CombosAnswer {
  /** Existing rows first, completed; then new ones, each the one that adds most; then negative ones. */
  readonly rows: readonly NamedRow[]
  readonly tuples: number
  readonly infeasible: number
  readonly covered: number
  readonly existing: { readonly rows: number; readonly covered: number }
  readonly notices: readonly Notice[]
  /** For each row what it adds to those before it. */
  readonly adds: readonly number[]
  /** No array can have fewer ordinary rows, as far as is proved here; with existing rows, none that keeps them. */
  readonly least: number
  /** How many rows at the end hold a negative value. */
  readonly negative: number
}

export interface CombosProgress {
  readonly rows: number
  /** Share of the tuples that the rows hold: 1 from the first full cover on. */
  readonly covered: number
  /** The rows as they stand; there only when they are full and better than before. */
  readonly answer?: CombosAnswer
}

export interface CombosOptions {
  readonly existing?: readonly ExistingRow[]
  readonly seed?: number
  readonly moves?: number
}

/** Starts that have at most this many times the rows of the best are worth making smaller, and so many of them. */
const nearEnough = 1.07
const mostStarts = 3

/** Work of one default search, in tuples looked at; a few seconds on an ordinary machine. */
const defaultWork = 2.4e8

/** Changes of a cell a search may try by default: fewer where each one touches more tuples. */
function defaultMoves({ subsets, levels }: CombosProblem): number {
  const touched = subsets.reduce((sum, { length }) => sum + length * length, 0) / levels.length
  return Math.round(Math.min(4e6, defaultWork / Math.max(1, touched)))
}

/**
 * Rows that hold every possible tuple of the asked strengths, existing ones first and unchanged. The generator yields while
 * it works and may be dropped at any time; from the first full answer on each further one is better. The same model, seed
 * and number of moves give the same rows on any machine. Rows come from algebraic constructions where one fits
 * (`constructions.ts`), else from a greedy start (`search.ts`), and are then made fewer by tabu search.
 */
export function* combine(
  problem: CombosProblem,
  options: CombosOptions = {},
  known = survey(problem, options.existing ?? [], options.seed),
): Generator<CombosProgress, CombosAnswer> {
  const { base, kept, held } = known
  const least = leastRows(problem, base, held)
  const search: Search = {
    problem,
    base,
    kept,
    least,
    random: seeded(options.seed ?? 1),
    moves: options.moves ?? defaultMoves(problem),
    finish: (cover) => answerOf(problem, base, { cover, kept, before: base.tuples - held.open, least }),
  }
  let best = keptCover(base, kept)
  yield* complete(search, best, 1)
  yield { ...progressOf(search, best), answer: search.finish(best) }
  const found: Cover[] = []
  for (const cover of starts(search, () => best)) {
    if (!(cover instanceof Cover)) {
      yield cover
      continue
    }
    found.push(cover)
    if (cover.rows >= best.rows) continue
    best = cover
    yield { ...progressOf(search, best), answer: search.finish(best) }
  }
  // Which start becomes smallest cannot be told from its size alone, so the budget is shared among those that are near.
  const near = found
    .filter(({ rows }) => rows <= best.rows * nearEnough)
    .sort((a, b) => a.rows - b.rows)
    .slice(0, mostStarts)
  for (const cover of near) {
    const moves = search.moves / near.length
    const budget: Budget = { random: search.random, solver: problem.solver, keep: kept.rows.length, moves }
    for (const { better } of shrink(cover, budget, least, moves / 2)) {
      const improved = better && (cover === best || cover.rows < best.rows)
      yield improved ? { ...progressOf(search, cover), answer: search.finish(cover) } : { rows: best.rows, covered: 1 }
    }
    if (cover.rows < best.rows) best = cover
    if (best.rows <= least) break
  }
  return search.finish(best)
}

/** What a search goes by. */
interface Search extends Pick<ReturnType<typeof survey>, 'base' | 'kept'> {
  readonly problem: CombosProblem
  /** No answer can have fewer rows. */
  readonly least: number
  readonly random: ReturnType<typeof seeded>
  /** How long to search, in changes tried. */
  readonly moves: number
  readonly finish: (cover: Cover) => CombosAnswer
}

const progressOf = ({ base }: Search, { rows, open }: Cover): CombosProgress => ({
  rows,
  covered: base.tuples === 0 ? 1 : 1 - open / base.tuples,
})

/** Fills the rows of a cover and adds more until it holds all tuples; those that hold none of their own go. */
function* complete(search: Search, cover: Cover, tries: number): Generator<CombosProgress> {
  const { problem, random, kept } = search
  const filling = { cover, random, solver: problem.solver, weights: problem.weights, ordinary: problem.levels }
  for (let row = 0; row < cover.rows; row++) fillRow(filling, row)
  for (const _ of addRows(filling, tries)) yield progressOf(search, cover)
  dropIdle(cover, kept.rows.length)
}

/** Rows are tried more often where a row is cheap to weigh. */
function triesOf({ subsets, levels }: CombosProblem): number {
  const tuples = subsets.map((subset) => subset.reduce((product, column) => product * levels[column]!, 1))
  const work = Math.max(
    1,
    tuples.reduce((sum, own) => sum + own, 0),
  )
  return Math.max(1, Math.min(20, Math.floor(3e6 / work)))
}

/** Full covers to begin from, each with the progress on the way to it: by every construction that fits, then by none. */
function* starts(search: Search, best: () => Cover): Generator<CombosProgress | Cover> {
  const { problem, random, moves, least, base, kept } = search
  const { levels, strength, solver } = problem
  if (moves <= 0) return
  const algebraic = problem.plain
    ? byLevels(levels, (sorted) => constructions({ levels: sorted, strength, random, moves }))
    : []
  const tries = triesOf(problem)
  for (const candidate of [...algebraic, none()]) {
    if (best().rows <= least) return
    let step = candidate.next()
    for (; !step.done; step = candidate.next()) yield progressOf(search, best())
    const cover = keptCover(base, kept)
    for (const row of step.value ?? []) cover.add(solver ? allowed(problem, row, random) : row)
    yield* complete(search, cover, tries)
    yield cover
  }
}

function* none(): Generator<void, null> {
  yield
  return null
}

/** Constructions want the columns with most values first; their rows are put back into the model's order. */
function byLevels(
  levels: Int32Array,
  build: (sorted: Int32Array) => Generator<void, number[][] | null>[],
): Generator<void, number[][] | null>[] {
  const order = [...levels.keys()].sort((a, b) => levels[b]! - levels[a]! || a - b)
  const back = function* (inner: Generator<void, number[][] | null>): Generator<void, number[][] | null> {
    const rows = yield* inner
    return (
      rows?.map((row) => {
        const own = new Array<number>(row.length)
        // A construction may count more values than a column has; such a cell is free.
        order.forEach((column, at) => (own[column] = row[at]! < levels[column]! ? row[at]! : -1))
        return own
      }) ?? null
    )
  }
  return build(Int32Array.from(order, (column) => levels[column]!)).map(back)
}

/** A row of a construction made valid: as it is where the rules allow it, else with as few cells changed as the solver finds. */
function allowed({ solver, levels }: CombosProblem, row: number[], random: () => number): ArrayLike<number> {
  const open = new Int32Array(row.length).fill(-1)
  return solver!.complete(row, levels, random) ? row : (solver!.complete(open, levels, random, row) ?? open)
}

/**
 * A proved lower bound. No row holds two tuples of the same columns, so the rows with one value of a column are at least as
 * many as the open tuples with that value in any subset of columns; these add up over the values. For pairs of two-valued
 * columns the exact number is known.
 */
function leastRows(
  { levels, subsets, strength, plain, solver }: CombosProblem,
  { targets, required }: Ground,
  counting: Cover,
): number {
  const starts = levels.reduce<number[]>((sums, level) => [...sums, sums.at(-1)! + level], [0])
  const needed = new Int32Array(starts.at(-1)!)
  const values = new Int32Array(levels.length)
  for (const [subset, columns] of subsets.entries()) {
    const own = new Map<number, number>()
    for (let tuple = targets.offsets[subset]!; tuple < targets.offsets[subset + 1]!; tuple++) {
      if ((required && required[tuple] !== 1) || counting.counts[tuple] !== 0) continue
      targets.read(tuple, subset, values)
      columns.forEach((column, at) =>
        own.set(starts[column]! + values[at]!, (own.get(starts[column]! + values[at]!) ?? 0) + 1),
      )
    }
    for (const [value, count] of own) needed[value] = Math.max(needed[value]!, count)
  }
  const most = Math.max(
    0,
    ...Array.from(levels, (_, column) =>
      needed.subarray(starts[column]!, starts[column + 1]!).reduce((sum, each) => sum + each, 0),
    ),
  )
  // Open cells of existing rows may still take some of these tuples in.
  const partial = Array.from({ length: counting.rows }, (_, row) => counting.row(row)).filter((row) =>
    row.includes(-1),
  ).length
  const exact =
    strength === 2 &&
    plain &&
    !solver &&
    counting.rows === 0 &&
    levels.every((level) => level === 2) &&
    levels.length > 1
      ? binaryPairsSize(levels.length)
      : 0
  return Math.max(exact, counting.rows + Math.max(0, most - partial))
}

/** Rows in the order in which each adds most, by lazy evaluation: what a row adds can only become less. */
function inOrder(
  targets: Targets,
  required: Uint8Array | null,
  rows: readonly number[][],
  kept: number,
): { readonly rows: number[][]; readonly adds: number[] } {
  const held = new Uint8Array(targets.size)
  if (required) required.forEach((mark, tuple) => (held[tuple] = mark === 1 ? 0 : 1))
  const gain = (row: readonly number[], take: boolean): number => {
    let sum = 0
    for (let subset = 0; subset < targets.subsets.length; subset++) {
      const tuple = targets.tupleIn(row, subset)
      if (tuple < 0 || held[tuple] === 1) continue
      sum++
      if (take) held[tuple] = 1
    }
    return sum
  }
  const adds = rows.slice(0, kept).map((row) => gain(row, true))
  const waiting = rows
    .slice(kept)
    .map((row, at) => ({ row, at, gain: gain(row, false) }))
    .sort((a, b) => b.gain - a.gain || a.at - b.at)
  const ordered = rows.slice(0, kept)
  while (waiting.length > 0) {
    const first = waiting[0]!
    first.gain = gain(first.row, false)
    let place = 0
    while (
      place + 1 < waiting.length &&
      (waiting[place + 1]!.gain > first.gain ||
        (waiting[place + 1]!.gain === first.gain && waiting[place + 1]!.at < first.at))
    ) {
      waiting[place] = waiting[place + 1]!
      place++
    }
    waiting[place] = first
    if (place > 0) continue
    waiting.shift()
    adds.push(gain(first.row, true))
    ordered.push(first.row)
  }
  return { rows: ordered, adds }
}

interface Found {
  readonly cover: Cover
  readonly kept: Kept
  readonly before: number
  readonly least: number
}

function answerOf(
  problem: CombosProblem,
  { targets, required, tuples, infeasible }: Ground,
  { cover, kept, before, least }: Found,
): CombosAnswer {
  const { names, values } = problem
  const weighed = problem.weights.some(Boolean)
    ? heavier(problem, cover, kept.rows.length)
    : Array.from({ length: cover.rows }, (_, row) => cover.row(row))
  const { rows, adds } = inOrder(targets, required, weighed, kept.rows.length)
  const negative = negativeRows(problem, kept, rows)
  const named = (row: ArrayLike<number>): NamedRow =>
    Object.fromEntries(names.map((name, column) => [name, values[column]![row[column]!]!]))
  return {
    rows: [...rows.map(named), ...negative.rows.map(named)],
    tuples,
    infeasible,
    covered: tuples - cover.open,
    existing: { rows: kept.rows.length + kept.negative.length, covered: before },
    notices: [...problem.notices, ...kept.notices, ...negative.notices],
    adds: [...adds, ...negative.rows.map(() => 0)],
    least,
    negative: negative.rows.length,
  }
}

/** Cells that hold nothing alone take their heaviest value. */
function heavier({ weights, solver }: CombosProblem, cover: Cover, keep: number): number[][] {
  const kept = cover.snapshot()
  for (let row = keep; row < cover.rows; row++)
    for (let column = 0; column < cover.width; column++) {
      const own = weights[column]
      if (!own) continue
      const better = own
        .map((weight, value) => ({ weight, value }))
        .filter(({ weight }) => weight > own[cover.cell(row, column)]!)
        .sort((a, b) => b.weight - a.weight)
      const value = better.find((each) => {
        const changed = cover.row(row)
        changed[column] = each.value
        return cover.gain(row, column, each.value) >= 0 && (!solver || solver.keeps(changed, column))
      })
      if (value) cover.set(row, column, value.value)
    }
  const rows = Array.from({ length: cover.rows }, (_, row) => cover.row(row))
  cover.restore(kept)
  return rows
}

/** One row for each negative value, the rest of it taken from the ordinary rows in turn. */
function negativeRows(
  { names, values, levels, solver }: CombosProblem,
  kept: Kept,
  rows: readonly number[][],
): { readonly rows: readonly ArrayLike<number>[]; readonly notices: readonly Notice[] } {
  const found: ArrayLike<number>[] = []
  const notices: Notice[] = []
  const like = (at: number): ArrayLike<number> => rows[at % Math.max(1, rows.length)] ?? new Int32Array(names.length)
  const random = seeded(1)
  for (const row of kept.negative) {
    const prefer = like(found.length)
    found.push(
      solver?.complete(row, levels, random, prefer) ??
        row.map((value, column) => (value >= 0 ? value : prefer[column]!)),
    )
  }
  values.forEach((all, column) => {
    for (let value = levels[column]!; value < all.length; value++) {
      if (kept.negative.some((row) => row[column] === value)) continue
      const asked = new Int32Array(names.length).fill(-1)
      asked[column] = value
      const prefer = like(found.length)
      const row = solver
        ? solver.complete(asked, levels, random, prefer)
        : asked.map((given, at) => (given >= 0 ? given : prefer[at]!))
      if (row) found.push(row)
      else
        notices.push({
          at: `negative.${names[column]!}[${value - levels[column]!}]`,
          message: `No valid row has ${names[column]!} ${all[value]!}: the rules exclude it.`,
        })
    }
  })
  return { rows: found, notices }
}

/** Runs a search to its end. */
export function finished<T>(search: Generator<unknown, T>): T {
  for (;;) {
    const step = search.next()
    if (step.done) return step.value
  }
}
