import type { LinearProgram, SolveLinear } from '#core/lib/linear.ts'

/** Items as numbers: each covers some things, each thing is worth something. */
export interface Problem {
  readonly minutes: Float64Array
  readonly covers: readonly Int32Array[]
  readonly worth: Float64Array
  readonly budget: number
}

export interface RelaxedCover {
  /** No choice within the budget is worth more. */
  readonly bound: number
  /** How much of each able item is chosen, 0…1. */
  readonly share: readonly number[]
}

/** More than this is not given to a solver: it would take longer than the answer may. */
const mostTies = 60_000

/**
 * Budgeted coverage as a linear program: a thing is covered as far as the items that cover it are chosen. The bound is what the
 * prices of things and minutes prove, so that it holds however exactly the solver found them.
 */
export function relaxedCover(of: Problem, able: readonly number[], solve: SolveLinear): RelaxedCover | null {
  if (able.reduce((sum, item) => sum + of.covers[item]!.length, 0) > mostTies) return null
  const { program, things } = programOf(of, able)
  const found = solve(program)
  if (!found) return null
  const { prices } = found
  const minute = prices[things.length] ?? 0
  const price = new Map(things.map((thing, row) => [thing, prices[row]!]))
  const bound =
    minute * of.budget +
    things.reduce((sum, thing, row) => sum + Math.max(0, of.worth[thing]! - prices[row]!), 0) +
    able.reduce((sum, item) => {
      const gain = of.covers[item]!.reduce((all, thing) => all + (price.get(thing) ?? 0), 0)
      return sum + Math.max(0, gain - minute * of.minutes[item]!)
    }, 0)
  return { bound: bound * (1 + 1e-12), share: found.of.slice(0, able.length) }
}

/** The same with whole items: which of them are the best choice there is. */
export function exactCover(of: Problem, able: readonly number[], solve: SolveLinear): number[] | null {
  const { program } = programOf(of, able)
  const found = solve({ ...program, whole: able.length })
  return found && able.filter((_, column) => found.of[column]! > 0.5)
}

/** Columns: each able item, then each thing; rows: each thing, then the budget. */
function programOf(
  of: Problem,
  able: readonly number[],
): { readonly program: LinearProgram; readonly things: readonly number[] } {
  const by = new Map<number, number[]>()
  able.forEach((item, column) => {
    for (const thing of of.covers[item]!) {
      const columns = by.get(thing)
      if (columns) columns.push(column)
      else by.set(thing, [column])
    }
  })
  const things = [...by.keys()]
  return {
    things,
    program: {
      worth: [...able.map(() => 0), ...things.map((thing) => of.worth[thing]!)],
      upTo: [...able, ...things].map(() => 1),
      rows: [
        ...things.map((thing, row) => {
          const columns = by.get(thing) ?? []
          return {
            columns: [able.length + row, ...columns],
            coefficients: [1, ...columns.map(() => -1)],
            most: 0,
          }
        }),
        {
          columns: able.map((_, column) => column),
          coefficients: able.map((item) => of.minutes[item]!),
          most: of.budget,
        },
      ],
    },
  }
}
