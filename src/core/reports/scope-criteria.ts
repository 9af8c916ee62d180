import type { Basis, CriteriaFacts, CriterionSlot, Measure } from '#core/plans/criteria.ts'
import type { Importance } from '#core/cases/case.ts'
import type { Severity } from '#core/defects/state.ts'
import { groupBy } from '#core/lib/group.ts'
import { coverage, type CoverageNode, type NodeCoverage } from './coverage.ts'
import type { AnsweredSlot } from './scope-coverage.ts'

/** What is known of a scope, as criteria are evaluated from it. */
export interface CriteriaOf {
  readonly nodes: readonly CoverageNode[]
  /** The whole, where it was told before. */
  readonly whole: () => { readonly total: NodeCoverage; readonly byId: ReadonlyMap<number, NodeCoverage> }
  readonly slots: ReadonlyMap<number, readonly AnsweredSlot[]>
  readonly cases: readonly { readonly id: number; readonly importance: Importance; readonly approved: boolean }[]
  /** Cases that plans of the scope ask for, whatever they prove. */
  readonly asked: ReadonlySet<number>
  readonly newestBuild: number | null
  readonly asOf: number
  readonly told: ReadonlySet<number>
  readonly defects: readonly { readonly id: number; readonly severity: Severity }[]
  /** A case for each link that was confirmed against an older revision, by requirement. */
  readonly suspect: readonly { readonly requirement: number; readonly case: number }[]
  readonly openRuns: readonly number[]
  /** Cases that prove a requirement of the whole scope, where that is known. */
  readonly proving?: ReadonlySet<number>
  /** Slots told before, by the very list of a case's slots: after a verdict all but its own are the same. */
  readonly slotsTold?: WeakMap<readonly AnsweredSlot[], readonly CriterionSlot[]>
  /** Branches of the outline a plan is about, less those it leaves out; `null`: all of it. */
  readonly branches: { readonly inside: readonly number[]; readonly outside: readonly number[] } | null
}

const day = 86_400_000

/** The facts criteria are evaluated over; shares of a branch are told when a criterion asks for them, and once. */
export function criteriaFacts(of: CriteriaOf): CriteriaFacts {
  const children = groupBy(of.nodes, ({ parent }) => parent)
  const inScope = of.branches === null ? null : scopeOf(children, of.branches)
  const nodes = inScope === null ? of.nodes : of.nodes.filter(({ id }) => inScope.has(id))
  const told = new Map<number | null, ReturnType<CriteriaOf['whole']>>()
  const within = (branch: number | null) => {
    const known = told.get(branch)
    if (known) return known
    const own = branch === null ? null : branchOf(children, branch)
    const made =
      branch === null && inScope === null
        ? of.whole()
        : coverage((own === null ? nodes : nodes.filter(({ id }) => own.has(id))).map(rootedIn(own ?? inScope)))
    told.set(branch, made)
    return made
  }
  const proving =
    (inScope === null ? of.proving : undefined) ??
    new Set(nodes.flatMap((node) => node.cases.map((linked) => linked.case)))
  return {
    shares: ({ measure, basis, byRisk, branch }) => shareOf(within(branch).total, { measure, basis, byRisk }),
    lacking: ({ measure, basis, branch }) => lackingOf(nodes, children, { ...within(branch), measure, basis }),
    defects: of.defects,
    cases: casesOf(of, (id) => proving.has(id) || (inScope === null && of.asked.has(id))),
    suspect: of.suspect
      .filter(({ requirement }) => inScope === null || inScope.has(requirement))
      .map((link) => link.case),
    openRuns: of.openRuns,
  }
}

/** The requirements a criterion is about: those in the plan's scope, of one branch where it names one. */
export function nodesOf(of: Pick<CriteriaOf, 'nodes' | 'branches'>, branch: number | null): readonly CoverageNode[] {
  const children = groupBy(of.nodes, ({ parent }) => parent)
  const inScope = of.branches === null ? null : scopeOf(children, of.branches)
  const own = branch === null ? null : branchOf(children, branch)
  return of.nodes.filter(({ id }) => (inScope === null || inScope.has(id)) && (own === null || own.has(id)))
}

/** A part of the outline stands by itself: what is above it is not there. */
const rootedIn = (part: ReadonlySet<number> | null) => (node: CoverageNode) =>
  part === null || node.parent === null || part.has(node.parent) ? node : { ...node, parent: null }

function branchOf(children: ReadonlyMap<number | null, readonly CoverageNode[]>, root: number): Set<number> {
  const found = new Set<number>()
  const walk = (id: number): void => {
    if (found.has(id)) return
    found.add(id)
    for (const child of children.get(id) ?? []) walk(child.id)
  }
  walk(root)
  return found
}

function scopeOf(
  children: ReadonlyMap<number | null, readonly CoverageNode[]>,
  { inside, outside }: NonNullable<CriteriaOf['branches']>,
): Set<number> {
  const roots = inside.length > 0 ? inside : (children.get(null) ?? []).map(({ id }) => id)
  const all = new Set(roots.flatMap((id) => [...branchOf(children, id)]))
  for (const id of outside) for (const below of branchOf(children, id)) all.delete(below)
  return all
}

interface Asked {
  readonly measure: Measure
  readonly basis: Basis
}

function shareOf(
  { figures }: NodeCoverage,
  { measure, basis, byRisk }: Asked & { readonly byRisk: boolean },
): number | null {
  const way = byRisk ? 'byRisk' : 'plain'
  if (measure === 'designed') return figures.designed[way]
  const name = measure === 'fully passing' ? 'fullyPassing' : measure
  return figures[name][way][basis]
}

/** Leaves of the outline of which the measure does not wholly hold; of a parent, where its own cases fall short. */
function lackingOf(
  nodes: readonly CoverageNode[],
  children: ReadonlyMap<number | null, readonly CoverageNode[]>,
  { byId, measure, basis }: Asked & { readonly byId: ReadonlyMap<number, NodeCoverage> },
): number[] {
  return nodes.flatMap((node) => {
    const whole = byId.get(node.id)
    if (!whole) return []
    const isParent = (children.get(node.id)?.length ?? 0) > 0
    if (isParent && node.cases.length === 0) return []
    const own = isParent ? coverage([{ ...node, parent: null }]).total : whole
    return shareOf(own, { measure, basis, byRisk: false }) === 1 ? [] : [node.id]
  })
}

function casesOf(of: CriteriaOf, isIn: (id: number) => boolean): CriteriaFacts['cases'] {
  const cases: CriteriaFacts['cases'][number][] = []
  for (const { id, importance, approved } of of.cases)
    if (isIn(id)) cases.push({ id, importance, approved, slots: slotsOf(id, of) })
  return cases
}

function slotsOf(id: number, of: CriteriaOf): readonly CriterionSlot[] {
  const slots = of.slots.get(id) ?? none
  const known = of.slotsTold?.get(slots)
  if (known) return known
  const made = slots.map((slot) => slotFacts(slot, of))
  of.slotsTold?.set(slots, made)
  return made
}
const none: readonly AnsweredSlot[] = []

const slotFacts = (slot: AnsweredSlot, of: CriteriaOf): CriterionSlot => ({
  environment: slot.environment,
  verdict: slot.verdict,
  stale: slot.reasons.length > 0,
  onNewest: slot.standing !== null && slot.standing.buildId === of.newestBuild,
  days: slot.standing === null ? null : (of.asOf - slot.standing.finishedAt) / day,
  told: slot.standing !== null && of.told.has(slot.standing.attemptId),
})
