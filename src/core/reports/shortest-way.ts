import { type Basis, type CriteriaFacts, type CriterionRule, evaluate, type Measure } from '#core/plans/criteria.ts'
import { type Goal, isReachable, shortestWay } from '#core/plans/shortest.ts'
import { assumedRisk, coverage, type CoverageNode, type LinkedCase, type SlotResult } from './coverage.ts'
import { type CriteriaOf, criteriaFacts, nodesOf } from './scope-criteria.ts'
import type { AnsweredSlot } from './scope-coverage.ts'

/** An item that would meet criteria if it passed. */
interface WayItem {
  readonly case: number
  readonly environment: number
  readonly minutes: number
  /** Places of the criteria it helps. */
  readonly helps: readonly number[]
}

export interface ShortestWay {
  readonly items: readonly WayItem[]
  readonly minutes: number
  /** No cheaper set does it; else none was found. */
  readonly exact: boolean
  /** Criteria that are not met now and would be, and those that no passing test can meet. */
  readonly meets: readonly number[]
  readonly cannot: readonly number[]
}

export interface WayOf {
  readonly facts: CriteriaOf
  /** Minutes of a case. */
  readonly minutes: (caseId: number) => number
  /** Slots in quarantine count as not run, whatever is executed. */
  readonly held: (slot: { readonly case: number; readonly environment: number }) => boolean
  /** What a result is worth whose link is suspect: that is for a review, not for a test. */
  readonly suspectWeight: number
}

/** The items as places in a list, by case and environment. */
class Items {
  readonly all: { readonly case: number; readonly environment: number }[] = []
  readonly #places = new Map<string, number>()
  readonly #held: WayOf['held']

  constructor(held: WayOf['held']) {
    this.#held = held
  }

  /** The place of a slot; `null` where executing it counts for nothing. */
  place(slot: { readonly case: number; readonly environment: number }): number | null {
    if (this.#held(slot)) return null
    const key = `${slot.case}:${slot.environment}`
    const known = this.#places.get(key)
    if (known !== undefined) return known
    this.#places.set(key, this.all.length)
    return this.all.push(slot) - 1
  }
}

/** What goals are made with. */
interface Reckoning extends WayOf {
  readonly told: CriteriaFacts
  readonly items: Items
  readonly isSuspect: ReturnType<typeof suspectLinks>
}

/**
 * The cheapest items that, if they pass, meet every criterion that testing can still meet. Criteria that are met now stay met:
 * a pass takes nothing away.
 */
export function shortestWayTo(rules: readonly CriterionRule[], of: WayOf): ShortestWay {
  const told = criteriaFacts(of.facts)
  const items = new Items(of.held)
  const reckoning: Reckoning = { ...of, told, items, isSuspect: suspectLinks(of.facts) }
  const open = rules.flatMap((rule, at) => (evaluate(rule, told).outcome === 'not met' ? [{ rule, at }] : []))
  const goals = open.map(({ rule, at }) => ({ at, goal: goalOf(rule, reckoning) }))
  const can = goals.flatMap(({ at, goal }) => (goal !== null && isReachable(goal) ? [{ at, goal }] : []))
  const minutes = items.all.map((slot) => of.minutes(slot.case))
  const way = shortestWay(
    minutes,
    can.map(({ goal }) => goal),
  ) ?? { items: [], minutes: 0, exact: true }
  const counted = can.map(({ at, goal }) => ({ at, items: itemsOf(goal) }))
  return {
    items: way.items.flatMap((place) => {
      const slot = items.all[place]
      const helps = counted.filter(({ items: own }) => own.has(place)).map(({ at }) => at)
      return slot ? [{ ...slot, minutes: minutes[place] ?? 0, helps }] : []
    }),
    minutes: way.minutes,
    exact: way.exact,
    meets: can.map(({ at }) => at),
    cannot: open.map(({ at }) => at).filter((at) => !can.some((each) => each.at === at)),
  }
}

const itemsOf = (goal: Goal): ReadonlySet<number> =>
  new Set(goal.kind === 'sum' ? goal.weights.keys() : goal.groups.flatMap(({ items }) => items))

/** What a criterion wants of the items; `null` where no test can give it. */
function goalOf(rule: CriterionRule, of: Reckoning): Goal | null {
  switch (rule.kind) {
    case 'share':
      if (rule.measure === 'designed') return null
      return rule.measure === 'fully passing' ? fullGoal(rule, of) : shareGoal({ ...rule, measure: rule.measure }, of)
    case 'important':
    case 'untold':
    case 'items': {
      const { missing } = evaluate(rule, of.told)
      if (missing.of !== 'slots') return null
      const { slots } = missing
      const places = slots.flatMap((slot) => of.items.place(slot) ?? [])
      return {
        kind: 'sum',
        need: lackingSlots(rule, slots.length, of),
        weights: new Map(places.map((place) => [place, 1])),
      }
    }
    default:
      return null
  }
}

/** So many of the slots that are missing have to be executed. */
function lackingSlots(
  rule: Extract<CriterionRule, { kind: 'important' | 'untold' | 'items' }>,
  missing: number,
  { told }: Reckoning,
): number {
  if (rule.kind === 'important') return missing
  if (rule.kind === 'untold') return missing - rule.atMost
  const all = told.cases.reduce((sum, { slots }) => sum + slots.length, 0)
  // So many may stay open that the share is still reached.
  return missing - Math.floor(all * (1 - rule.atLeast / 100) + 1e-9)
}

const executed = ['Passed', 'Failed', 'Inconclusive']

/** Is the link of a requirement and a case suspect? Executing the case leaves it so. */
function suspectLinks({ suspect }: Pick<CriteriaOf, 'suspect'>): (requirement: number, caseId: number) => boolean {
  const links = new Set(suspect.map((link) => `${link.requirement}:${link.case}`))
  return (requirement, caseId) => links.has(`${requirement}:${caseId}`)
}

function worth({ verdict, reasons, confidence }: SlotResult, measure: 'executed' | 'passing', basis: Basis): number {
  const counts = measure === 'passing' ? verdict === 'Passed' : executed.includes(verdict)
  if (!counts) return 0
  if (basis === 'recorded') return 1
  return basis === 'current' ? (reasons.length === 0 ? 1 : 0) : confidence
}

/** What it is worth once it has passed on what is newest. */
function worthThen(suspect: boolean, basis: Basis, suspectWeight: number): number {
  if (!suspect || basis === 'recorded') return 1
  return basis === 'current' ? 0 : suspectWeight
}

interface Share {
  readonly measure: 'executed' | 'passing'
  readonly basis: Basis
  readonly byRisk: boolean
  readonly branch: number | null
  readonly atLeast: number
}

/** A case's slots as the requirements of the scope see them. */
interface Seen {
  readonly slots: readonly SlotResult[]
  readonly suspect: boolean
}

function shareGoal(rule: Share, of: Reckoning): Goal {
  const nodes = nodesOf(of.facts, rule.branch)
  const { isSuspect, items } = of
  const weights = new Map<number, number>()
  let have = 0
  const count = (id: number, slots: readonly SlotResult[], suspect: boolean, weight: number) =>
    slots.forEach((slot, at) => {
      const now = worth(slot, rule.measure, rule.basis) * weight
      have += now
      const gain = worthThen(suspect, rule.basis, of.suspectWeight) * weight - now
      const environment = environmentAt(of.facts.slots, id, at)
      const place = gain > 1e-12 && environment !== null ? items.place({ case: id, environment }) : null
      if (place !== null) weights.set(place, (weights.get(place) ?? 0) + gain)
    })
  if (rule.byRisk) {
    const leaves = leavesOf(nodes)
    const risk = leaves.reduce((sum, leaf) => sum + leaf.risk, 0)
    for (const leaf of leaves) {
      const all = leaf.cases.reduce((sum, { slots }) => sum + slots.length, 0)
      for (const linked of leaf.cases)
        count(linked.case, linked.slots, isSuspect(leaf.id, linked.case), leaf.risk / risk / Math.max(1, all))
    }
  } else {
    const cases = casesOf(nodes, isSuspect)
    const all = [...cases.values()].reduce((sum, { slots }) => sum + slots.length, 0)
    for (const [id, { slots, suspect }] of cases) count(id, slots, suspect, 1 / all)
  }
  return { kind: 'sum', need: rule.atLeast / 100 - have, weights }
}

const environmentAt = (slots: CriteriaOf['slots'], id: number, at: number): number | null =>
  (slots.get(id) as readonly AnsweredSlot[] | undefined)?.[at]?.environment ?? null

/** Each case once, with the lowest confidence any of its links leaves it. */
function casesOf(nodes: readonly CoverageNode[], isSuspect: ReturnType<typeof suspectLinks>): Map<number, Seen> {
  const seen = new Map<number, Seen>()
  for (const { id, cases } of nodes)
    for (const linked of cases) {
      if (!linked.designed) continue
      const before = seen.get(linked.case)
      const slots = before
        ? before.slots.map((slot, at) => {
            const other = linked.slots[at]
            return other && other.confidence < slot.confidence ? other : slot
          })
        : linked.slots
      seen.set(linked.case, { slots, suspect: isSuspect(id, linked.case) || (before?.suspect ?? false) })
    }
  return seen
}

interface Leaf {
  readonly id: number
  readonly risk: number
  readonly cases: readonly LinkedCase[]
}

/** Requirements without children, and a parent's own cases as one more. */
function leavesOf(nodes: readonly CoverageNode[]): Leaf[] {
  const parents = new Set(nodes.map(({ parent }) => parent))
  return nodes.flatMap(({ id, risk, cases }) =>
    parents.has(id) && cases.length === 0
      ? []
      : [{ id, risk: risk ?? assumedRisk, cases: cases.filter(({ designed }) => designed) }],
  )
}

/** A requirement counts once all its slots have passed; on confident results as far as they are trusted then. */
function fullGoal(rule: Omit<Share, 'measure'> & { readonly measure: Measure }, of: Reckoning): Goal {
  const leaves = leavesOf(nodesOf(of.facts, rule.branch))
  const whole = rule.byRisk ? leaves.reduce((sum, leaf) => sum + leaf.risk, 0) : leaves.length
  let have = 0
  const groups: { weight: number; items: number[] }[] = []
  for (const leaf of leaves) {
    const weight = (rule.byRisk ? leaf.risk : 1) / whole
    const { open, possible, then } = lackingIn(leaf, rule.basis, of)
    if (leaf.cases.every(({ slots }) => slots.length === 0) || !possible) continue
    if (open.length === 0) have += weight * then
    else groups.push({ weight: weight * then, items: open })
  }
  return { kind: 'groups', need: rule.atLeast / 100 - have, groups }
}

/** Items a requirement still lacks, and what it is worth then. */
function lackingIn({ id, cases }: Leaf, basis: Basis, of: Reckoning) {
  const { isSuspect, items } = of
  const open: number[] = []
  let possible = true
  let [sum, count] = [0, 0]
  for (const linked of cases) {
    const suspect = isSuspect(id, linked.case)
    linked.slots.forEach((slot, at) => {
      const then = worthThen(suspect, basis, of.suspectWeight)
      const now = worth(slot, 'passing', basis)
      count++
      if (now >= then - 1e-12 && now > 0) {
        sum += now
        if (basis === 'current' && now < 1) possible = false
        return
      }
      sum += then
      if (then === 0) possible = false
      const environment = environmentAt(of.facts.slots, linked.case, at)
      const place = environment === null ? null : items.place({ case: linked.case, environment })
      if (place === null) possible = false
      else open.push(place)
    })
  }
  return { open: [...new Set(open)], possible, then: count === 0 ? 0 : sum / count }
}

/** The same facts as if some items had passed on the newest build just now. */
export function asPassed(
  of: WayOf,
  passed: readonly { readonly case: number; readonly environment: number }[],
): CriteriaOf {
  const keys = new Set(passed.map((slot) => `${slot.case}:${slot.environment}`))
  const isSuspect = suspectLinks(of.facts)
  const then = (slot: SlotResult, id: number, environment: number | null, suspect: boolean): SlotResult =>
    environment === null || !keys.has(`${id}:${environment}`)
      ? slot
      : {
          ...slot,
          verdict: 'Passed',
          reasons: suspect ? ['requirement changed'] : [],
          confidence: suspect ? of.suspectWeight : 1,
        }
  const nodes = of.facts.nodes.map((node) => ({
    ...node,
    cases: node.cases.map((linked) => ({
      ...linked,
      slots: linked.slots.map((slot, at) =>
        then(slot, linked.case, environmentAt(of.facts.slots, linked.case, at), isSuspect(node.id, linked.case)),
      ),
    })),
  }))
  return {
    ...of.facts,
    nodes,
    whole: () => coverage(nodes),
    slots: new Map(
      [...of.facts.slots].map(([id, slots]) => [
        id,
        slots.map((slot): AnsweredSlot => {
          const next = then(slot, id, slot.environment, false)
          if (next === slot) return slot
          const standing = {
            caseId: id,
            environmentId: slot.environment,
            buildId: of.facts.newestBuild ?? 0,
            attemptId: -1,
            verdict: 'Passed' as const,
            finishedAt: of.facts.asOf,
            fingerprint: '',
          }
          return { ...slot, ...next, standing }
        }),
      ]),
    ),
  }
}
