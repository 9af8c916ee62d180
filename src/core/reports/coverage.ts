import { groupBy } from '#core/lib/group.ts'
import { type StaleReason, staleReasons } from '#core/runs/freshness.ts'
import { rollUpSlots, type Verdict, verdicts } from '#core/lib/verdict.ts'

/** A slot's result as one requirement sees it. `confidence` is 0…1 and 1 when `reasons` is empty. */
export interface SlotResult {
  readonly verdict: Verdict
  /** The project's own word it was given in. */
  readonly word?: string
  readonly confidence: number
  readonly reasons: readonly StaleReason[]
}

/** A case linked to a requirement, with one result per slot the scope asks for. */
export interface LinkedCase {
  readonly case: number
  /** Has a step or is automated; a titled case with none is only drafted. */
  readonly designed: boolean
  readonly slots: readonly SlotResult[]
}

export interface CoverageNode {
  readonly id: number
  readonly parent: number | null
  /** Likelihood × impact, or `null` when nobody gave it. */
  readonly risk: number | null
  readonly cases: readonly LinkedCase[]
}

/** As recorded, on current results only, and weighted by confidence: the same denominator in all three. */
interface Three {
  readonly recorded: number | null
  readonly current: number | null
  readonly confident: number | null
}

interface Figures {
  /** Requirements without children, plus one for a parent with links of its own. */
  readonly leaves: number
  readonly uncovered: number
  readonly cases: number
  readonly drafted: number
  readonly slots: number
  readonly risk: number
  /** Slots by verdict; `stale` counts those of each verdict that are no longer current. */
  readonly verdicts: Readonly<Record<Verdict, number>>
  readonly stale: Readonly<Record<Verdict, number>>
  /** Slots by the project's own words; each is counted under its verdict as well. */
  readonly words: Readonly<Record<string, number>>
  readonly reasons: Readonly<Partial<Record<StaleReason, number>>>
  readonly designed: { readonly plain: number | null; readonly byRisk: number | null }
  readonly executed: { readonly plain: Three; readonly byRisk: Three }
  readonly passing: { readonly plain: Three; readonly byRisk: Three }
  readonly fullyPassing: { readonly plain: Three; readonly byRisk: Three }
}

type RequirementState = Verdict | 'uncovered'
export interface NodeCoverage {
  readonly id: number
  readonly risk: number
  readonly riskGiven: boolean
  readonly state: RequirementState
  readonly figures: Figures
}

/** What a risk nobody gave counts as: the middle of the five-by-five grid. */
export const assumedRisk = 9

/**
 * Coverage of an outline: each requirement with its own cases and everything below it, and the whole.
 * A case linked at several places below a parent is counted there once, with the lowest confidence any of
 * its links leaves it. Cases linked once are added up from their leaf; only shared ones are carried as such,
 * so that the cost is linear in slots and not in slots times levels.
 */
export function coverage(
  nodes: readonly CoverageNode[],
  leaves: LeafMemo = new WeakMap(),
): { readonly total: NodeCoverage; readonly byId: ReadonlyMap<number, NodeCoverage> } {
  const known = new Set(nodes.map(({ id }) => id))
  const children = groupBy(nodes, ({ parent }) => (parent !== null && known.has(parent) ? parent : null))
  const shared = sharedCases(nodes)
  const byId = new Map<number, NodeCoverage>()
  const gather = (node: CoverageNode): Gathered => {
    const below = (children.get(node.id) ?? []).map(gather)
    const own =
      below.length === 0 || node.cases.length > 0
        ? [leaves.get(node.cases) ?? remembered(leaves, node, leafOf(node, shared))]
        : []
    const all = merge([...own, ...below])
    byId.set(node.id, nodeCoverage(node, all))
    return all
  }
  const all = merge((children.get(null) ?? []).map(gather))
  return { total: nodeCoverage({ id: 0, risk: null }, all), byId }
}

/**
 * What was gathered for a leaf, by the very list of its cases: a caller that keeps the lists of what has not
 * changed, over one structure of requirements and links, has only the changed leaves counted again.
 */
export type LeafMemo = WeakMap<readonly LinkedCase[], Gathered>

function remembered(leaves: LeafMemo, node: CoverageNode, leaf: Gathered): Gathered {
  leaves.set(node.cases, leaf)
  return leaf
}

function sharedCases(nodes: readonly CoverageNode[]): ReadonlySet<number> {
  const seen = new Set<number>()
  const shared = new Set<number>()
  for (const node of nodes)
    for (const linked of node.cases) {
      if (seen.has(linked.case)) shared.add(linked.case)
      seen.add(linked.case)
    }
  return shared
}

interface Gathered {
  /** Cases linked once, added up. */
  readonly tally: Tally
  /** Cases linked at several places, which must be counted once. */
  readonly shared: ReadonlyMap<number, LinkedCase>
  readonly sums: Sums
}

type Triple = readonly [recorded: number, current: number, confident: number]

/** Counts over slots; filled by one pass. */
interface Tally {
  cases: number
  drafted: number
  slots: number
  verdicts: Record<Verdict, number>
  stale: Record<Verdict, number>
  words: Record<string, number>
  reasons: Partial<Record<StaleReason, number>>
  passed: [number, number, number]
  executed: [number, number, number]
}

/** What adds up over leaves and not over cases: weights by risk. */
interface Sums {
  readonly leaves: number
  readonly uncovered: number
  readonly risk: number
  readonly designed: number
  readonly designedRisk: number
  readonly states: ReadonlySet<Verdict>
  readonly executedRisk: Triple
  readonly passingRisk: Triple
  readonly full: Triple
  readonly fullRisk: Triple
}
const nought: Triple = [0, 0, 0]
const plus = (a: Triple, b: Triple): Triple => [a[0] + b[0], a[1] + b[1], a[2] + b[2]]
const times = (a: Triple, by: number): Triple => [a[0] * by, a[1] * by, a[2] * by]

const noVerdicts = (): Record<Verdict, number> => ({
  Passed: 0,
  Failed: 0,
  Blocked: 0,
  Skipped: 0,
  Inconclusive: 0,
  'Not run': 0,
  'In progress': 0,
})
const emptyTally = (): Tally => ({
  cases: 0,
  drafted: 0,
  slots: 0,
  verdicts: noVerdicts(),
  stale: noVerdicts(),
  words: {},
  reasons: {},
  passed: [0, 0, 0],
  executed: [0, 0, 0],
})

function count(into: Tally, linked: LinkedCase): void {
  if (!linked.designed) {
    into.drafted += 1
    return
  }
  into.cases += 1
  for (const slot of linked.slots) countSlot(into, slot)
}

function countSlot(into: Tally, { verdict, word, confidence, reasons }: SlotResult): void {
  into.slots += 1
  into.verdicts[verdict] += 1
  const current = reasons.length === 0 ? 1 : 0
  if (current === 0) into.stale[verdict] += 1
  if (word !== undefined) into.words[word] = (into.words[word] ?? 0) + 1
  for (const reason of reasons) into.reasons[reason] = (into.reasons[reason] ?? 0) + 1
  if (verdict !== 'Passed' && verdict !== 'Failed' && verdict !== 'Inconclusive') return
  addTriple(into.executed, [1, current, confidence])
  if (verdict === 'Passed') addTriple(into.passed, [1, current, confidence])
}

function addTriple(into: [number, number, number], of: Triple): void {
  into[0] += of[0]
  into[1] += of[1]
  into[2] += of[2]
}

function addTally(into: Tally, of: Tally): void {
  into.cases += of.cases
  into.drafted += of.drafted
  into.slots += of.slots
  for (const verdict of verdicts) {
    into.verdicts[verdict] += of.verdicts[verdict]
    into.stale[verdict] += of.stale[verdict]
  }
  for (const [word, n] of Object.entries(of.words)) into.words[word] = (into.words[word] ?? 0) + n
  for (const reason of staleReasons) {
    const n = of.reasons[reason]
    if (n !== undefined) into.reasons[reason] = (into.reasons[reason] ?? 0) + n
  }
  addTriple(into.passed, of.passed)
  addTriple(into.executed, of.executed)
}

function leafOf(node: CoverageNode, sharedIds: ReadonlySet<number>): Gathered {
  const all = emptyTally()
  const once = emptyTally()
  const shared = new Map<number, LinkedCase>()
  for (const linked of node.cases) {
    count(all, linked)
    if (sharedIds.has(linked.case)) shared.set(linked.case, linked)
    else count(once, linked)
  }
  return { tally: once, shared, sums: leafSums(node, all) }
}

function leafSums(node: CoverageNode, tally: Tally): Sums {
  const risk = node.risk ?? assumedRisk
  const state = rollUpSlots(verdicts.filter((verdict) => tally.verdicts[verdict] > 0))
  const per = tally.slots === 0 ? 0 : 1 / tally.slots
  const passing = times(tally.passed, per)
  const full: Triple = state === 'Passed' ? [1, passing[1] === 1 ? 1 : 0, passing[2]] : nought
  const covered = tally.cases > 0
  return {
    leaves: 1,
    uncovered: covered ? 0 : 1,
    risk,
    designed: covered ? 1 : 0,
    designedRisk: covered ? risk : 0,
    states: new Set(state === null ? [] : [state]),
    executedRisk: times(times(tally.executed, per), risk),
    passingRisk: times(passing, risk),
    full,
    fullRisk: times(full, risk),
  }
}

function merge(parts: readonly Gathered[]): Gathered {
  const only = parts[0]
  if (parts.length === 1 && only) return only
  const tally = emptyTally()
  const shared = new Map<number, LinkedCase>()
  for (const part of parts) {
    addTally(tally, part.tally)
    for (const [key, linked] of part.shared) shared.set(key, lowest(shared.get(key), linked))
  }
  return { tally, shared, sums: parts.map(({ sums }) => sums).reduce(addSums, emptySums) }
}

const emptySums: Sums = {
  leaves: 0,
  uncovered: 0,
  risk: 0,
  designed: 0,
  designedRisk: 0,
  states: new Set(),
  executedRisk: nought,
  passingRisk: nought,
  full: nought,
  fullRisk: nought,
}

const addSums = (a: Sums, b: Sums): Sums => ({
  leaves: a.leaves + b.leaves,
  uncovered: a.uncovered + b.uncovered,
  risk: a.risk + b.risk,
  designed: a.designed + b.designed,
  designedRisk: a.designedRisk + b.designedRisk,
  states: new Set([...a.states, ...b.states]),
  executedRisk: plus(a.executedRisk, b.executedRisk),
  passingRisk: plus(a.passingRisk, b.passingRisk),
  full: plus(a.full, b.full),
  fullRisk: plus(a.fullRisk, b.fullRisk),
})

function lowest(a: LinkedCase | undefined, b: LinkedCase): LinkedCase {
  if (!a || a === b) return b
  const slots = a.slots.map((slot, index) => {
    const other = b.slots[index]
    return other && other.confidence < slot.confidence ? other : slot
  })
  return { ...a, slots }
}

function nodeCoverage(
  node: { id: number; risk: number | null },
  { tally: once, shared, sums }: Gathered,
): NodeCoverage {
  const tally = emptyTally()
  addTally(tally, once)
  for (const linked of shared.values()) count(tally, linked)
  const { slots } = tally
  // An uncovered part is a part nobody has run: it keeps a parent from reading Passed.
  const state = rollUpSlots([
    ...sums.states,
    ...(sums.uncovered > 0 && sums.states.size > 0 ? ['Not run' as const] : []),
  ])
  return {
    id: node.id,
    risk: node.risk ?? assumedRisk,
    riskGiven: node.risk !== null,
    // Cases there are, but nothing is asked of them here: they cannot be tested yet, or not in this environment.
    state: state ?? (sums.designed > 0 ? 'Not run' : 'uncovered'),
    figures: {
      leaves: sums.leaves,
      uncovered: sums.uncovered,
      cases: tally.cases,
      drafted: tally.drafted,
      slots,
      risk: sums.risk,
      verdicts: tally.verdicts,
      stale: tally.stale,
      words: tally.words,
      reasons: tally.reasons,
      designed: { plain: ratio(sums.designed, sums.leaves), byRisk: ratio(sums.designedRisk, sums.risk) },
      executed: { plain: three(tally.executed, slots), byRisk: three(sums.executedRisk, slots && sums.risk) },
      passing: { plain: three(tally.passed, slots), byRisk: three(sums.passingRisk, slots && sums.risk) },
      fullyPassing: { plain: three(sums.full, slots && sums.leaves), byRisk: three(sums.fullRisk, slots && sums.risk) },
    },
  }
}

const ratio = (part: number, whole: number): number | null => (whole > 0 ? part / whole : null)
const three = (of: Triple, whole: number): Three => ({
  recorded: ratio(of[0], whole),
  current: ratio(of[1], whole),
  confident: ratio(of[2], whole),
})
