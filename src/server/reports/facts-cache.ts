import type { Scope } from '#core/projects/scope.ts'
import { buildsInScope } from '#core/runs/standing.ts'
import { groupBy } from '#core/lib/group.ts'
import {
  type AnsweredSlot,
  coverageNodes,
  type CoverageScope,
  slotAnswerer,
  type StandingFact,
} from '#core/reports/scope-coverage.ts'
import { coverage, type CoverageNode, type LeafMemo, type NodeCoverage } from '#core/reports/coverage.ts'
import { defaultFreshness } from '#core/runs/freshness.ts'
import { lastEvent, standingFacts, standingSince, type StructureFacts, structureFacts } from '#db/reports/facts.ts'
import type { Db } from '#db/open.ts'
import { findProjectById } from '#db/projects/projects.ts'

/** Facts of a scope, and what is computed from them when somebody asks. */
export interface Knowledge {
  readonly facts: StructureFacts
  readonly slots: ReadonlyMap<number, readonly AnsweredSlot[]>
  readonly scope: CoverageScope
  readonly evidence: () => { readonly oldest: number; readonly newest: number } | null
  readonly result: () => { readonly total: NodeCoverage; readonly byId: ReadonlyMap<number, NodeCoverage> }
  readonly nodes: readonly CoverageNode[]
  /** Standing results by case, in no order. */
  readonly standing: ReadonlyMap<number, readonly StandingFact[]>
}

interface Held {
  readonly key: string
  readonly structure: number
  event: number
  facts: StructureFacts
  /** Standing results by case, in no order. */
  readonly standing: Map<number, StandingFact[]>
  answers: {
    readonly scope: CoverageScope
    readonly of: ReturnType<typeof slotAnswerer>
    readonly slots: Map<number, AnsweredSlot[]>
    nodes: readonly CoverageNode[]
    readonly leaves: LeafMemo
  } | null
  knowledge: Knowledge | null
}

/** How long an age in days may lag behind the clock, ms: figures as of now are computed again after it. */
const staleAfter = 60_000
const mostHeld = 6

/**
 * Keeps the facts of the scopes last asked for. A verdict re-reads only the places it touched and answers only
 * their cases anew; any other change reads all again. What is held is never edited from outside: the database
 * stays the truth.
 */
export function factsCache(db: Db, now: () => number): (projectId: number, scope: Scope) => Knowledge {
  let held: Held[] = []
  return (projectId, scope) => {
    // One read transaction, so that structure, results and the event count belong together.
    return db.transaction((tx) => {
      const project = findProjectById(tx, projectId)
      if (!project) throw new Error(`no project ${projectId}`)
      const key = `${projectId}:${JSON.stringify(scope)}`
      const asOf = scope.asOf ?? now()
      const event = lastEvent(tx)
      let own = held.find((each) => each.key === key && each.structure === project.structureVersion)
      if (!own || (scope.asOf !== null && own.event !== event)) {
        const facts = structureFacts(tx, { projectId, scope, approvalRequired: project.approvalRequired, asOf })
        const builds = buildsInScope(facts.builds, scope.release?.id ?? null, scope.build?.id ?? null).map(
          ({ id }) => id,
        )
        own = {
          key,
          structure: project.structureVersion,
          event,
          facts,
          standing: groupBy(standingFacts(tx, builds, scope.asOf), ({ caseId }) => caseId),
          answers: null,
          knowledge: null,
        }
      } else if (own.event !== event) {
        renew(own, standingSince(tx, projectId, own.event))
        own.event = event
      }
      held = [own, ...held.filter((each) => each !== own && each.key !== key)].slice(0, mostHeld)
      const wanted = {
        release: scope.release?.id ?? null,
        build: scope.build?.id ?? null,
        environment: scope.environment?.id ?? null,
        asOf,
        rules: { ...defaultFreshness, limitDays: project.freshnessDays },
      }
      return know(own, wanted)
    })
  }
}

/** Puts what stands at some places now into the held facts, and answers their cases' slots anew. */
function renew(own: Held, places: ReturnType<typeof standingSince>): void {
  const cases = new Map(own.facts.cases.map((each) => [each.id, each]))
  own.knowledge = null
  for (const { caseId, environmentId, buildId, fact } of places) {
    const others = (own.standing.get(caseId) ?? []).filter(
      (each) => each.environmentId !== environmentId || each.buildId !== buildId,
    )
    own.standing.set(caseId, fact ? [...others, fact] : others)
    const of = cases.get(caseId)
    if (of && own.answers) own.answers.slots.set(caseId, own.answers.of(of, own.standing.get(caseId) ?? []))
  }
  if (own.answers) own.answers.nodes = renewedNodes(own.facts, own.answers, new Set(places.map(({ caseId }) => caseId)))
}

/** The nodes of requirements whose cases were touched, made anew; all others stay the very same. */
function renewedNodes(
  facts: StructureFacts,
  answers: NonNullable<Held['answers']>,
  cases: ReadonlySet<number>,
): readonly CoverageNode[] {
  const touched = new Set(facts.links.filter((link) => cases.has(link.case)).map(({ requirement }) => requirement))
  const part = {
    cases: facts.cases,
    requirements: facts.requirements.filter(({ id }) => touched.has(id)),
    links: facts.links.filter(({ requirement }) => touched.has(requirement)),
  }
  const renewed = new Map(coverageNodes(part, answers.slots, answers.scope.rules).map((node) => [node.id, node]))
  return answers.nodes.map((node) => renewed.get(node.id) ?? node)
}

/** What would be known if something else stood at some places; what is known stays as it is. */
export function supposing(known: Knowledge, places: ReturnType<typeof standingSince>): Knowledge {
  const own: Held = {
    key: '',
    structure: 0,
    event: 0,
    facts: known.facts,
    standing: new Map(known.standing as Held['standing']),
    answers: {
      scope: known.scope,
      of: slotAnswerer(known.facts, known.scope),
      slots: new Map(known.slots as ReadonlyMap<number, AnsweredSlot[]>),
      nodes: known.nodes,
      leaves: new WeakMap(),
    },
    knowledge: null,
  }
  renew(own, places)
  return know(own, known.scope)
}

function know(own: Held, scope: CoverageScope): Knowledge {
  if (!own.answers || scope.asOf - own.answers.scope.asOf > staleAfter) {
    const of = slotAnswerer(own.facts, scope)
    const slots = new Map(own.facts.cases.map((each) => [each.id, of(each, own.standing.get(each.id) ?? [])]))
    own.answers = { scope, of, slots, nodes: coverageNodes(own.facts, slots, scope.rules), leaves: new WeakMap() }
    own.knowledge = null
  }
  own.knowledge ??= knowledgeOf(own.facts, own.answers, own.standing)
  return own.knowledge
}

function knowledgeOf(
  facts: StructureFacts,
  { scope, slots, nodes, leaves }: NonNullable<Held['answers']>,
  standing: ReadonlyMap<number, readonly StandingFact[]>,
): Knowledge {
  let result: ReturnType<Knowledge['result']> | null = null
  return {
    facts,
    slots,
    scope,
    nodes,
    standing,
    result: () => (result ??= coverage(nodes, leaves)),
    evidence: () => spanOf(standing),
  }
}

/** When the oldest and the newest standing result were gained; `null` when there is none. */
function spanOf(standing: ReadonlyMap<number, readonly StandingFact[]>): { oldest: number; newest: number } | null {
  let [oldest, newest] = [Infinity, -Infinity]
  for (const facts of standing.values())
    for (const { finishedAt } of facts) {
      oldest = Math.min(oldest, finishedAt)
      newest = Math.max(newest, finishedAt)
    }
  return newest === -Infinity ? null : { oldest, newest }
}
