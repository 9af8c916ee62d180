import { Refusal } from '#core/lib/refusal.ts'
import type { Block, Blocks } from './blocks.ts'

/** A set of combinations: 0 holds none, 1 holds all, else the number of a node. */
export type Diagram = number

const mostNodes = 2_000_000
const operations = { either: 0, without: 1 } as const

/**
 * Sets of combinations as decision diagrams: a node asks for one condition and leads on for each of its values; what is the
 * same stands once. A set of a million combinations usually takes a few hundred nodes.
 * Source: R. E. Bryant, "Graph-based algorithms for Boolean function manipulation", IEEE Transactions on Computers 35 (1986),
 * with as many branches as a condition has values.
 */
export class Diagrams {
  readonly #levels: number[]
  readonly #children: (readonly Diagram[])[] = [[], []]
  readonly #known = new Map<string, Diagram>()
  readonly #done = [new Map<number, Diagram>(), new Map<number, Diagram>()] as const

  constructor(readonly blocks: Blocks) {
    this.#levels = [blocks.conditions, blocks.conditions]
  }

  #node(level: number, children: readonly Diagram[]): Diagram {
    if (children.every((child) => child === children[0])) return children[0]!
    const key = `${level}:${children.join()}`
    const known = this.#known.get(key)
    if (known !== undefined) return known
    if (this.#levels.length > mostNodes)
      throw new Refusal(
        'too-large',
        'The table is too tangled to be answered: its rules cut the combinations into too many pieces. Write fewer conditions or rules.',
        { fields: [{ field: 'rules', message: 'too many pieces' }] },
      )
    this.#children.push(children)
    this.#known.set(key, this.#levels.push(level) - 1)
    return this.#levels.length - 1
  }

  #child(of: Diagram, level: number, value: number): Diagram {
    return this.#levels[of] === level ? this.#children[of]![value]! : of
  }

  #values(level: number): number[] {
    return [...this.blocks.weights[level]!.keys()]
  }

  of(block: Block): Diagram {
    let below: Diagram = 1
    for (let level = this.blocks.conditions - 1; level >= 0; level--) {
      const next = below
      below = this.#node(
        level,
        this.#values(level).map((value) => (this.blocks.has(block, level, value) ? next : 0)),
      )
    }
    return below
  }

  either(a: Diagram, b: Diagram): Diagram {
    return this.#apply(operations.either, Math.min(a, b), Math.max(a, b))
  }

  without(a: Diagram, b: Diagram): Diagram {
    return this.#apply(operations.without, a, b)
  }

  union(all: readonly Block[]): Diagram {
    return all.reduce<Diagram>((sum, block) => this.either(sum, this.of(block)), 0)
  }

  #apply(operation: 0 | 1, a: Diagram, b: Diagram): Diagram {
    if (operation === operations.either) {
      if (a === 1 || b === 1) return 1
      if (a === 0 || a === b) return b
    } else {
      if (a === 0 || b === 1 || a === b) return 0
      if (b === 0) return a
    }
    const key = a * mostNodes * 2 + b
    const known = this.#done[operation].get(key)
    if (known !== undefined) return known
    const level = Math.min(this.#levels[a]!, this.#levels[b]!)
    const made = this.#node(
      level,
      this.#values(level).map((value) => {
        const [left, right] = [this.#child(a, level, value), this.#child(b, level, value)]
        return operation === operations.either ? this.either(left, right) : this.without(left, right)
      }),
    )
    this.#done[operation].set(key, made)
    return made
  }

  /** How many of the person's combinations a set holds. */
  count(set: Diagram): number {
    const sums = this.blocks.weights.map((own) => own.reduce((sum, weight) => sum + weight, 0))
    // Conditions between two levels are free.
    const free = (from: number, to: number): number => sums.slice(from, to).reduce((product, sum) => product * sum, 1)
    const known = new Map<Diagram, number>()
    const below = (of: Diagram): number => {
      if (of < 2) return of
      const before = known.get(of)
      if (before !== undefined) return before
      const level = this.#levels[of]!
      const count = this.#children[of]!.reduce(
        (sum, child, value) =>
          sum + this.blocks.weights[level]![value]! * below(child) * free(level + 1, this.#levels[child]!),
        0,
      )
      known.set(of, count)
      return count
    }
    return below(set) * free(0, this.#levels[set]!)
  }

  /** Whether a set holds every combination of a block. */
  covers(set: Diagram, block: Block): boolean {
    const good = new Set<Diagram>([1])
    const check = (of: Diagram): boolean => {
      if (of === 0) return false
      if (good.has(of)) return true
      const level = this.#levels[of]!
      if (
        !this.#values(level).every(
          (value) => !this.blocks.has(block, level, value) || check(this.#children[of]![value]!),
        )
      )
        return false
      good.add(of)
      return true
    }
    return check(set)
  }

  /** One combination of a block that a set does not hold, as a value for each condition. */
  outside(set: Diagram, block: Block): number[] | null {
    const full = new Set<Diagram>([1])
    const chosen = this.blocks.weights.map((_, level) => this.blocks.values(block, level)[0]!)
    const find = (of: Diagram): boolean => {
      if (of === 0) return true
      if (full.has(of)) return false
      const level = this.#levels[of]!
      const value = this.blocks.values(block, level).find((each) => find(this.#children[of]![each]!))
      if (value === undefined) full.add(of)
      else chosen[level] = value
      return value !== undefined
    }
    return find(set) ? chosen : null
  }

  /** A set as disjoint blocks; values that lead on alike stay together. */
  *parts(set: Diagram): Generator<Block> {
    const { blocks } = this
    const walk = function* (this: Diagrams, of: Diagram, block: Block): Generator<Block> {
      if (of === 1) yield block
      if (of < 2) return
      const level = this.#levels[of]!
      for (const child of new Set(this.#children[of]!)) {
        const group = this.#children[of]!.flatMap((each, value) => (each === child ? [value] : []))
        yield* walk.call(
          this,
          child,
          blocks.with(block, level, blocks.of(blocks.weights.map((_, at) => (at === level ? group : [])))),
        )
      }
    }
    yield* walk.call(this, set, blocks.full)
  }

  /** Each block as a set, and what it holds together with all after it and `also`. */
  #fromEnd(
    all: readonly Block[],
    also: Diagram,
  ): { readonly sets: readonly Diagram[]; readonly after: readonly Diagram[] } {
    const sets = all.map((block) => this.of(block))
    const after = new Array<Diagram>(all.length + 1).fill(also)
    for (let at = all.length - 1; at >= 0; at--) after[at] = this.either(after[at + 1]!, sets[at]!)
    return { sets, after }
  }

  /** For each block what all the others hold together, by sums from both ends. */
  others(all: readonly Block[]): Diagram[] {
    const { sets, after } = this.#fromEnd(all, 0)
    let before: Diagram = 0
    return sets.map((set, at) => {
      const rest = this.either(before, after[at + 1]!)
      before = this.either(before, set)
      return rest
    })
  }

  /** The blocks that the ones before and after them, as far as those are kept, already hold; in the order given. */
  idle(all: readonly Block[], ignored: Diagram): boolean[] {
    const { sets, after } = this.#fromEnd(all, ignored)
    let before = ignored
    return all.map((block, at) => {
      if (this.covers(this.either(before, after[at + 1]!), block)) return true
      before = this.either(before, sets[at]!)
      return false
    })
  }
}
