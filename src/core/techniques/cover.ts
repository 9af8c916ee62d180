import type { Random } from '#core/lib/random.ts'
import type { Solver } from './solver.ts'
import type { Beside, Targets } from './targets.ts'

/** Tuples that need no row count as held this often from the start. */
const settled = 0x8000

/** Rows over the columns of targets, how often each target is held, and which are still open. */
export class Cover {
  readonly width: number
  /** How often each slot is held. */
  readonly counts: Uint16Array
  #cells: Int32Array
  #fixed: Uint8Array
  rows = 0
  readonly #open: Int32Array
  readonly #place: Int32Array
  open = 0

  /**
   * @param required marks the tuples that rows must hold; all when left out
   * @param slot makes many tuples one target (orbits of a group); each tuple its own when left out
   */
  constructor(
    readonly targets: Targets,
    readonly required: Uint8Array | null = null,
    readonly slot: Int32Array | null = null,
  ) {
    this.width = targets.levels.length
    const slots = slot ? slot.reduce((most, each) => Math.max(most, each + 1), 0) : targets.size
    this.counts = new Uint16Array(slots)
    this.#cells = new Int32Array(this.width * 16)
    this.#fixed = new Uint8Array(this.width * 16)
    this.#open = new Int32Array(slots)
    this.#place = new Int32Array(slots).fill(-1)
    if (required) this.counts.fill(settled)
    for (let tuple = 0; tuple < targets.size; tuple++) {
      if (required && required[tuple] !== 1) continue
      const at = slot ? slot[tuple]! : tuple
      if (this.#place[at]! >= 0) continue
      this.counts[at] = 0
      this.#enter(at)
    }
  }

  #enter(at: number): void {
    this.#place[at] = this.open
    this.#open[this.open++] = at
  }

  #leave(at: number): void {
    const last = this.#open[--this.open]!
    this.#open[this.#place[at]!] = last
    this.#place[last] = this.#place[at]!
    this.#place[at] = -1
  }

  /** One of the open slots. */
  anyOpen(random: Random): number {
    return this.#open[Math.floor(random() * this.open)]!
  }

  cell(row: number, column: number): number {
    return this.#cells[row * this.width + column]!
  }

  isFixed(row: number, column: number): boolean {
    return this.#fixed[row * this.width + column] === 1
  }

  /** Rows and their cells as they lie in memory: row after row. */
  get cells(): Int32Array {
    return this.#cells
  }

  row(row: number): number[] {
    return [...this.#cells.subarray(row * this.width, (row + 1) * this.width)]
  }

  /** Puts a row at the end; −1 leaves a cell open, `fixed` marks cells that may never change. */
  add(values: ArrayLike<number>, fixed?: ArrayLike<boolean>): number {
    if ((this.rows + 1) * this.width > this.#cells.length) {
      const cells = new Int32Array(this.#cells.length * 2)
      cells.set(this.#cells)
      this.#cells = cells
      const marks = new Uint8Array(this.#fixed.length * 2)
      marks.set(this.#fixed)
      this.#fixed = marks
    }
    const row = this.rows++
    for (let column = 0; column < this.width; column++) {
      this.#cells[row * this.width + column] = -1
      this.#fixed[row * this.width + column] = fixed?.[column] ? 1 : 0
    }
    for (let column = 0; column < this.width; column++) if (values[column]! >= 0) this.set(row, column, values[column]!)
    return row
  }

  /** Takes a row away; the last one takes its place. */
  remove(row: number): void {
    for (let column = 0; column < this.width; column++) this.set(row, column, -1)
    const last = --this.rows
    if (row === last) return
    this.#cells.copyWithin(row * this.width, last * this.width, (last + 1) * this.width)
    this.#fixed.copyWithin(row * this.width, last * this.width, (last + 1) * this.width)
  }

  set(row: number, column: number, value: number): void {
    const start = row * this.width
    const before = this.#cells[start + column]!
    if (before === value) return
    for (const beside of this.targets.beside[column]!)
      for (let at = 0; at < beside.offset.length; at++) {
        const tuple = this.#tuple(beside, at, start)
        if (tuple < 0) continue
        if (before >= 0) this.#drop(tuple + before * beside.stride[at]!)
        if (value >= 0) this.#hold(tuple + value * beside.stride[at]!)
      }
    this.#cells[start + column] = value
  }

  /** The tuple of the other columns of a subset, to which the column's own part is still to be added; −1 where one is open. */
  #tuple({ others, offset, columns, strides }: Beside, at: number, start: number): number {
    let tuple = offset[at]!
    const end = (at + 1) * others
    for (let other = at * others; other < end; other++) {
      const value = this.#cells[start + columns[other]!]!
      if (value < 0) return -1
      tuple += value * strides[other]!
    }
    return tuple
  }

  #drop(tuple: number): void {
    const at = this.slot ? this.slot[tuple]! : tuple
    if (--this.counts[at]! === 0) this.#enter(at)
  }

  #hold(tuple: number): void {
    const at = this.slot ? this.slot[tuple]! : tuple
    if (++this.counts[at]! === 1) this.#leave(at)
  }

  #countOf(tuple: number): number {
    return this.counts[this.slot ? this.slot[tuple]! : tuple]!
  }

  /** How many fewer targets would be open with another value in a cell that has one. */
  gain(row: number, column: number, value: number): number {
    const start = row * this.width
    const before = this.#cells[start + column]!
    const { counts, slot } = this
    let gain = 0
    for (const beside of this.targets.beside[column]!)
      for (let at = 0; at < beside.offset.length; at++) {
        const tuple = this.#tuple(beside, at, start)
        if (tuple < 0) continue
        const old = tuple + before * beside.stride[at]!
        const now = tuple + value * beside.stride[at]!
        if (slot && slot[old] === slot[now]) continue
        if (counts[slot ? slot[now]! : now] === 0) gain++
        if (counts[slot ? slot[old]! : old] === 1) gain--
      }
    return gain
  }

  /** For an open cell, the targets each value would newly hold, added to `gains`. */
  gains(row: number, column: number, gains: Int32Array): void {
    const start = row * this.width
    const level = this.targets.levels[column]!
    for (const beside of this.targets.beside[column]!)
      for (let at = 0; at < beside.offset.length; at++) {
        const tuple = this.#tuple(beside, at, start)
        for (let value = 0; tuple >= 0 && value < level; value++)
          gains[value]! += this.#countOf(tuple + value * beside.stride[at]!) === 0 ? 1 : 0
      }
  }

  /** Targets that only this row holds. */
  loss(row: number): number {
    const start = row * this.width
    let loss = 0
    for (let subset = 0; subset < this.targets.subsets.length; subset++) {
      const tuple = this.targets.tupleIn(this.#cells, subset, start)
      if (tuple >= 0 && this.#countOf(tuple) === 1) loss++
    }
    return loss
  }

  /** A copy of all rows, to return to. */
  snapshot(): { readonly rows: number; readonly cells: Int32Array; readonly fixed: Uint8Array } {
    return {
      rows: this.rows,
      cells: this.#cells.slice(0, this.rows * this.width),
      fixed: this.#fixed.slice(0, this.rows * this.width),
    }
  }

  restore(to: { readonly rows: number; readonly cells: Int32Array; readonly fixed: Uint8Array }): void {
    while (this.rows > to.rows) this.remove(this.rows - 1)
    for (let row = 0; row < to.rows; row++) {
      if (row === this.rows) this.add(new Int32Array(this.width).fill(-1))
      for (let column = 0; column < this.width; column++) {
        this.set(row, column, to.cells[row * this.width + column]!)
        this.#fixed[row * this.width + column] = to.fixed[row * this.width + column]!
      }
    }
  }
}

/** What a search is given: chance, rules if there are any, and how many changes it may try. */
export interface Budget {
  readonly random: Random
  readonly solver: Solver | null
  /** Rows below this one are never taken away. */
  readonly keep: number
  /** Changes of one cell that may still be looked at. */
  moves: number
}
