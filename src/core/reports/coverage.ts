import type { StaleReason } from '#core/runs/freshness.ts'
import { type Verdict, rollUpSlots } from '#core/runs/verdict.ts'

/** A slot's result as one requirement sees it. `confidence` is 0…1 and 1 when `reasons` is empty. */
export interface SlotResult {
  readonly verdict: Verdict
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
export interface Three {
  readonly recorded: number | null
  readonly current: number | null
  readonly confident: number | null
}

export interface Figures {
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
  readonly reasons: Readonly<Partial<Record<StaleReason, number>>>
  readonly designed: { readonly plain: number | null; readonly byRisk: number | null }
  readonly executed: { readonly plain: Three; readonly byRisk: Three }
  readonly passing: { readonly plain: Three; readonly byRisk: Three }
  readonly fullyPassing: { readonly plain: Three; readonly byRisk: Three }
}

export type RequirementState = Verdict | 'uncovered'
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
 * its links leaves it. Cost is linear in links, but for parents, which see each case once per level.
 */
export function coverage(nodes: readonly CoverageNode[]): { readonly total: NodeCoverage; readonly byId: ReadonlyMap<number, NodeCoverage> } {
  const children = new Map<number | null, CoverageNode[]>()
  const known = new Set(nodes.map(({ id }) => id))
  for (const node of nodes) {
    const parent = node.parent !== null && known.has(node.parent) ? node.parent : null
    const siblings = children.get(parent)
    if (siblings) siblings.push(node)
    else children.set(parent, [node])
  }
  const byId = new Map<number, NodeCoverage>()
  const gather = (node: CoverageNode): Gathered => {
    const below = (children.get(node.id) ?? []).map(gather)
    const own = below.length === 0 || node.cases.length > 0 ? [leafOf(node)] : []
    const all = merge([...own, ...below])
    byId.set(node.id, nodeCoverage(node, all))
    return all
  }
  const all = merge((children.get(null) ?? []).map(gather))
  return { total: nodeCoverage({ id: 0, risk: null }, all), byId }
}

/** Leaf sums are kept apart from cases: weights by risk add up over leaves, cases must be counted once. */
interface Gathered {
  readonly cases: ReadonlyMap<number, LinkedCase>
  readonly sums: Sums
}

interface Sums {
  readonly leaves: number
  readonly uncovered: number
  readonly risk: number
  readonly designed: number
  readonly designedRisk: number
  readonly states: readonly Verdict[]
  readonly executedRisk: Triple
  readonly passingRisk: Triple
  readonly full: Triple
  readonly fullRisk: Triple
}
type Triple = readonly [number, number, number]
const nought: Triple = [0, 0, 0]
const plus = (a: Triple, b: Triple): Triple => [a[0] + b[0], a[1] + b[1], a[2] + b[2]]
const times = (a: Triple, by: number): Triple => [a[0] * by, a[1] * by, a[2] * by]

const isPassed = (slot: SlotResult): boolean => slot.verdict === 'Passed'
const isExecuted = (slot: SlotResult): boolean => slot.verdict === 'Passed' || slot.verdict === 'Failed' || slot.verdict === 'Inconclusive'
const isDesigned = (linked: LinkedCase): boolean => linked.designed

function sumOf(slots: readonly SlotResult[], counts: (slot: SlotResult) => boolean): Triple {
  let recorded = 0
  let current = 0
  let confident = 0
  for (const slot of slots) {
    if (!counts(slot)) continue
    recorded += 1
    if (slot.reasons.length === 0) current += 1
    confident += slot.confidence
  }
  return [recorded, current, confident]
}

function leafOf(node: CoverageNode): Gathered {
  const designed = node.cases.filter(isDesigned)
  const slots = designed.flatMap((linked) => linked.slots)
  const risk = node.risk ?? assumedRisk
  const state = rollUpSlots(slots.map(({ verdict }) => verdict))
  const per = slots.length === 0 ? 0 : 1 / slots.length
  const passing = times(sumOf(slots, isPassed), per)
  const full: Triple = state === 'Passed' ? [1, passing[1] === 1 ? 1 : 0, passing[2]] : nought
  return {
    cases: new Map(node.cases.map((linked) => [linked.case, linked])),
    sums: {
      leaves: 1,
      uncovered: designed.length === 0 ? 1 : 0,
      risk,
      designed: designed.length > 0 ? 1 : 0,
      designedRisk: designed.length > 0 ? risk : 0,
      states: state === null ? [] : [state],
      executedRisk: times(times(sumOf(slots, isExecuted), per), risk),
      passingRisk: times(passing, risk),
      full,
      fullRisk: times(full, risk),
    },
  }
}

function merge(parts: readonly Gathered[]): Gathered {
  const only = parts[0]
  if (parts.length === 1 && only) return only
  const cases = new Map<number, LinkedCase>()
  for (const part of parts) for (const [key, linked] of part.cases) cases.set(key, lowest(cases.get(key), linked))
  return { cases, sums: parts.map(({ sums }) => sums).reduce(addSums, emptySums) }
}

const emptySums: Sums = {
  leaves: 0, uncovered: 0, risk: 0, designed: 0, designedRisk: 0, states: [],
  executedRisk: nought, passingRisk: nought, full: nought, fullRisk: nought,
}

const addSums = (a: Sums, b: Sums): Sums => ({
  leaves: a.leaves + b.leaves,
  uncovered: a.uncovered + b.uncovered,
  risk: a.risk + b.risk,
  designed: a.designed + b.designed,
  designedRisk: a.designedRisk + b.designedRisk,
  states: [...new Set([...a.states, ...b.states])],
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

function nodeCoverage(node: { id: number; risk: number | null }, { cases, sums }: Gathered): NodeCoverage {
  const designed = [...cases.values()].filter(isDesigned)
  const slots = designed.flatMap((linked) => linked.slots)
  // An uncovered part is a part nobody has run: it keeps a parent from reading Passed.
  const state = rollUpSlots([...sums.states, ...(sums.uncovered > 0 && sums.states.length > 0 ? ['Not run' as const] : [])])
  return {
    id: node.id,
    risk: node.risk ?? assumedRisk,
    riskGiven: node.risk !== null,
    state: state ?? 'uncovered',
    figures: {
      leaves: sums.leaves,
      uncovered: sums.uncovered,
      cases: designed.length,
      drafted: cases.size - designed.length,
      slots: slots.length,
      risk: sums.risk,
      verdicts: tally(slots),
      stale: tally(slots.filter(({ reasons }) => reasons.length > 0)),
      reasons: tallyReasons(slots),
      designed: { plain: ratio(sums.designed, sums.leaves), byRisk: ratio(sums.designedRisk, sums.risk) },
      executed: { plain: three(sumOf(slots, isExecuted), slots.length), byRisk: three(sums.executedRisk, slots.length && sums.risk) },
      passing: { plain: three(sumOf(slots, isPassed), slots.length), byRisk: three(sums.passingRisk, slots.length && sums.risk) },
      fullyPassing: { plain: three(sums.full, slots.length && sums.leaves), byRisk: three(sums.fullRisk, slots.length && sums.risk) },
    },
  }
}

const ratio = (part: number, whole: number): number | null => (whole > 0 ? part / whole : null)
const three = (of: Triple, whole: number): Three => ({ recorded: ratio(of[0], whole), current: ratio(of[1], whole), confident: ratio(of[2], whole) })

function tally(slots: readonly SlotResult[]): Record<Verdict, number> {
  const counts: Record<Verdict, number> = { Passed: 0, Failed: 0, Blocked: 0, Skipped: 0, Inconclusive: 0, 'Not run': 0, 'In progress': 0 }
  for (const { verdict } of slots) counts[verdict] += 1
  return counts
}

function tallyReasons(slots: readonly SlotResult[]): Partial<Record<StaleReason, number>> {
  const counts: Partial<Record<StaleReason, number>> = {}
  for (const { reasons } of slots) for (const reason of reasons) counts[reason] = (counts[reason] ?? 0) + 1
  return counts
}
