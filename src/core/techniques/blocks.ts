import { Refusal } from '#core/lib/refusal.ts'

/** For each condition the values it may have, as bits; every condition has words of its own. */
export type Block = Int32Array

const mostSteps = 400_000

const bits = (word: number): number => {
  let rest = word - ((word >>> 1) & 0x55555555)
  rest = (rest & 0x33333333) + ((rest >>> 2) & 0x33333333)
  return (((rest + (rest >>> 4)) & 0x0f0f0f0f) * 0x01010101) >>> 24
}

/** Sets of combinations that are products of sets of values, and what is left of one when others are taken away. */
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
      for (const value of own) block[this.#starts[condition]! + (value >> 5)]! |= 1 << (value & 31)
    })
    return block
  }

  has(block: Block, condition: number, value: number): boolean {
    return (block[this.#starts[condition]! + (value >> 5)]! & (1 << (value & 31))) !== 0
  }

  values(block: Block, condition: number): number[] {
    return [...this.weights[condition]!.keys()].filter((value) => this.has(block, condition, value))
  }

  size(block: Block): number {
    return this.weights.reduce((product, own, condition) => product * own.reduce((sum, weight, value) => sum + (this.has(block, condition, value) ? weight : 0), 0), 1)
  }

  meet(a: Block, b: Block): Block | null {
    const met = new Int32Array(this.words)
    for (let condition = 0; condition < this.conditions; condition++) {
      let any = 0
      for (let word = this.#starts[condition]!; word < this.#starts[condition + 1]!; word++) any |= met[word] = a[word]! & b[word]!
      if (any === 0) return null
    }
    return met
  }

  meets(a: Block, b: Block): boolean {
    for (let condition = 0; condition < this.conditions; condition++) {
      let any = 0
      for (let word = this.#starts[condition]!; word < this.#starts[condition + 1]!; word++) any |= a[word]! & b[word]!
      if (any === 0) return false
    }
    return true
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

  /** Whether a block leaves out values of a condition that another has. */
  #narrows(block: Block, condition: number, than: Block): boolean {
    for (let word = this.#starts[condition]!; word < this.#starts[condition + 1]!; word++) if ((than[word]! & ~block[word]!) !== 0) return true
    return false
  }

  /**
   * What is left of a block when others are taken away, as disjoint blocks. The block is split by the condition that most of
   * the others narrow, and values that all of them treat alike stay together.
   * Source: the disjoint sharp operation, S. J. Hong, R. G. Cain, D. L. Ostapko, IBM Journal of Research and Development 18 (1974).
   */
  *left(block: Block, others: readonly Block[], spent = { steps: 0 }): Generator<Block> {
    if (++spent.steps > mostSteps) throw new Refusal('too-large', 'The table is too tangled to be answered: its rules cut the combinations into too many pieces. Write fewer conditions or rules.', { fields: [{ field: 'rules', message: 'too many pieces' }] })
    const near = others.filter((other) => this.meets(other, block))
    if (near.length === 0) {
      yield block
      return
    }
    if (near.some((other) => this.contains(other, block))) return
    const narrowing = this.weights.map((_, condition) => near.reduce((sum, other) => sum + (this.#narrows(other, condition, block) ? 1 : 0), 0))
    const condition = narrowing.indexOf(Math.max(...narrowing))
    const groups = new Map<string, number[]>()
    for (const value of this.values(block, condition)) {
      const alike = near.map((other) => (this.has(other, condition, value) ? '1' : '0')).join('')
      const group = groups.get(alike)
      if (group) group.push(value)
      else groups.set(alike, [value])
    }
    for (const [alike, group] of groups) {
      const values = this.of(this.weights.map((_, each) => (each === condition ? group : [])))
      yield* this.left(this.with(block, condition, values), near.filter((_, at) => alike[at] === '1'), spent)
    }
  }

  covered(block: Block, by: readonly Block[]): boolean {
    return this.left(block, by).next().done === true
  }

  first(block: Block, without: readonly Block[]): Block | null {
    const step = this.left(block, without).next()
    return step.done ? null : step.value
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
