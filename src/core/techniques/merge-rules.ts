import type { Block, Blocks } from './blocks.ts'
import type { Diagrams } from './diagram.ts'

/** Beyond these the exact way would take too long, and rules are widened one by one instead. */
const mostPrimes = 400
const mostPoints = 4096
const mostBranches = 100_000

/**
 * The fewest blocks that together hold exactly what `on` holds, give or take what `ignored` holds: exact where the table is
 * small (largest blocks by iterated consensus, then the smallest cover by branch and bound), else widened and thinned out.
 * Sources: W. V. Quine, "A way to simplify truth functions", American Mathematical Monthly 62 (1955), and E. J. McCluskey,
 * Bell System Technical Journal 35 (1956), for the exact way; R. K. Brayton and others, "Logic Minimization Algorithms for
 * VLSI Synthesis" (1984), for the other.
 */
export function fewestBlocks(sets: Diagrams, on: readonly Block[], ignored: readonly Block[]): Block[] {
  const { blocks } = sets
  const points = pointsOf(sets, on, ignored)
  const largest = points ? primes(blocks, [...on, ...ignored]) : null
  const exact = points && largest ? smallestCover(blocks, points, largest) : null
  return exact ?? widened(sets, on, ignored)
}

/** Every single combination that has to be held, or `null` when they are too many. */
function pointsOf(sets: Diagrams, on: readonly Block[], ignored: readonly Block[]): Block[] | null {
  const points: Block[] = []
  for (const part of sets.parts(sets.without(sets.union(on), sets.union(ignored)))) {
    const single = singles(sets.blocks, part, mostPoints - points.length)
    if (!single) return null
    points.push(...single)
  }
  return points
}

function singles(blocks: Blocks, block: Block, most: number): Block[] | null {
  let found: number[][] = [[]]
  for (let condition = 0; condition < blocks.conditions; condition++) {
    const values = blocks.values(block, condition)
    if (found.length * values.length > most) return null
    found = found.flatMap((chosen) => values.map((value) => [...chosen, value]))
  }
  return found.map((chosen) => blocks.of(chosen.map((value) => [value])))
}

/** All largest blocks inside the union of some; `null` when they are too many. */
function primes(blocks: Blocks, from: readonly Block[]): Block[] | null {
  let known: Block[] = []
  const add = (block: Block): boolean => {
    if (known.some((other) => blocks.contains(other, block))) return false
    known = known.filter((other) => !blocks.contains(block, other))
    known.push(block)
    return true
  }
  for (const block of from) add(block)
  for (let changed = true; changed;) {
    changed = false
    for (const [a, b] of couples(known)) {
      for (const block of consensus(blocks, a, b)) changed = add(block) || changed
      if (known.length > mostPrimes) return null
    }
  }
  return known
}

const couples = (all: readonly Block[]): (readonly [Block, Block])[] =>
  all.flatMap((one, at) => all.slice(0, at).map((other) => [one, other] as const))

/** Blocks inside the union of two that reach from one into the other: all conditions met, one joined. */
function consensus(blocks: Blocks, a: Block, b: Block): Block[] {
  const both = a.map((word, at) => word & b[at]!)
  const either = a.map((word, at) => word | b[at]!)
  const empty = Array.from({ length: blocks.conditions }, (_, condition) => condition).filter(
    (condition) => blocks.values(both, condition).length === 0,
  )
  if (empty.length > 1) return []
  return (empty.length === 1 ? empty : [...Array(blocks.conditions).keys()]).map((condition) =>
    blocks.with(both, condition, either),
  )
}

/** The fewest of the largest blocks that hold every point; `null` when the search takes too long. */
function smallestCover(blocks: Blocks, points: readonly Block[], largest: readonly Block[]): Block[] | null {
  const holders = new Map<string, number[]>()
  for (const point of points) {
    const own = largest.flatMap((block, at) => (blocks.contains(block, point) ? [at] : []))
    holders.set(own.join(), own)
  }
  // A point that is held whenever another one is need not be looked at.
  const rows = [...holders.values()].sort((a, b) => a.length - b.length)
  const needed: number[][] = []
  for (const row of rows) if (!needed.some((other) => other.every((each) => row.includes(each)))) needed.push(row)
  const order = (own: readonly number[]): number[] =>
    [...own].sort(
      (a, b) =>
        blocks.free(largest[b]!) - blocks.free(largest[a]!) || blocks.size(largest[b]!) - blocks.size(largest[a]!),
    )
  let best: number[] | null = null
  let branches = 0
  const search = (chosen: readonly number[], open: readonly (readonly number[])[]): void => {
    if (++branches > mostBranches || (best && chosen.length + apart(open) >= best.length)) return
    if (open.length === 0) {
      best = [...chosen]
      return
    }
    const tightest = open.reduce((least, row) => (row.length < least.length ? row : least))
    for (const each of order(tightest))
      search(
        [...chosen, each],
        open.filter((row) => !row.includes(each)),
      )
  }
  search([], needed)
  return branches > mostBranches || !best ? null : (best as number[]).map((at) => largest[at]!)
}

/** Points that share no block need one each: a bound from below. */
function apart(open: readonly (readonly number[])[]): number {
  const used = new Set<number>()
  let count = 0
  for (const row of open) {
    if (row.some((each) => used.has(each))) continue
    count++
    for (const each of row) used.add(each)
  }
  return count
}

function widened(sets: Diagrams, on: readonly Block[], ignored: readonly Block[]): Block[] {
  const { blocks } = sets
  const inside = sets.either(sets.union(on), sets.union(ignored))
  const wide = new Map<string, Block>()
  const places = Array.from({ length: blocks.conditions }, (_, condition) =>
    blocks.values(blocks.full, condition).map((value) => ({ condition, value })),
  ).flat()
  for (const block of on) {
    let now = block
    for (const { condition, value } of places) {
      if (blocks.has(now, condition, value)) continue
      const more = now.slice()
      blocks.add(more, condition, value)
      if (sets.covers(inside, more)) now = more
    }
    wide.set(now.join(), now)
  }
  const bySize = [...wide.values()].sort((a, b) => blocks.size(a) - blocks.size(b))
  const idle = sets.idle(bySize, sets.union(ignored))
  return bySize.filter((_, at) => !idle[at])
}
