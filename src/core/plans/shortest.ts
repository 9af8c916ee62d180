import { Heap } from '#core/lib/heap.ts'

/**
 * What is wanted of a set of items. `sum`: the weights of the chosen reach `need`. `groups`: the weights of the groups of which
 * every item is chosen do; a group with no item counts already and is left out.
 */
export type Goal =
  | { readonly kind: 'sum'; readonly need: number; readonly weights: ReadonlyMap<number, number> }
  | {
      readonly kind: 'groups'
      readonly need: number
      readonly groups: readonly { readonly weight: number; readonly items: readonly number[] }[]
    }

export interface Way {
  /** Places of the chosen items. */
  readonly items: readonly number[]
  readonly minutes: number
  /** No cheaper set reaches all goals; else none was found. */
  readonly exact: boolean
}

/** Up to so many items every set is tried. */
const mostExact = 15
const mostSwaps = 60
/** Each swap looks at all items: of many, fewer are tried. */
const mostLooks = 300_000
const dust = 1e-9

/** Goals as they stand with some items chosen. */
class Standing {
  readonly chosen = new Set<number>()
  readonly #goals: readonly Goal[]
  /** Reached so far by each goal. */
  readonly #reached: number[]
  /** Of each goal with groups: how many items each group still lacks. */
  readonly #open: (number[] | null)[]
  /** Item → the goals it counts for; of groups, the places of those that hold it. */
  readonly #of: Map<number, { readonly goal: number; readonly groups: readonly number[] }[]>

  constructor(goals: readonly Goal[], index: Standing['parts']) {
    this.#goals = goals
    this.#of = index
    this.#reached = goals.map(() => 0)
    this.#open = goals.map((goal) => (goal.kind === 'groups' ? goal.groups.map(({ items }) => items.length) : null))
  }

  get parts(): Map<number, { readonly goal: number; readonly groups: readonly number[] }[]> {
    return this.#of
  }

  add(item: number): void {
    this.chosen.add(item)
    this.#move(item, 1)
  }

  remove(item: number): void {
    this.chosen.delete(item)
    this.#move(item, -1)
  }

  #move(item: number, by: 1 | -1): void {
    for (const { goal: at, groups } of this.#of.get(item) ?? []) {
      const goal = this.#goals[at]!
      this.#reached[at]! +=
        goal.kind === 'sum' ? by * (goal.weights.get(item) ?? 0) : this.#moveGroups(at, goal.groups, groups, by)
    }
  }

  /** One item more or less in some groups; answers by how much that moves what is reached. */
  #moveGroups(at: number, all: readonly { readonly weight: number }[], groups: readonly number[], by: 1 | -1): number {
    const open = this.#open[at]!
    let moved = 0
    for (const group of groups) {
      const wasWhole = open[group] === 0
      open[group]! -= by
      if (open[group] === 0) moved += all[group]!.weight
      else if (wasWhole) moved -= all[group]!.weight
    }
    return moved
  }

  /** Items that share a group with it. */
  *besides(item: number): Iterable<number> {
    for (const { goal: at, groups } of this.#of.get(item) ?? []) {
      const goal = this.#goals[at]!
      if (goal.kind === 'groups') for (const group of groups) yield* goal.groups[group]!.items
    }
  }

  get isThere(): boolean {
    return this.#goals.every((goal, at) => this.#reached[at]! >= goal.need - dust)
  }

  /** How much nearer an item leads to what is still lacking: of each goal the part of its need, of a group its share of it. */
  gain(item: number): number {
    let sum = 0
    for (const { goal: at, groups } of this.#of.get(item) ?? []) {
      const goal = this.#goals[at]!
      const lacks = goal.need - this.#reached[at]!
      if (lacks <= dust) continue
      const adds =
        goal.kind === 'sum'
          ? (goal.weights.get(item) ?? 0)
          : groups.reduce((total, group) => total + goal.groups[group]!.weight / this.#open[at]![group]!, 0)
      sum += Math.min(adds, lacks) / goal.need
    }
    return sum
  }
}

function indexOf(goals: readonly Goal[]): Standing['parts'] {
  const index = new Map<number, { goal: number; groups: number[] }[]>()
  const partOf = (item: number, goal: number) => {
    const parts = index.get(item) ?? []
    if (parts.length === 0) index.set(item, parts)
    const known = parts.find((part) => part.goal === goal)
    if (known) return known
    const made = { goal, groups: [] }
    parts.push(made)
    return made
  }
  goals.forEach((goal, at) => {
    if (goal.kind === 'sum') for (const item of goal.weights.keys()) partOf(item, at)
    else goal.groups.forEach(({ items }, group) => items.forEach((item) => partOf(item, at).groups.push(group)))
  })
  return index
}

/** Do all items together reach it? */
export function isReachable(goal: Goal): boolean {
  const most =
    goal.kind === 'sum'
      ? [...goal.weights.values()].reduce((sum, weight) => sum + weight, 0)
      : goal.groups.reduce((sum, { weight }) => sum + weight, 0)
  return most >= goal.need - dust
}

/**
 * The cheapest set of items by which every goal is reached; `null` where all of them together do not. `minutes` are of the items by
 * their places. Exact up to 15 items; beyond, the nearest for a minute, then what is not needed is left out, the dearest first, and
 * every one is tried to be done without (greedy for submodular covers: L. A. Wolsey, Combinatorica 2, 1982; reverse delete).
 */
export function shortestWay(minutes: readonly number[], goals: readonly Goal[]): Way | null {
  const wanted = goals.filter(({ need }) => need > dust)
  const index = indexOf(wanted)
  const items = [...index.keys()].sort((a, b) => a - b)
  const all = new Standing(wanted, index)
  items.forEach((item) => all.add(item))
  if (!all.isThere) return null
  if (items.length <= mostExact) return exactWay(minutes, wanted, { index, items })
  const begun = greedy(minutes, new Standing(wanted, index), new Set(items))
  const found = improved(minutes, wanted, { index, items, from: pruned(minutes, begun) })
  return { ...wayOf(minutes, found.chosen), exact: false }
}

const wayOf = (minutes: readonly number[], chosen: Iterable<number>) => {
  const items = [...chosen].sort((a, b) => a - b)
  return { items, minutes: items.reduce((sum, item) => sum + (minutes[item] ?? 0), 0) }
}

interface Searching {
  readonly index: Standing['parts']
  readonly items: readonly number[]
}

function exactWay(minutes: readonly number[], goals: readonly Goal[], { index, items }: Searching): Way {
  const standing = new Standing(goals, index)
  let best: { readonly chosen: readonly number[]; readonly minutes: number } | null = null
  const walk = (at: number, spent: number): void => {
    if (
      best &&
      spent > best.minutes - dust &&
      !(spent < best.minutes + dust && standing.chosen.size < best.chosen.length)
    )
      return
    if (standing.isThere) {
      best = { chosen: [...standing.chosen], minutes: spent }
      return
    }
    if (at === items.length) return
    const item = items[at]!
    standing.add(item)
    walk(at + 1, spent + (minutes[item] ?? 0))
    standing.remove(item)
    walk(at + 1, spent)
  }
  walk(0, 0)
  const { chosen } = best ?? { chosen: items }
  const without = new Standing(goals, index)
  chosen.forEach((item) => without.add(item))
  // Of items that take no time more than needed may be chosen.
  return { ...wayOf(minutes, pruned(minutes, without).chosen), exact: true }
}

const perMinute = (gain: number, minutes: number): number => (minutes > 0 ? gain / minutes : gain * 1e9)

/** The nearest for a minute, again and again. What an item is worth changes only with the items of its groups, so these alone are looked at again. */
function greedy(minutes: readonly number[], standing: Standing, left: ReadonlySet<number>): Standing {
  const by = (item: number) => perMinute(standing.gain(item), minutes[item] ?? 0)
  const queue = new Heap()
  for (const item of left) if (!standing.chosen.has(item)) queue.push(-by(item), item)
  while (!standing.isThere && queue.size > 0) {
    const [cost, item] = queue.pop()
    if (standing.chosen.has(item)) continue
    const now = by(item)
    if (now <= 0) continue
    // Worth less than when it was put there: it sinks to where it belongs.
    if (now < -cost - dust && now < -queue.least - dust) {
      queue.push(-now, item)
      continue
    }
    standing.add(item)
    for (const beside of standing.besides(item))
      if (left.has(beside) && !standing.chosen.has(beside)) queue.push(-by(beside), beside)
  }
  return standing
}

/** What is not needed is left out, the dearest first, so that without any of the rest a goal is missed. */
function pruned(minutes: readonly number[], standing: Standing): Standing {
  const dearest = [...standing.chosen].sort((a, b) => (minutes[b] ?? 0) - (minutes[a] ?? 0) || b - a)
  for (const item of dearest) {
    standing.remove(item)
    if (!standing.isThere) standing.add(item)
  }
  return standing
}

/** Each of the dearest is done without, as long as what takes its place is cheaper. */
function improved(
  minutes: readonly number[],
  goals: readonly Goal[],
  { index, items, from }: Searching & { readonly from: Standing },
): Standing {
  let best = from
  let spent = wayOf(minutes, best.chosen).minutes
  const tries = Math.min(mostSwaps, Math.ceil(mostLooks / Math.max(1, items.length)))
  const dearest = [...best.chosen].sort((a, b) => (minutes[b] ?? 0) - (minutes[a] ?? 0)).slice(0, tries)
  for (const item of dearest) {
    if (!best.chosen.has(item)) continue
    const other = new Standing(goals, index)
    for (const each of best.chosen) if (each !== item) other.add(each)
    greedy(minutes, other, new Set(items.filter((each) => each !== item)))
    if (!other.isThere) continue
    pruned(minutes, other)
    const cost = wayOf(minutes, other.chosen).minutes
    if (cost < spent - dust) [best, spent] = [other, cost]
  }
  return best
}
