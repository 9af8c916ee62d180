import { sumOf } from '#core/lib/figures.ts'
import type { SolveLinear } from '#core/lib/linear.ts'
import { exactCover, type Problem, relaxedCover, type RelaxedCover } from './cover-program.ts'

/** Something that can be chosen: it costs minutes and covers things, each of which counts once. */
export interface Choosable {
  readonly key: string
  readonly minutes: number
  readonly covers: readonly string[]
}

export interface Selecting {
  /** Minutes there are. */
  readonly budget: number
  readonly items: readonly Choosable[]
  /** What covering each thing is worth; one that is not named is worth nothing. */
  readonly worth: Readonly<Record<string, number>>
  /** What worth is called in the reasons. */
  readonly of?: string
}

export interface Selection {
  /** Keys in the order in which they were chosen: each adds the most for its minutes then. */
  readonly chosen: readonly string[]
  readonly minutes: number
  readonly worth: number
  /** No choice within the budget can be worth more. */
  readonly bound: number
  /** Key → what of the worth rests on it, as a sentence. */
  readonly why: Readonly<Record<string, string>>
}

/** So many choices are tried one by one; beyond that a first step in every direction and swaps are. */
const mostExact = 25
const mostNodes = 60_000
/** So many of the dearest first steps begin a choice of their own. */
const mostBeginnings = 12
const mostSwaps = 400
/** Each beginning and each swap looks at all that is covered: of much, fewer are tried. */
const mostLooks = 4_000_000
const dust = 1e-9

/** What is chosen so far; how often each thing is covered tells what an item adds and what it holds up. */
class Choice {
  readonly #times: Int32Array
  readonly #of: Problem
  readonly items: number[] = []
  minutes = 0
  worth = 0

  constructor(of: Problem, items: readonly number[] = []) {
    this.#of = of
    this.#times = new Int32Array(of.worth.length)
    for (const item of items) this.add(item)
  }

  gain(item: number): number {
    let sum = 0
    for (const thing of this.#of.covers[item]!) if (this.#times[thing] === 0) sum += this.#of.worth[thing]!
    return sum
  }

  /** What would be lost without it. */
  loss(item: number): number {
    let sum = 0
    for (const thing of this.#of.covers[item]!) if (this.#times[thing] === 1) sum += this.#of.worth[thing]!
    return sum
  }

  fits(item: number): boolean {
    return this.minutes + this.#of.minutes[item]! <= this.#of.budget + dust
  }

  add(item: number): void {
    this.worth += this.gain(item)
    this.minutes += this.#of.minutes[item]!
    for (const thing of this.#of.covers[item]!) this.#times[thing]!++
    this.items.push(item)
  }

  remove(item: number): void {
    for (const thing of this.#of.covers[item]!) this.#times[thing]!--
    this.worth -= this.gain(item)
    this.minutes -= this.#of.minutes[item]!
    this.items.splice(this.items.lastIndexOf(item), 1)
  }
}

const better = (a: Choice, b: Choice): boolean =>
  a.worth > b.worth + dust || (a.worth > b.worth - dust && a.minutes < b.minutes - dust)

/** Minutes that cost nothing are worth any of them. */
const ratio = (gain: number, minutes: number): number => (minutes > 0 ? gain / minutes : gain * 1e12)

/**
 * Fills up the choice by the most worth for a minute. What an item adds only falls as others are chosen, so one is
 * looked at again only when it comes to the top (lazy greedy: M. Minoux, Optimization Techniques 1978).
 */
function fill(of: Problem, choice: Choice, allowed: Iterable<number>): Choice {
  const queue = [...allowed].map((item) => ({ item, by: ratio(choice.gain(item), of.minutes[item]!) }))
  const first = (a: (typeof queue)[number], b: (typeof queue)[number]) => b.by - a.by || a.item - b.item
  queue.sort(first)
  let at = 0
  while (at < queue.length) {
    const top = queue[at]!
    if (top.by <= dust || !choice.fits(top.item)) {
      at++
      continue
    }
    const by = ratio(choice.gain(top.item), of.minutes[top.item]!)
    const next = queue[at + 1]
    if (!next || by >= next.by - dust) {
      if (by > dust) choice.add(top.item)
      at++
    } else {
      // It sinks to where it belongs now; all before it has been dealt with.
      top.by = by
      let place = at
      while (place + 1 < queue.length && first(queue[place + 1]!, top) < 0) {
        queue[place] = queue[place + 1]!
        place++
      }
      queue[place] = top
    }
  }
  return choice
}

/**
 * No choice that holds `choice` can be worth more: what is chosen, and the best of what each would add by itself, cut
 * to the minutes that are left (G. L. Nemhauser, L. A. Wolsey, M. L. Fisher, Mathematical Programming 14, 1978).
 */
function mostFrom(of: Problem, choice: Choice, allowed: Iterable<number>, budget: number): number {
  const gains = [...allowed]
    .filter((item) => of.minutes[item]! <= budget + dust)
    .map((item) => ({ gain: choice.gain(item), minutes: of.minutes[item]! }))
    .filter(({ gain }) => gain > 0)
    .sort((a, b) => ratio(b.gain, b.minutes) - ratio(a.gain, a.minutes))
  let [left, sum] = [budget, choice.worth]
  for (const { gain, minutes } of gains) {
    if (minutes > left) return sum + (gain * left) / minutes
    sum += gain
    left -= minutes
  }
  return sum
}

/** Tries all, leaving out what cannot beat the best so far; `null` when it would take too long. */
function exactly(of: Problem, items: readonly number[], known: Choice): Choice | null {
  let best = known
  let nodes = 0
  const choice = new Choice(of)
  const order = [...items].sort((a, b) => choice.gain(b) - choice.gain(a) || a - b)
  const walk = (at: number): void => {
    if (++nodes > mostNodes) return
    if (better(choice, best)) best = new Choice(of, choice.items)
    if (at === order.length) return
    const rest = order.slice(at)
    const most = mostFrom(of, choice, rest, of.budget - choice.minutes)
    if (most < best.worth - dust) return
    const item = order[at]!
    if (choice.fits(item) && choice.gain(item) > dust) {
      choice.add(item)
      walk(at + 1)
      choice.remove(item)
    }
    walk(at + 1)
  }
  walk(0)
  return nodes > mostNodes ? null : best
}

/** Takes one out and fills up again, as long as that is better. */
function swap(of: Problem, items: readonly number[], from: Choice): Choice {
  const most = tries(mostSwaps, of, items)
  let best = from
  let tried = 0
  for (let improved = true; improved && tried < most;) {
    improved = false
    const weakest = [...best.items].sort((a, b) => best.loss(a) - best.loss(b) || a - b)
    for (const out of weakest) {
      if (++tried > most) break
      const without = new Choice(
        of,
        best.items.filter((item) => item !== out),
      )
      const next = fill(
        of,
        without,
        items.filter((item) => item !== out),
      )
      if (!better(next, best)) continue
      best = next
      improved = true
      break
    }
  }
  return best
}

/** What nothing rests on is left out, the dearest first. */
function withoutIdle(of: Problem, choice: Choice): Choice {
  for (const item of [...choice.items].sort((a, b) => of.minutes[b]! - of.minutes[a]! || b - a))
    if (choice.loss(item) <= dust) choice.remove(item)
  return choice
}

const tries = (most: number, { covers }: Problem, items: readonly number[]): number =>
  Math.min(most, Math.ceil(mostLooks / (1 + sumOf(items, (item) => covers[item]!.length))))

interface Best {
  readonly choice: Choice
  /** Nothing is worth more; `null` where nobody knows. */
  readonly bound: number | null
}

function best(of: Problem, items: readonly number[], solve: SolveLinear | null): Best {
  const nothing = new Choice(of)
  let found = fill(of, new Choice(of), items)
  if (items.length > mostExact && found.worth >= of.worth.reduce((sum, each) => sum + each, 0) - dust)
    return certain(found)
  const beginnings = [...items]
    .sort((a, b) => nothing.gain(b) - nothing.gain(a) || a - b)
    .slice(0, tries(mostBeginnings, of, items))
  for (const item of beginnings) {
    const begun = fill(of, new Choice(of, [item]), items)
    if (better(begun, found)) found = begun
  }
  if (items.length <= mostExact) {
    const whole = solve && exactCover(of, items, solve)
    const exact = whole ? new Choice(of, whole) : exactly(of, items, found)
    // The solver keeps to the budget but for rounding; what does not is not taken.
    if (exact && exact.minutes <= of.budget + dust) return certain(better(found, exact) ? found : exact)
  }
  const relaxed = solve && relaxedCover(of, items, solve)
  if (relaxed) found = fromRelaxed(of, items, { relaxed, found })
  return { choice: swap(of, items, found), bound: relaxed?.bound ?? null }
}

const certain = (choice: Choice): Best => ({ choice, bound: choice.worth })

/** The best of choices that begin with what the relaxed choice holds, from nearly whole items to any part of them. */
function fromRelaxed(
  of: Problem,
  items: readonly number[],
  { relaxed, found }: { readonly relaxed: RelaxedCover; readonly found: Choice },
): Choice {
  const share = new Map(items.map((item, at) => [item, relaxed.share[at]!]))
  let best = found
  for (const least of [0.999, 0.9, 0.7, 0.5, 0.3, 0.1]) {
    const begun = new Choice(of)
    const held = items
      .filter((item) => share.get(item)! >= least)
      .sort((a, b) => share.get(b)! - share.get(a)! || a - b)
    for (const item of held) if (begun.fits(item) && begun.gain(item) > dust) begun.add(item)
    const filled = fill(of, withoutIdle(of, begun), items)
    if (better(filled, best)) best = filled
  }
  return best
}

/**
 * Items of most worth within a budget, where each thing they cover counts once (budgeted maximum coverage: S. Khuller,
 * A. Moss, J. Naor, Information Processing Letters 70, 1999). Exact for small sets; the same input gives the same choice.
 * Minutes and worth are finite and not negative.
 * @param solve a standard solver of linear programs: with it the best of up to 25 items is certain, and of many the bound is near
 */
export function select(selecting: Selecting, solve: SolveLinear | null = null): Selection {
  const { budget, items, worth } = selecting
  const things = new Map<string, number>()
  const covers = items.map((item) =>
    Int32Array.from(new Set(item.covers), (thing) => {
      const known = things.get(thing) ?? things.size
      things.set(thing, known)
      return known
    }),
  )
  const minutes = Float64Array.from(items, (item) => item.minutes)
  const chosen = choose(
    { budget, covers, minutes, worth: Float64Array.from(things.keys(), (thing) => worth[thing] ?? 0) },
    solve,
  )
  const own = chosen.chosen.map((at) => items[at]!)
  return { ...chosen, chosen: own.map(({ key }) => key), why: reasons(selecting, own) }
}

export interface Choosing {
  /** Items by their place, in the order in which they were chosen. */
  readonly chosen: readonly number[]
  readonly minutes: number
  readonly worth: number
  readonly bound: number
}

/** The same for items and things that are numbers already. */
export function choose(problem: Problem, solve: SolveLinear | null = null): Choosing {
  const { worth, minutes, budget } = problem
  const of = { ...problem, covers: problem.covers.map((own) => own.filter((thing) => worth[thing]! > 0)) }
  const able = of.covers.flatMap((own, at) => (own.length > 0 && minutes[at]! <= budget + dust ? [at] : []))
  const { choice, bound: known } = best(of, able, solve)
  const kept = withoutIdle(of, choice)
  return {
    chosen: inOrderOfGain(of, kept.items),
    minutes: kept.minutes,
    worth: kept.worth,
    bound: Math.max(kept.worth, known ?? boundOf(of, able, kept)),
  }
}

/** The tightest of what each beginning of the choice leaves to be had. */
function boundOf(of: Problem, able: readonly number[], choice: Choice): number {
  const so = new Choice(of)
  let bound = mostFrom(of, so, able, of.budget)
  // Each is a pass over all: the first, the middle and the last tell nearly as much as every one of them.
  const stops = new Set([1, 2, 4, 8, 16, 32, 64, 128, 256, choice.items.length])
  inOrderOfGain(of, choice.items).forEach((item, at) => {
    so.add(item)
    // Nothing chosen is given back, so the whole budget is still to be had beside it.
    if (stops.has(at + 1)) bound = Math.min(bound, mostFrom(of, so, able, of.budget))
  })
  return Math.max(bound, choice.worth)
}

const inOrderOfGain = (of: Problem, items: readonly number[]): number[] => fill(of, new Choice(of), items).items

/** What each adds to those before it. */
function reasons({ worth, of: called = 'worth' }: Selecting, chosen: readonly Choosable[]): Record<string, string> {
  const had = new Set<string>()
  return Object.fromEntries(
    chosen.map(({ key, minutes, covers }) => {
      const adds = [...new Set(covers)].filter((thing) => !had.has(thing) && (worth[thing] ?? 0) > 0)
      adds.forEach((thing) => had.add(thing))
      const sum = adds.reduce((total, thing) => total + (worth[thing] ?? 0), 0)
      return [key, `adds ${listed(adds)}: ${shown(sum)} of ${called} in ${shown(minutes)} min`]
    }),
  )
}

const mostNamed = 4
const listed = (things: readonly string[]): string =>
  things.length > mostNamed
    ? `${things.slice(0, mostNamed).join(', ')} and ${things.length - mostNamed} more`
    : things.join(', ')
const shown = (n: number): string => String(Math.round(n * 100) / 100)
