/** For each condition the values it may have, as bits; every condition has words of its own. */
export type Block = Int32Array

const bits = (word: number): number => {
  let rest = word - ((word >>> 1) & 0x55555555)
  rest = (rest & 0x33333333) + ((rest >>> 2) & 0x33333333)
  return (((rest + (rest >>> 4)) & 0x0f0f0f0f) * 0x01010101) >>> 24
}

/** Sets of combinations that are products of sets of values. */
export class Blocks {
  readonly #starts: readonly number[]
  readonly words: number
  readonly full: Block

  /** @param weights for each condition and each of its values, how many values of the person's it stands for */
  constructor(readonly weights: readonly (readonly number[])[]) {
    const starts = [0]
    for (const own of weights) starts.push(starts.at(-1)! + Math.ceil(own.length / 32))
    this.#starts = starts
    this.words = starts.at(-1)!
    this.full = this.of(weights.map((own) => [...own.keys()]))
  }

  get conditions(): number {
    return this.weights.length
  }

  of(values: readonly (readonly number[])[]): Block {
    const block = new Int32Array(this.words)
    values.forEach((own, condition) => {
      for (const value of own) this.add(block, condition, value)
    })
    return block
  }

  /** Lets a block have one more value of a condition. */
  add(block: Block, condition: number, value: number): void {
    block[this.#starts[condition]! + (value >> 5)]! |= 1 << (value & 31)
  }

  has(block: Block, condition: number, value: number): boolean {
    return (block[this.#starts[condition]! + (value >> 5)]! & (1 << (value & 31))) !== 0
  }

  values(block: Block, condition: number): number[] {
    return [...this.weights[condition]!.keys()].filter((value) => this.has(block, condition, value))
  }

  size(block: Block): number {
    return this.weights.reduce(
      (product, own, condition) =>
        product * own.reduce((sum, weight, value) => sum + (this.has(block, condition, value) ? weight : 0), 0),
      1,
    )
  }

  meet(a: Block, b: Block): Block | null {
    const met = new Int32Array(this.words)
    for (let condition = 0; condition < this.conditions; condition++) {
      let any = 0
      for (let word = this.#starts[condition]!; word < this.#starts[condition + 1]!; word++)
        any |= met[word] = a[word]! & b[word]!
      if (any === 0) return null
    }
    return met
  }

  contains(outer: Block, inner: Block): boolean {
    for (let word = 0; word < this.words; word++) if ((inner[word]! & ~outer[word]!) !== 0) return false
    return true
  }

  /** The block with one condition's values replaced. */
  with(block: Block, condition: number, values: Block): Block {
    const other = block.slice()
    for (let word = this.#starts[condition]!; word < this.#starts[condition + 1]!; word++) other[word] = values[word]!
    return other
  }

  /** How many conditions have all of their values. */
  free(block: Block): number {
    return this.weights.reduce((sum, own, condition) => {
      let count = 0
      for (let word = this.#starts[condition]!; word < this.#starts[condition + 1]!; word++) count += bits(block[word]!)
      return sum + (count === own.length ? 1 : 0)
    }, 0)
  }
}
