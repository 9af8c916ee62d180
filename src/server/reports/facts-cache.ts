import type { Scope } from '#core/projects/scope.ts'
import { buildsInScope } from '#core/runs/standing.ts'
import { type AnsweredSlot, answerSlots, coverageNodes, type CoverageScope, type StandingFact } from '#core/reports/scope-coverage.ts'
import { coverage, type CoverageNode, type NodeCoverage } from '#core/reports/coverage.ts'
import { defaultFreshness } from '#core/runs/freshness.ts'
import { lastEvent, standingFacts, standingSince, type StructureFacts, structureFacts } from '#db/reports/facts.ts'
import type { Db } from '#db/open.ts'
import { findProjectById } from '#db/projects/queries.ts'

/** Facts of a scope, and what is computed from them when somebody asks. */
export interface Knowledge {
  readonly facts: StructureFacts & { readonly standing: readonly StandingFact[] }
  readonly slots: ReadonlyMap<number, readonly AnsweredSlot[]>
  readonly scope: CoverageScope
  readonly nodes: () => readonly CoverageNode[]
  readonly result: () => { readonly total: NodeCoverage; readonly byId: ReadonlyMap<number, NodeCoverage> }
}

interface Held {
  readonly key: string
  readonly structure: number
  event: number
  facts: StructureFacts
  readonly standing: Map<string, StandingFact>
  knowledge: Knowledge | null
  madeAt: number
}

/** How long an age in days may lag behind the clock, ms: figures as of now are computed again after it. */
const staleAfter = 60_000
const mostHeld = 6

/**
 * Keeps the facts of the scopes last asked for. A verdict re-reads only the places it touched; any other
 * change reads all again. What is held is never edited from outside: the database stays the truth.
 */
export function factsCache(db: Db): (projectId: number, scope: Scope) => Knowledge {
  let held: Held[] = []
  return (projectId, scope) => {
    // One read transaction, so that structure, results and the event count belong together.
    return db.transaction((tx) => {
      const project = findProjectById(tx, projectId)
      if (!project) throw new Error(`no project ${projectId}`)
      const key = `${projectId}:${JSON.stringify(scope)}`
      const asOf = scope.asOf ?? Date.now()
      const event = lastEvent(tx)
      let own = held.find((each) => each.key === key && each.structure === project.structureVersion)
      if (!own || (scope.asOf !== null && own.event !== event)) {
        const facts = structureFacts(tx, { projectId, scope, approvalRequired: project.approvalRequired, asOf })
        const builds = buildsInScope(facts.builds, scope.release?.id ?? null, scope.build?.id ?? null).map(({ id }) => id)
        const standing = new Map(standingFacts(tx, builds, scope.asOf).map((fact) => [placeOf(fact), fact]))
        own = { key, structure: project.structureVersion, event, facts, standing, knowledge: null, madeAt: 0 }
      } else if (own.event !== event) {
        for (const { fact, ...place } of standingSince(tx, projectId, own.event)) {
          if (fact) own.standing.set(placeOf(place), fact)
          else own.standing.delete(placeOf(place))
        }
        own.event = event
        own.knowledge = null
      }
      held = [own, ...held.filter((each) => each !== own && each.key !== key)].slice(0, mostHeld)
      if (!own.knowledge || asOf - own.madeAt > staleAfter) {
        own.knowledge = know(own, { release: scope.release?.id ?? null, build: scope.build?.id ?? null, environment: scope.environment?.id ?? null, asOf, rules: { ...defaultFreshness, limitDays: project.freshnessDays } })
        own.madeAt = asOf
      }
      return own.knowledge
    })
  }
}

const placeOf = (at: { buildId: number; caseId: number; environmentId: number }): string => `${at.buildId}:${at.caseId}:${at.environmentId}`

function know(held: Held, scope: CoverageScope): Knowledge {
  const facts = { ...held.facts, standing: [...held.standing.values()] }
  const slots = answerSlots(facts, scope)
  let nodes: readonly CoverageNode[] | null = null
  let result: ReturnType<Knowledge['result']> | null = null
  const allNodes = () => (nodes ??= coverageNodes(facts, slots, scope.rules))
  return { facts, slots, scope, nodes: allNodes, result: () => (result ??= coverage(allNodes())) }
}
