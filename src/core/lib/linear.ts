/** A linear program in its plainest form: maximise `worth`·x where every row of Σ coefficients·x is at most `most`, 0 ≤ x ≤ `upTo`. */
export interface LinearProgram {
  /** What a unit of each column is worth. */
  readonly worth: readonly number[]
  /** The most of each column; `Infinity` for no limit. */
  readonly upTo: readonly number[]
  readonly rows: readonly LinearRow[]
  /** So many of the first columns are whole numbers. */
  readonly whole?: number
}
export interface LinearRow {
  readonly columns: readonly number[]
  readonly coefficients: readonly number[]
  readonly most: number
}
interface LinearOptimum {
  readonly worth: number
  /** How much of each column. */
  readonly of: readonly number[]
  /** What one more of each row's `most` would be worth; nothing where columns are whole. */
  readonly prices: readonly number[]
}

/** Solves a linear program to its optimum; `null` where it could not. A standard solver stands behind it. */
export type SolveLinear = (program: LinearProgram) => LinearOptimum | null
