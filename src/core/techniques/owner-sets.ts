/** Targets that the same owners answer, counted together. */
export interface SharedTargets {
  readonly owners: readonly number[]
  readonly targets: number
}

/** So many sets of owners are told apart; with more, each would hold next to nothing. */
const mostSets = 2000

/** Sets of owners by number: each is another one and an owner more, and 0 is the empty one. */
export class OwnerSets {
  readonly #span: number
  readonly #next = new Map<number, number>()
  readonly #from = [0]
  readonly #last = [-1]

  /** @param owners all there are, whole numbers from 0 on */
  constructor(owners: readonly number[]) {
    this.#span = owners.reduce((most, owner) => Math.max(most, owner), 0) + 1
  }

  /** The set with one more; owners come in their order. */
  with(set: number, owner: number): number {
    if (this.#last[set] === owner) return set
    const key = set * this.#span + owner
    const known = this.#next.get(key)
    if (known !== undefined) return known
    this.#from.push(set)
    this.#last.push(owner)
    this.#next.set(key, this.#last.length - 1)
    return this.#last.length - 1
  }

  #ownersOf(set: number): number[] {
    const owners: number[] = []
    for (let at = set; at !== 0; at = this.#from[at]!) owners.push(this.#last[at]!)
    return owners.reverse()
  }

  /** How many targets each set answers, given the set of each target; `null` where there are too many sets. */
  shared(...given: readonly Iterable<number>[]): SharedTargets[] | null {
    const targets = new Map<number, number>()
    for (const sets of given) for (const set of sets) if (set !== 0) targets.set(set, (targets.get(set) ?? 0) + 1)
    if (targets.size > mostSets) return null
    return [...targets].map(([set, n]) => ({ owners: this.#ownersOf(set), targets: n }))
  }
}
