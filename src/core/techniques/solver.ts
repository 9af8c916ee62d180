import { Refusal } from '#core/lib/refusal.ts'
import type { Random } from '#core/lib/random.ts'

/** One condition of a clause: the column has one of the marked values. */
export interface Literal {
  readonly column: number
  readonly holds: Uint8Array
}

/** Never may all of its conditions hold in one row. `rule` is the rule it was written for. */
export interface Clause {
  readonly rule: number
  readonly literals: readonly Literal[]
}

/** Decisions after which a search is given up; reached only by rules made to be hard. */
const mostDecisions = 200_000

/**
 * Which rows clauses allow. Search with unit propagation after M. Davis, G. Logemann, D. Loveland, "A machine program for
 * theorem-proving", Communications of the ACM 5 (1962), over columns of several values.
 */
export class Solver {
  /** Clauses that name a column. */
  readonly naming: readonly (readonly Clause[])[]
  readonly #starts: Int32Array
  readonly #allowed: Uint8Array
  readonly #counts: Int32Array
  readonly #undo: number[] = []
  #decisions = 0

  /** `levels` are the values a column has, `usable` marks those a row may take. */
  constructor(
    readonly levels: Int32Array,
    readonly clauses: readonly Clause[],
  ) {
    this.naming = Array.from(levels, (_, column) =>
      clauses.filter(({ literals }) => literals.some((each) => each.column === column)),
    )
    this.#starts = new Int32Array(levels.length + 1)
    levels.forEach((level, column) => (this.#starts[column + 1] = this.#starts[column]! + level))
    this.#allowed = new Uint8Array(this.#starts[levels.length]!)
    this.#counts = new Int32Array(levels.length)
  }

  constrained(column: number): boolean {
    return this.naming[column]!.length > 0
  }

  /** Whether a full row keeps every clause that names the column. */
  keeps(row: ArrayLike<number>, column: number, from = 0): boolean {
    return this.naming[column]!.every((clause) => !this.#broken(clause, row, from))
  }

  #broken({ literals }: Clause, row: ArrayLike<number>, from: number): boolean {
    for (const { column, holds } of literals) {
      const value = row[from + column]!
      if (value < 0 || holds[value] !== 1) return false
    }
    return true
  }

  /**
   * A full valid row with the given cells (−1 is open) whose open cells take only values below `ordinary`; `null` when there
   * is none. Values are tried in the order of `prefer`, then by chance.
   */
  complete(
    row: ArrayLike<number>,
    ordinary: ArrayLike<number>,
    random: Random,
    prefer?: ArrayLike<number>,
  ): Int32Array | null {
    this.#undo.length = 0
    this.#decisions = 0
    for (let column = 0; column < this.levels.length; column++) {
      const given = row[column]!
      const start = this.#starts[column]!
      this.#counts[column] = given >= 0 ? 1 : ordinary[column]!
      for (let value = 0; value < this.levels[column]!; value++)
        this.#allowed[start + value] = (given >= 0 ? value === given : value < ordinary[column]!) ? 1 : 0
      if (this.#counts[column] === 0) return null
    }
    if (!this.#propagate(this.clauses) || !this.#search(random, prefer)) return null
    return Int32Array.from(this.levels, (_, column) => this.#choose(column, random, prefer))
  }

  #choose(column: number, random: Random, prefer?: ArrayLike<number>): number {
    const start = this.#starts[column]!
    const preferred = prefer?.[column] ?? -1
    if (preferred >= 0 && this.#allowed[start + preferred] === 1) return preferred
    let skip = Math.floor(random() * this.#counts[column]!)
    for (let value = 0; value < this.levels[column]!; value++)
      if (this.#allowed[start + value] === 1 && skip-- === 0) return value
    return -1
  }

  /** 1 when it holds whatever is chosen, 0 when it cannot hold, −1 when it is open. */
  #status({ column, holds }: Literal): number {
    const start = this.#starts[column]!
    let inside = 0
    for (let value = 0; value < this.levels[column]!; value++)
      if (this.#allowed[start + value] === 1 && holds[value] === 1) inside++
    return inside === 0 ? 0 : inside === this.#counts[column] ? 1 : -1
  }

  #remove(column: number, value: number): void {
    this.#allowed[this.#starts[column]! + value] = 0
    this.#counts[column]!--
    this.#undo.push(column, value)
  }

  #back(to: number): void {
    while (this.#undo.length > to) {
      const value = this.#undo.pop()!
      const column = this.#undo.pop()!
      this.#allowed[this.#starts[column]! + value] = 1
      this.#counts[column]!++
    }
  }

  /** Takes away what the clauses forbid; false on a contradiction. */
  #propagate(first: readonly Clause[]): boolean {
    const queue = [...first]
    for (let at = 0; at < queue.length; at++) {
      const forced = this.#forced(queue[at]!)
      if (forced === 'broken') return false
      if (forced === null) continue
      for (let value = 0; value < this.levels[forced.column]!; value++)
        if (forced.holds[value] === 1 && this.#allowed[this.#starts[forced.column]! + value] === 1)
          this.#remove(forced.column, value)
      if (this.#counts[forced.column] === 0) return false
      queue.push(...this.naming[forced.column]!)
    }
    return true
  }

  /** The one condition that must not come to hold, if all the others hold. */
  #forced({ literals }: Clause): Literal | 'broken' | null {
    let open: Literal | null = null
    for (const literal of literals) {
      const status = this.#status(literal)
      if (status === 0 || (status === -1 && open)) return null
      if (status === -1) open = literal
    }
    return open ?? 'broken'
  }

  #search(random: Random, prefer?: ArrayLike<number>): boolean {
    const column = this.#branch()
    if (column < 0) return true
    if (++this.#decisions > mostDecisions)
      throw new Refusal(
        'too-large',
        `The rules are too tangled to decide within ${mostDecisions.toLocaleString('en-GB')} tries. Write fewer, or split the model.`,
      )
    const here = this.#undo.length
    const value = this.#choose(column, random, prefer)
    for (let other = 0; other < this.levels[column]!; other++)
      if (other !== value && this.#allowed[this.#starts[column]! + other] === 1) this.#remove(column, other)
    if (this.#propagate(this.naming[column]!) && this.#search(random, prefer)) return true
    this.#back(here)
    this.#remove(column, value)
    if (this.#counts[column]! > 0 && this.#propagate(this.naming[column]!) && this.#search(random, prefer)) return true
    return false
  }

  /** The column of fewest values among those that still decide a clause; −1 when every clause is settled. */
  #branch(): number {
    let best = -1
    for (const { literals } of this.clauses) {
      if (literals.some((literal) => this.#status(literal) === 0)) continue
      for (const { column } of literals)
        if (this.#counts[column]! > 1 && (best < 0 || this.#counts[column]! < this.#counts[best]!)) best = column
    }
    return best
  }
}
