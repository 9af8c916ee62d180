import { type Quarantine, quarantineOf } from '#core/runs/quarantine.ts'
import { groupBy } from '#core/lib/group.ts'
import { type Freshness, type FreshnessRules, freshness } from '#core/runs/freshness.ts'
import { type BuildAt, buildsInScope, offeredAfter } from '#core/runs/standing.ts'
import type { SlotSet } from '#core/plans/asks.ts'
import type { Verdict } from '#core/lib/verdict.ts'
import type { CoverageNode, LinkedCase, SlotResult } from './coverage.ts'

/** A standing result of one case in one environment on one build. */
export interface StandingFact {
  readonly caseId: number
  readonly environmentId: number
  readonly buildId: number
  readonly attemptId: number
  readonly verdict: Verdict
  /** The project's own word it was given in. */
  readonly word?: string | null
  readonly finishedAt: number
  readonly fingerprint: string
  /** 1 where somebody said that it is not to be believed. */
  readonly doubted?: number
}

/** All that coverage in a scope is computed from; what is deleted, dropped or out of scope is already left out. */
export interface CoverageFacts {
  readonly requirements: readonly {
    readonly id: number
    readonly parent: number | null
    readonly risk: number | null
    readonly revision: number
  }[]
  readonly links: readonly { readonly requirement: number; readonly case: number; readonly confirmedRevision: number }[]
  readonly cases: readonly { readonly id: number; readonly designed: boolean; readonly fingerprint: string | null }[]
  /** Slots asked for. A case not named has one slot that any environment answers. */
  readonly slots: readonly SlotAsked[]
  readonly quarantined: readonly Quarantine[]
  /** Cases that cannot be tested yet: they have no slot. */
  readonly notYet?: ReadonlySet<number>
  readonly builds: readonly BuildAt[]
  readonly standing: readonly StandingFact[]
  /** Attempt → positions of the builds in which its linked defects are fixed. */
  readonly fixes: ReadonlyMap<number, readonly number[]>
  readonly anyEnvironment: number
}

/** A case in an environment; or, with `among`, in any of these. */
export interface SlotAsked {
  readonly case: number
  readonly environment: number
  readonly among?: readonly number[]
}

/** Slots of a case from the sets that are asked for it; an empty set is answered by any environment there is. */
export const slotsOf = (id: number, sets: readonly SlotSet[], anyEnvironment: number): SlotAsked[] =>
  sets.map((set) => {
    const [only] = set
    return set.length === 1 && only !== undefined
      ? { case: id, environment: only }
      : { case: id, environment: anyEnvironment, ...(set.length > 0 && { among: set }) }
  })

export interface CoverageScope {
  readonly release: number | null
  readonly build: number | null
  readonly environment: number | null
  readonly asOf: number
  readonly rules: FreshnessRules
}

/** A slot with the standing result that answers it, if one does. */
export interface AnsweredSlot extends SlotResult {
  /** Where it stands; where any of several would do, the one that answered or the first of them. */
  readonly environment: number
  readonly among?: readonly number[]
  readonly standing: StandingFact | null
  /** Builds came since that say they do not touch the case. */
  readonly spared?: true
}

/** Case → its slots in the scope, each with the result that stands there. */
export function answerSlots(facts: CoverageFacts, scope: CoverageScope): Map<number, AnsweredSlot[]> {
  const answer = slotAnswerer(facts, scope)
  const byCase = groupBy(facts.standing, ({ caseId }) => caseId)
  return new Map(facts.cases.map((each) => [each.id, answer(each, byCase.get(each.id) ?? [])]))
}

/** Answers the slots of one case from its own standing results: so that a verdict costs its case and not the project. */
export function slotAnswerer(
  facts: Omit<CoverageFacts, 'standing'>,
  scope: CoverageScope,
): (of: CaseFacts, standing: readonly StandingFact[]) => AnsweredSlot[] {
  const builds = buildsInScope(facts.builds, scope.release, scope.build)
  const positions = new Map(builds.map(({ id, position }) => [id, position]))
  const places = placesByCase(facts, scope)
  const answer = answering(facts, scope, builds)
  const held = quarantineOf(facts.quarantined)
  const usual: Wanted[] = [{ environment: scope.environment ?? facts.anyEnvironment }]
  return (of, standing) =>
    (facts.notYet?.has(of.id) ? [] : (places.get(of.id) ?? usual)).map(({ environment, among }) => {
      if (among) {
        // What is in quarantine in one of them does not hide what stands in another.
        const trusted = among.filter((each) => !held({ case: of.id, environment: each }))
        const newest = newestFor(standing, (each) => trusted.includes(each), positions)
        return { ...answer(of, newest?.environmentId ?? among[0] ?? environment, newest), among }
      }
      const only = environment === facts.anyEnvironment ? scope.environment : environment
      return answer(
        of,
        environment,
        newestFor(standing, (each) => only === null || each === only, positions),
      )
    })
}

type CaseFacts = CoverageFacts['cases'][number]

/** The newest result on a build in scope, of the environments that count. */
function newestFor(
  standing: readonly StandingFact[],
  counts: (environment: number) => boolean,
  positions: ReadonlyMap<number, number>,
): StandingFact | undefined {
  let newest: StandingFact | undefined
  for (const fact of standing) {
    if (!counts(fact.environmentId) || !positions.has(fact.buildId)) continue
    if (!newest || isNewer(fact, newest, positions)) newest = fact
  }
  return newest
}

/** Greatest (build position, finished at, id): a late retest on an older build does not outrank a newer one. */
function isNewer(a: StandingFact, b: StandingFact, positions: ReadonlyMap<number, number>): boolean {
  const [first, second] = [positions.get(a.buildId) ?? 0, positions.get(b.buildId) ?? 0]
  if (first !== second) return first > second
  return a.finishedAt === b.finishedAt ? a.attemptId > b.attemptId : a.finishedAt > b.finishedAt
}

/** Where a slot may be answered, as the scope sees it. */
interface Wanted {
  readonly environment: number
  readonly among?: readonly number[]
}

function placesByCase(facts: Omit<CoverageFacts, 'standing'>, scope: CoverageScope): Map<number, Wanted[]> {
  const byCase = new Map<number, Wanted[]>()
  for (const slot of facts.slots) {
    const list = byCase.get(slot.case) ?? []
    if (list.length === 0) byCase.set(slot.case, list)
    const wanted = wantedIn(slot, scope.environment, facts.anyEnvironment)
    if (wanted) list.push(wanted)
  }
  return byCase
}

/** A slot in a scope of one environment, which answers it if it may; `null` where it is not of this scope. */
function wantedIn({ environment, among }: SlotAsked, only: number | null, any: number): Wanted | null {
  if (only === null) return among ? { environment, among } : { environment }
  if (among) return among.includes(only) ? { environment: only } : null
  return environment === only || environment === any ? { environment: only } : null
}

const notRun = { verdict: 'Not run', confidence: 1, reasons: [] } as const
const current: Freshness = { reasons: [], confidence: 1 }

function answering(facts: Omit<CoverageFacts, 'standing'>, scope: CoverageScope, builds: readonly BuildAt[]) {
  const upTo =
    scope.build === null ? Infinity : (facts.builds.find(({ id }) => id === scope.build)?.position ?? Infinity)
  const held = quarantineOf(facts.quarantined)
  const positions = new Map(builds.map(({ id, position }) => [id, position]))
  const later = laterBuildsOf(builds)
  return (of: CaseFacts, environment: number, standing: StandingFact | undefined): AnsweredSlot => {
    if (!standing || held({ case: of.id, environment })) return { ...notRun, environment, standing: null }
    const position = positions.get(standing.buildId) ?? 0
    const fixed = facts.fixes.get(standing.attemptId)
    const { touching, all } = later(position, of.id)
    const fingerprintChanged = of.fingerprint !== null && of.fingerprint !== standing.fingerprint
    const quiet =
      touching === 0 &&
      !fingerprintChanged &&
      fixed === undefined &&
      !standing.doubted &&
      scope.asOf - standing.finishedAt <= scope.rules.limitDays * 86_400_000
    const state = quiet
      ? current
      : freshness(
          {
            verdict: standing.verdict,
            finishedAt: standing.finishedAt,
            asOf: scope.asOf,
            laterBuilds: touching,
            fingerprintChanged,
            suspect: false,
            doubted: standing.doubted === 1,
            defectFixedSince: fixed?.some((build) => build > position && build <= upTo) ?? false,
          },
          scope.rules,
        )
    return {
      verdict: standing.verdict,
      ...(standing.word != null && { word: standing.word }),
      confidence: state.confidence,
      reasons: state.reasons,
      environment,
      standing,
      ...(all > 0 && touching === 0 && { spared: true as const }),
    }
  }
}

/** How many builds offered for testing come after one, and how many of these touch a case. */
function laterBuildsOf(builds: readonly BuildAt[]) {
  const isSaid = builds.some(({ touches }) => touches)
  const all = new Map(builds.map(({ position }) => [position, offeredAfter(builds, position)]))
  return (position: number, caseId: number) => {
    const later = all.get(position) ?? 0
    return { all: later, touching: isSaid && later > 0 ? offeredAfter(builds, position, caseId) : later }
  }
}

/** The outline as `coverage` takes it: a suspect link takes its weight off for its own requirement only. */
export function coverageNodes(
  facts: Pick<CoverageFacts, 'cases' | 'requirements' | 'links'>,
  slots: ReadonlyMap<number, readonly AnsweredSlot[]>,
  rules: FreshnessRules,
): CoverageNode[] {
  const cases = new Map(facts.cases.map((each) => [each.id, each]))
  const revisions = new Map(facts.requirements.map(({ id, revision }) => [id, revision]))
  const linked = new Map<number, LinkedCase[]>()
  for (const link of facts.links) {
    const own = cases.get(link.case)
    const revision = revisions.get(link.requirement)
    if (!own || revision === undefined) continue
    const list = linked.get(link.requirement) ?? []
    if (list.length === 0) linked.set(link.requirement, list)
    if (list.some((each) => each.case === link.case)) continue
    const answered = own.designed ? (slots.get(link.case) ?? []) : []
    list.push({
      case: link.case,
      designed: own.designed,
      slots: revision > link.confirmedRevision ? answered.map((slot) => suspected(slot, rules)) : answered,
    })
  }
  return facts.requirements.map(({ id, parent, risk }) => ({ id, parent, risk, cases: linked.get(id) ?? [] }))
}

const passed: SlotResult = { verdict: 'Passed', confidence: 1, reasons: [] }

/**
 * The outline as it would be if all slots passed that `passes` names; `slots` are the very lists that `nodes` were made of. By `memo`,
 * from the cases of a node, one that says the same as before is not made again.
 */
export function nodesIfPassed(
  nodes: readonly CoverageNode[],
  of: {
    readonly slots: ReadonlyMap<number, readonly AnsweredSlot[]>
    readonly passes: (of: number, environment: number) => boolean
    readonly rules: FreshnessRules
  },
  memo: WeakMap<readonly LinkedCase[], CoverageNode> = new WeakMap(),
): CoverageNode[] {
  const ifPassed = (linked: LinkedCase): LinkedCase => {
    const answered = of.slots.get(linked.case) ?? []
    const passing = answered.map(({ environment }) => of.passes(linked.case, environment))
    if (!linked.designed || !passing.includes(true)) return linked
    // A suspect link takes off from what it sees of a case, so that it has a list of its own.
    const then = linked.slots === answered ? passed : suspected(passed, of.rules)
    return { ...linked, slots: linked.slots.map((slot, at) => (passing[at] === true ? then : slot)) }
  }
  return nodes.map((node) => {
    const made = memo.get(node.cases) ?? { ...node, cases: node.cases.map(ifPassed) }
    memo.set(node.cases, made)
    return made
  })
}

/** What a slot is worth to a requirement whose link is suspect. */
export const suspected = <T extends SlotResult>(slot: T, rules: FreshnessRules): T =>
  slot.verdict === 'Not run'
    ? slot
    : {
        ...slot,
        reasons: [...slot.reasons, 'requirement changed' as const],
        confidence: slot.confidence * rules.requirementChanged,
      }
