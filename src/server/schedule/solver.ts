import { createRequire } from 'node:module'
import type { LinearProgram, SolveLinear } from '#core/lib/linear.ts'

// HiGHS (Q. Huangfu, J. A. J. Hall, Mathematical Programming Computation 10, 2018), compiled to WebAssembly: 3.5 MB, so that
// only the thread that levels loads it.

/** A standard solver of linear programs. */
export async function loadSolver(): Promise<SolveLinear> {
  const { default: load } = await import('highs')
  const at = createRequire(import.meta.url).resolve('highs/runtime')
  const highs = await load({ locateFile: () => at })
  return (program) => {
    const found = highs.solve(textOf(program), { output_flag: false, mip_rel_gap: 0 })
    if (found.Status !== 'Optimal') return null
    const of = program.worth.map(() => 0)
    for (const [name, { Primal }] of Object.entries(found.Columns as Record<string, { Primal: number }>))
      of[Number(name.slice(1))] = Primal
    const prices = program.rows.map(() => 0)
    for (const row of found.Rows as { Name: string; Dual: number }[])
      prices[Number(row.Name.slice(1))] = Math.abs(row.Dual)
    return { worth: found.ObjectiveValue, of, prices }
  }
}

/** The program in the text form solvers read; a line may not be long. */
function textOf({ worth, upTo, rows, whole = 0 }: LinearProgram): string {
  const sum = (columns: readonly number[], coefficients: readonly number[]) =>
    columns
      .map((column, at) => `${coefficients[at]! < 0 ? '-' : '+'}${Math.abs(coefficients[at]!)} x${column}`)
      .join('\n')
  const own = worth.map((_, column) => column)
  return [
    'Maximize',
    `obj: ${sum(own, worth)}`,
    'Subject To',
    ...rows.map(({ columns, coefficients, most }, at) => `r${at}: ${sum(columns, coefficients)}\n<= ${most}`),
    'Bounds',
    ...own.map((column) => (upTo[column] === Infinity ? `0 <= x${column}` : `0 <= x${column} <= ${upTo[column]}`)),
    ...(whole > 0
      ? [
          'General',
          own
            .slice(0, whole)
            .map((column) => `x${column}`)
            .join('\n'),
        ]
      : []),
    'End',
  ].join('\n')
}
