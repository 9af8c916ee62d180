/** Subsets of the same size that hold one column, laid out flat: for each its offset, the column's stride, and the other columns with theirs. */
export interface Beside {
  readonly others: number
  readonly offset: Int32Array
  readonly stride: Int32Array
  readonly columns: Int32Array
  readonly strides: Int32Array
}

/** More tuples than this are not counted: beyond it neither memory nor patience suffices. */
export const mostTuples = 12_000_000

export const tuplesOf = (subsets: readonly (readonly number[])[], levels: ArrayLike<number>): number =>
  subsets.reduce((sum, subset) => sum + subset.reduce((product, column) => product * levels[column]!, 1), 0)

/** All subsets of `from` with `size` members, in lexicographic order. */
export function subsetsOf(from: readonly number[], size: number): number[][] {
  const found: number[][] = []
  const chosen: number[] = []
  const choose = (start: number): void => {
    if (chosen.length === size) {
      found.push([...chosen])
      return
    }
    for (let at = start; at <= from.length - (size - chosen.length); at++) {
      chosen.push(from[at]!)
      choose(at + 1)
      chosen.pop()
    }
  }
  choose(0)
  return found
}

/** Every tuple of values that rows are to hold, numbered: the tuples of a subset of columns stand together. */
export class Targets {
  readonly offsets: Int32Array
  readonly size: number
  /** Per column, one entry for each size of subset that holds it. */
  readonly beside: readonly (readonly Beside[])[]

  constructor(
    readonly levels: Int32Array,
    readonly subsets: readonly (readonly number[])[],
  ) {
    this.offsets = new Int32Array(subsets.length + 1)
    subsets.forEach(
      (subset, at) =>
        (this.offsets[at + 1] = this.offsets[at]! + subset.reduce((product, column) => product * levels[column]!, 1)),
    )
    this.size = this.offsets[subsets.length]!
    const holding: Map<number, number[]>[] = Array.from({ length: levels.length }, () => new Map<number, number[]>())
    subsets.forEach((subset, at) => {
      for (const column of subset) {
        const same = holding[column]!.get(subset.length)
        if (same) same.push(at)
        else holding[column]!.set(subset.length, [at])
      }
    })
    this.beside = holding.map((sizes, column) => [...sizes].map(([size, held]) => this.#beside(column, size - 1, held)))
  }

  #beside(column: number, others: number, held: readonly number[]): Beside {
    const flat: Beside = {
      others,
      offset: new Int32Array(held.length),
      stride: new Int32Array(held.length),
      columns: new Int32Array(held.length * others),
      strides: new Int32Array(held.length * others),
    }
    held.forEach((subset, at) => {
      flat.offset[at] = this.offsets[subset]!
      let stride = 1
      let other = at * others
      for (const each of this.subsets[subset]!) {
        if (each === column) flat.stride[at] = stride
        else {
          flat.columns[other] = each
          flat.strides[other++] = stride
        }
        stride *= this.levels[each]!
      }
    })
    return flat
  }

  subsetOf(tuple: number): number {
    let low = 0
    let high = this.subsets.length - 1
    while (low < high) {
      const middle = (low + high + 1) >> 1
      if (this.offsets[middle]! <= tuple) low = middle
      else high = middle - 1
    }
    return low
  }

  /** The values of a tuple, written into `values` in the order of its subset's columns. */
  read(tuple: number, subset: number, values: Int32Array): void {
    let rest = tuple - this.offsets[subset]!
    const columns = this.subsets[subset]!
    for (let at = 0; at < columns.length; at++) {
      const level = this.levels[columns[at]!]!
      values[at] = rest % level
      rest = Math.floor(rest / level)
    }
  }

  /** The number of the tuple a row holds in a subset; −1 where one of its cells is open. */
  tupleIn(row: ArrayLike<number>, subset: number, from = 0): number {
    const columns = this.subsets[subset]!
    let tuple = this.offsets[subset]!
    let stride = 1
    for (let at = 0; at < columns.length; at++) {
      const value = row[from + columns[at]!]!
      if (value < 0 || value >= this.levels[columns[at]!]!) return -1
      tuple += stride * value
      stride *= this.levels[columns[at]!]!
    }
    return tuple
  }
}
