import type { Matrix } from '#core/plans/asks-contract.ts'

/** Where one is in the matrix: row and column, from 0. */
export interface MatrixPlace {
  readonly row: number
  readonly column: number
}

const steps: Readonly<Record<string, readonly [rows: number, columns: number]>> = {
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  ArrowRight: [0, 1],
  ArrowLeft: [0, -1],
  PageDown: [12, 0],
  PageUp: [-12, 0],
}

/** Where a key leads; `null` where it leads nowhere. */
export function placeAfter(
  { row, column }: MatrixPlace,
  key: string,
  { rows, columns }: { readonly rows: number; readonly columns: number },
): MatrixPlace | null {
  const within = (at: number, of: number) => Math.max(0, Math.min(of - 1, at))
  if (key === 'Home') return { row: 0, column }
  if (key === 'End') return { row: within(rows, rows), column }
  const step = steps[key]
  return step ? { row: within(row + step[0], rows), column: within(column + step[1], columns) } : null
}

/** A column’s head: the values it stands for a line each, or its name where it stands for none. */
export function headOf({ name, values }: Pick<Matrix['columns'][number], 'name' | 'values'>): readonly string[] {
  const all = Object.values(values)
  return all.length === 0 ? [name] : all
}

/** Columns in groups of a factor: those with the same value of it stand together, in the order their values first come. */
export function groupedBy(columns: Matrix['columns'], factor: string | null): number[] {
  const order = columns.map((_, at) => at)
  if (factor === null) return order
  const values = [...new Set(columns.map((column) => column.values[factor] ?? ''))]
  const rank = (at: number) => values.indexOf(columns[at]?.values[factor] ?? '')
  return order.sort((a, b) => rank(a) - rank(b) || a - b)
}

export const cellKey = (caseId: number, environment: number): string => `${caseId}:${environment}`
export function cellIn(key: string): { case: number; environment: number } {
  const [id = 0, environment = 0] = key.split(':').map(Number)
  return { case: id, environment }
}
