import { Heap } from './heap.ts'

/** An arc that may carry any amount; `cost` per unit is not negative. */
export interface Arc {
  readonly from: number
  readonly to: number
  readonly cost: number
}

/**
 * Flow of least cost on uncapacitated arcs that takes every node's supply (positive: it gives, negative: it takes; the sum is
 * 0) to where it is wanted. Answers the amount on each arc, or `null` when some of it cannot get there.
 * Source: successive shortest paths (E. W. Dijkstra's) with potentials, J. Edmonds, R. M. Karp, Journal of the ACM 19 (1972).
 */
export function cheapestFlow(nodes: number, arcs: readonly Arc[], supply: readonly number[]): Float64Array | null {
  const flow = new Float64Array(arcs.length)
  const left = [...supply]
  const leaving: number[][] = Array.from({ length: nodes }, () => [])
  const entering: number[][] = Array.from({ length: nodes }, () => [])
  arcs.forEach(({ from, to }, arc) => {
    leaving[from]!.push(arc)
    entering[to]!.push(arc)
  })
  const potential = new Float64Array(nodes)

  /** The way of least cost from any node that still gives to any that still takes: `by` is the arc each node was reached by, odd when backwards. */
  function cheapestWay(): { readonly goal: number; readonly by: Int32Array; readonly distance: Float64Array } {
    const distance = new Float64Array(nodes).fill(Infinity)
    const by = new Int32Array(nodes).fill(-1)
    const done = new Uint8Array(nodes)
    const heap = new Heap()
    const reach = (node: number, cost: number, arc: number): void => {
      if (cost >= distance[node]!) return
      distance[node] = cost
      by[node] = arc
      heap.push(cost, node)
    }
    left.forEach((amount, node) => amount > 0 && reach(node, 0, -1))
    while (heap.size > 0) {
      const [cost, node] = heap.pop()
      if (done[node] === 1) continue
      done[node] = 1
      if (left[node]! < 0) return { goal: node, by, distance }
      for (const arc of leaving[node]!)
        reach(arcs[arc]!.to, cost + arcs[arc]!.cost + potential[node]! - potential[arcs[arc]!.to]!, 2 * arc)
      for (const arc of entering[node]!.filter((each) => flow[each]! > 0))
        reach(arcs[arc]!.from, cost - arcs[arc]!.cost + potential[node]! - potential[arcs[arc]!.from]!, 2 * arc + 1)
    }
    return { goal: -1, by, distance }
  }

  while (left.some((amount) => amount > 0)) {
    const { goal, by, distance } = cheapestWay()
    if (goal < 0) return null
    for (let node = 0; node < nodes; node++) potential[node]! += Math.min(distance[node]!, distance[goal]!)
    const steps: number[] = []
    let node = goal
    while (by[node]! >= 0) {
      steps.push(by[node]!)
      const arc = arcs[by[node]! >> 1]!
      node = by[node]! % 2 === 0 ? arc.from : arc.to
    }
    const amount = Math.min(
      left[node]!,
      -left[goal]!,
      ...steps.filter((step) => step % 2 === 1).map((step) => flow[step >> 1]!),
    )
    for (const step of steps) flow[step >> 1]! += step % 2 === 0 ? amount : -amount
    left[node]! -= amount
    left[goal]! += amount
  }
  return flow
}

/**
 * A closed walk from a node that uses each arc as often as it is listed. The arcs must be balanced at every node and hang
 * together. Source: C. Hierholzer, Mathematische Annalen 6 (1873).
 */
export function closedWalk(
  start: number,
  arcs: readonly { readonly from: number; readonly to: number; readonly times: number }[],
): number[] {
  const waiting = new Map<number, number[]>()
  arcs.forEach(({ from, times }, arc) => {
    const own = waiting.get(from) ?? []
    for (let at = 0; at < times; at++) own.push(arc)
    waiting.set(from, own)
  })
  const walk: number[] = []
  const open: { readonly node: number; readonly by: number }[] = [{ node: start, by: -1 }]
  while (open.length > 0) {
    const { node, by } = open.at(-1)!
    const next = waiting.get(node)?.pop()
    if (next !== undefined) open.push({ node: arcs[next]!.to, by: next })
    else {
      open.pop()
      if (by >= 0) walk.push(by)
    }
  }
  return walk.reverse()
}
