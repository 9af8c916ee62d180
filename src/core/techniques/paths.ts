import { type Arc, cheapestFlow, closedWalk } from '#core/lib/flow.ts'
import { type FieldProblem, Refusal } from '#core/lib/refusal.ts'
import type { Criterion, Notice, PathsModel, Transition } from './models.ts'

export interface PathsAnswer {
  /** Each path as indices of the model's transitions. */
  readonly paths: readonly (readonly number[])[]
  readonly steps: number
  readonly covered: number
  /** Targets on some way from the initial state (to a final one). */
  readonly of: number
  /** Transitions on no such way. */
  readonly unreachable: readonly number[]
  readonly invalid: readonly { readonly state: string; readonly event: string }[]
  /** No set of paths has fewer steps, as far as is proved. */
  readonly least: number
  readonly notices: readonly Notice[]
}

/** A step weighs more than any number of paths, so that steps are saved first. */
const stepCost = 1_000_000
const mostPairs = 200_000

interface Graph {
  readonly states: readonly string[]
  readonly initial: number
  /** States in which a path may end. */
  readonly ends: readonly boolean[]
  /** Transitions that paths can use, with states as numbers. */
  readonly edges: readonly { readonly index: number; readonly from: number; readonly to: number }[]
  readonly usable: readonly boolean[]
  readonly reached: readonly boolean[]
}

export const transitionText = ({ from, event, guard, to }: Transition): string =>
  `${from} –${event}${guard ? ` [${guard}]` : ''}→ ${to}`

const reach = (
  from: readonly number[],
  size: number,
  edges: readonly (readonly [from: number, to: number])[],
): boolean[] => {
  const next: number[][] = Array.from({ length: size }, () => [])
  for (const [a, b] of edges) next[a]!.push(b)
  const seen = new Array<boolean>(size).fill(false)
  const waiting = [...from]
  for (const state of waiting) seen[state] = true
  while (waiting.length > 0)
    for (const state of next[waiting.pop()!]!) {
      if (seen[state]) continue
      seen[state] = true
      waiting.push(state)
    }
  return seen
}

function graphOf(model: PathsModel): { readonly graph: Graph; readonly notices: Notice[] } {
  const { transitions, initial } = model
  const states = [...new Set([initial, ...transitions.flatMap(({ from, to }) => [from, to])])]
  const number = new Map(states.map((state, at) => [state, at]))
  const problems = graphProblems(model, number)
  const pairs = transitions.map(({ from, to }) => [number.get(from)!, number.get(to)!] as const)
  const reached = reach([0], states.length, pairs)
  const final = model.final && model.final.length > 0 ? model.final.flatMap((state) => number.get(state) ?? []) : null
  const back = pairs.map(([from, to]) => [to, from] as const)
  const leading = final ? reach(final, states.length, back) : states.map(() => true)
  if (problems.length === 0 && !leading[0])
    problems.push({ field: 'final', message: `No final state can be reached from ${initial}.` })
  if (problems.length > 0)
    throw new Refusal('invalid', `The graph has no paths: ${problems[0]!.message}`, { fields: problems })
  const usable = states.map((_, state) => reached[state]! && leading[state]!)
  const edges = pairs.flatMap(([from, to], index) => (usable[from] && usable[to] ? [{ index, from, to }] : []))
  const ends = states.map((_, state) => usable[state]! && (!final || final.includes(state)))
  return {
    graph: { states, initial: 0, ends, edges, usable, reached },
    notices: [...twiceSaid(transitions), ...outOfReach(states, initial, { reached, leading })],
  }
}

/** What makes a graph none that can be walked. */
function graphProblems({ transitions, initial, final }: PathsModel, number: ReadonlyMap<string, number>) {
  const problems: FieldProblem[] = []
  if (transitions.length === 0)
    problems.push({
      field: 'transitions',
      message: 'The graph has no transitions yet. Write one, such as held -pay-> paid.',
    })
  else if (!transitions.some(({ from }) => from === initial))
    problems.push({ field: 'initial', message: `No transition leaves the initial state ${initial}.` })
  for (const [at, state] of (final ?? []).entries())
    if (!number.has(state))
      problems.push({ field: `final[${at}]`, message: `No transition names the final state ${state}.` })
  return problems
}

/** Transitions that stand twice, and choices that nothing tells apart. */
function twiceSaid(transitions: PathsModel['transitions']): Notice[] {
  const seen = new Set<string>()
  const chosen = new Map<string, string>()
  return transitions.flatMap((transition, index): Notice[] => {
    const { from, event, guard, to } = transition
    const at = `transitions[${index}]`
    const text = transitionText(transition)
    const choice = `${from}\n${event}\n${guard ?? ''}`
    const [twice, other] = [seen.has(text), chosen.get(choice)]
    seen.add(text)
    chosen.set(choice, to)
    if (twice) return [{ at, message: `${text} stands twice; both are walked.` }]
    if (other === undefined) return []
    const which = event || 'The same event'
    return [{ at, message: `${which} leads from ${from} to ${other} and to ${to} with nothing to tell them apart.` }]
  })
}

/** States that no path comes to. */
const outOfReach = (
  states: readonly string[],
  initial: string,
  { reached, leading }: { readonly reached: readonly boolean[]; readonly leading: readonly boolean[] },
): Notice[] =>
  states.flatMap((state, at): Notice[] => {
    if (!reached[at]) return [{ at: state, message: `${state} cannot be reached from ${initial}.` }]
    if (leading[at]) return []
    return [{ at: state, message: `From ${state} no final state can be reached, so no path goes there.` }]
  })

/** A required or optional move of a tour. `index` is the transition it stands for, or −1. */
interface Move extends Arc {
  readonly required: boolean
  readonly index: number
}

/**
 * The cheapest closed walk over all required moves, cut at node 0, where each path begins and ends. The first move leads out of
 * node 0 and is required, so that there is a path at all. Required moves hang together whenever each can be reached from
 * node 0 over required ones, which holds for transitions and for pairs alike; then the walk is the cheapest there is.
 * Source: J. Edmonds, E. L. Johnson, "Matching, Euler tours and the Chinese postman", Mathematical Programming 5 (1973).
 */
function tour(nodes: number, moves: readonly Move[]): number[][] {
  const supply = new Array<number>(nodes).fill(0)
  for (const { from, to, required } of moves) {
    if (!required) continue
    supply[to]!++
    supply[from]!--
  }
  const flow = cheapestFlow(nodes, moves, supply)
  if (!flow) throw new RangeError('a move that no path can make was asked for')
  const walk = closedWalk(
    0,
    moves.map(({ from, to, required }, at) => ({ from, to, times: flow[at]! + (required ? 1 : 0) })),
  )
  const paths: number[][] = []
  for (const at of walk) {
    const { from, index } = moves[at]!
    if (from === 0) paths.push([])
    if (index >= 0) paths.at(-1)!.push(index)
  }
  return paths.filter(({ length }) => length > 0)
}

function transitionPaths({ states, ends, edges, initial }: Graph): number[][] {
  const node = (state: number): number => state + 1
  return tour(states.length + 1, [
    { from: 0, to: node(initial), cost: 1, required: true, index: -1 },
    ...edges.map(({ index, from, to }) => ({ from: node(from), to: node(to), cost: stepCost, required: true, index })),
    ...states.flatMap((_, state) =>
      ends[state] ? [{ from: node(state), to: 0, cost: 0, required: false, index: -1 }] : [],
    ),
  ])
}

/** Pairs of transitions that follow each other, as positions among the usable ones. */
function pairsOf({ edges, states }: Graph): (readonly [first: number, second: number])[] {
  const leaving: number[][] = states.map(() => [])
  edges.forEach(({ from }, at) => leaving[from]!.push(at))
  const count = edges.reduce((sum, { to }) => sum + leaving[to]!.length, 0)
  if (count > mostPairs)
    throw new Refusal(
      'too-large',
      `The graph has ${count.toLocaleString('en-GB')} pairs of transitions; at most ${mostPairs.toLocaleString('en-GB')} are walked. Take the criterion transitions.`,
      { fields: [{ field: 'transitions', message: 'too many pairs' }] },
    )
  return edges.flatMap(({ to }, first) => leaving[to]!.map((second) => [first, second] as const))
}

function pairPaths(graph: Graph, pairs: readonly (readonly [number, number])[]): number[][] {
  const { edges, ends, initial } = graph
  const start = edges.length + 1
  return tour(edges.length + 2, [
    { from: 0, to: start, cost: 1, required: true, index: -1 },
    ...edges.flatMap(({ index, from, to }, at): Move[] => [
      ...(from === initial ? [{ from: start, to: at + 1, cost: stepCost, required: false, index }] : []),
      ...(ends[to] ? [{ from: at + 1, to: 0, cost: 0, required: false, index: -1 }] : []),
    ]),
    ...pairs.map(([first, second]) => ({
      from: first + 1,
      to: second + 1,
      cost: stepCost,
      required: true,
      index: edges[second]!.index,
    })),
  ])
}

/** Below this many states the order of visits is found exactly. */
const exactStates = 13

/**
 * Paths that visit every state. The fewest steps are hard to find (a Hamiltonian path would be one), so the order is exact
 * only for small graphs (M. Held, R. M. Karp, Journal of SIAM 10, 1962) and else the nearest next state, improved by moving
 * visits while that helps.
 */
function statePaths(graph: Graph): number[][] {
  const { states, ends, edges, initial, usable } = graph
  const leaving: { readonly to: number; readonly index: number }[][] = states.map(() => [])
  for (const { from, to, index } of edges) leaving[from]!.push({ to, index })
  const ways = states.map((_, state) => (usable[state] ? shortest(state, leaving) : null))
  const far = (from: number, to: number): number => ways[from]?.distance[to] ?? Infinity
  const nearestEnd = states.map((_, state) =>
    states.reduce(
      (best, _each, end) => (ends[end] && (best < 0 || far(state, end) < far(state, best)) ? end : best),
      -1,
    ),
  )
  const cost = (from: number, to: number): number => Math.min(far(from, to) * stepCost, restart(from, to))
  const restart = (from: number, to: number): number => (far(from, nearestEnd[from]!) + far(initial, to)) * stepCost + 1
  const closing = (from: number): number => far(from, nearestEnd[from]!) * stepCost
  const toVisit = states.flatMap((_, state) => (usable[state] && state !== initial ? [state] : []))
  if (toVisit.length === 0) return []
  const order =
    toVisit.length < exactStates
      ? exactOrder(initial, toVisit, cost, closing)
      : goodOrder(initial, toVisit, cost, closing)
  const paths: number[][] = [[]]
  const seen = new Set([initial])
  let here = initial
  const walk = (to: number): void => {
    const steps: number[] = []
    for (let at = to; at !== here; at = ways[here]!.before[at]!) {
      seen.add(at)
      steps.push(ways[here]!.by[at]!)
    }
    paths.at(-1)!.push(...steps.reverse())
    here = to
  }
  for (const state of order) {
    if (seen.has(state)) continue
    if (restart(here, state) < far(here, state) * stepCost) {
      walk(nearestEnd[here]!)
      paths.push([])
      here = initial
    }
    walk(state)
  }
  walk(nearestEnd[here]!)
  return paths
}

interface Ways {
  readonly distance: readonly number[]
  readonly before: readonly number[]
  readonly by: readonly number[]
}

function shortest(
  from: number,
  leaving: readonly (readonly { readonly to: number; readonly index: number }[])[],
): Ways {
  const distance = leaving.map(() => Infinity)
  const before = leaving.map(() => -1)
  const by = leaving.map(() => -1)
  distance[from] = 0
  const waiting = [from]
  for (const state of waiting)
    for (const { to, index } of leaving[state]!) {
      if (distance[to]! < Infinity) continue
      distance[to] = distance[state]! + 1
      before[to] = state
      by[to] = index
      waiting.push(to)
    }
  return { distance, before, by }
}

type Cost = (from: number, to: number) => number

function exactOrder(
  initial: number,
  visits: readonly number[],
  cost: Cost,
  closing: (from: number) => number,
): number[] {
  const size = visits.length
  const full = (1 << size) - 1
  const best = new Float64Array((full + 1) * size).fill(Infinity)
  const before = new Int8Array((full + 1) * size).fill(-1)
  visits.forEach((state, at) => (best[(1 << at) * size + at] = cost(initial, state)))
  const extend = (set: number, last: number, so: number): void => {
    for (let next = 0; next < size; next++) {
      const at = (set | (1 << next)) * size + next
      const sum = so + cost(visits[last]!, visits[next]!)
      if ((set & (1 << next)) !== 0 || sum >= best[at]!) continue
      best[at] = sum
      before[at] = last
    }
  }
  for (let set = 1; set <= full; set++)
    for (let last = 0; last < size; last++)
      if (best[set * size + last]! < Infinity) extend(set, last, best[set * size + last]!)
  let last = visits.reduce(
    (chosen, state, at) =>
      best[full * size + at]! + closing(state) < best[full * size + chosen]! + closing(visits[chosen]!) ? at : chosen,
    0,
  )
  const order: number[] = []
  for (let set = full; last >= 0;) {
    order.push(visits[last]!)
    const previous = before[set * size + last]!
    set &= ~(1 << last)
    last = previous
  }
  return order.reverse()
}

function goodOrder(
  initial: number,
  visits: readonly number[],
  cost: Cost,
  closing: (from: number) => number,
): number[] {
  const left = new Set(visits)
  let order: number[] = []
  for (let here = initial; left.size > 0;) {
    const next = [...left].reduce((best, state) => (cost(here, state) < cost(here, best) ? state : best))
    order.push(next)
    left.delete(next)
    here = next
  }
  const link = (from: number | undefined, to: number | undefined): number =>
    from === undefined ? 0 : to === undefined ? closing(from) : cost(from, to)
  const at = (place: number): number | undefined => (place < 0 ? initial : order[place])
  /** Moves one run of up to three visits to a place where that saves something; false when no move saves anything. */
  const improve = (): boolean => {
    const moves = order.flatMap((_, place) =>
      [1, 2, 3].filter((length) => place + length <= order.length).map((length) => ({ place, length })),
    )
    for (const { place, length } of moves) {
      const [first, last] = [at(place)!, at(place + length - 1)!]
      const saved =
        link(at(place - 1), first) + link(last, at(place + length)) - link(at(place - 1), at(place + length))
      const to = [-1, ...order.keys()].find(
        (gap) =>
          (gap < place - 1 || gap >= place + length) &&
          link(at(gap), first) + link(last, at(gap + 1)) - link(at(gap), at(gap + 1)) < saved,
      )
      if (to === undefined) continue
      const block = order.slice(place, place + length)
      const rest = [...order.slice(0, place), ...order.slice(place + length)]
      const into = to < place ? to + 1 : to + 1 - length
      order = [...rest.slice(0, into), ...block, ...rest.slice(into)]
      return true
    }
    return false
  }
  while (improve());
  return order
}

/**
 * Paths from the initial state (to a final one, where there are any) that cover a criterion with the fewest steps, then the
 * fewest paths; for transitions and pairs of transitions that is proved. Invalid events are listed: an event of the graph in
 * a state that has no transition for it.
 * Criteria as in ISO/IEC/IEEE 29119-4, 5.2.8, and T. S. Chow, "Testing software design modeled by finite-state machines",
 * IEEE Transactions on Software Engineering 4 (1978), for pairs.
 */
export function statePathsFor(model: PathsModel, criterion: Criterion): PathsAnswer {
  const { graph, notices } = graphOf(model)
  const { edges, states, reached, usable } = graph
  const used = new Set(edges.map(({ index }) => index))
  const events = [...new Set(model.transitions.map(({ event }) => event).filter((event) => event !== ''))]
  const taken = new Set(model.transitions.map(({ from, event }) => `${from}\n${event}`))
  const invalid = states
    .filter((_, at) => reached[at])
    .flatMap((state) => events.filter((event) => !taken.has(`${state}\n${event}`)).map((event) => ({ state, event })))
  const pairs = criterion === 'pairs' ? pairsOf(graph) : []
  const paths =
    criterion === 'states'
      ? statePaths(graph)
      : criterion === 'transitions'
        ? edges.length > 0
          ? transitionPaths(graph)
          : []
        : pairs.length > 0
          ? pairPaths(graph, pairs)
          : []
  const of =
    criterion === 'states' ? usable.filter(Boolean).length : criterion === 'transitions' ? edges.length : pairs.length
  const steps = paths.reduce((sum, path) => sum + path.length, 0)
  return {
    paths,
    steps,
    covered: targetsOn(model, paths, criterion).size,
    of,
    unreachable: model.transitions.flatMap((_, at) => (used.has(at) ? [] : [at])),
    invalid,
    least: criterion === 'states' ? (of - 1 <= exactStates - 1 ? steps : of - 1) : steps,
    notices,
  }
}

/** To each state that can be reached, the fewest transitions from the initial one, by their indices. */
export function waysTo(model: PathsModel): ReadonlyMap<string, readonly number[]> {
  const ways = new Map<string, readonly number[]>([[model.initial, []]])
  for (const [state, way] of ways)
    model.transitions.forEach(({ from, to }, at) => {
      if (from === state && !ways.has(to)) ways.set(to, [...way, at])
    })
  return ways
}

/** The targets of a criterion that walked paths cover: states, transitions or pairs of them, by their indices. */
export function targetsOn(model: PathsModel, paths: readonly (readonly number[])[], criterion: Criterion): Set<string> {
  if (criterion === 'states')
    return new Set([
      model.initial,
      ...paths.flatMap((path) => path.flatMap((at) => [model.transitions[at]!.from, model.transitions[at]!.to])),
    ])
  if (criterion === 'transitions') return new Set(paths.flat().map(String))
  return new Set(paths.flatMap((path) => path.slice(1).map((at, before) => `${path[before]!},${at}`)))
}
