/** A binary heap of nodes, the cheapest on top. */
export class Heap {
  readonly #items: (readonly [cost: number, node: number])[] = []

  get size(): number {
    return this.#items.length
  }

  /** The least cost there is; `Infinity` where there is nothing. */
  get least(): number {
    return this.#items[0]?.[0] ?? Infinity
  }

  push(cost: number, node: number): void {
    const items = this.#items
    let at = items.push([cost, node]) - 1
    while (at > 0 && items[(at - 1) >> 1]![0] > cost) {
      items[at] = items[(at - 1) >> 1]!
      at = (at - 1) >> 1
    }
    items[at] = [cost, node]
  }

  pop(): readonly [cost: number, node: number] {
    const items = this.#items
    const top = items[0]!
    const last = items.pop()!
    if (items.length === 0) return top
    let at = 0
    for (;;) {
      let child = 2 * at + 1
      if (child >= items.length) break
      if (child + 1 < items.length && items[child + 1]![0] < items[child]![0]) child++
      if (items[child]![0] >= last[0]) break
      items[at] = items[child]!
      at = child
    }
    items[at] = last
    return top
  }
}
