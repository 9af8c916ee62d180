import { buildsInScope } from '#core/runs/standing.ts'
import { evaluate, type Evaluated } from '#core/plans/criteria.ts'
import { type CriteriaOf, criteriaFacts } from '#core/reports/scope-criteria.ts'
import type { Db } from '#db/open.ts'
import { quarantineOf } from '#core/runs/quarantine.ts'
import { type ShortestWay, shortestWayTo } from '#core/reports/shortest-way.ts'
import { caseMinutesOf, caseWeights, openDefects, openRuns } from '#db/plans/criteria.ts'
import { defectFacts } from '#db/reports/facts.ts'
import type { CriteriaQuestion, WayQuestion } from '#server/workers/questions.ts'
import type { Knowledge } from './facts-cache.ts'

/** What criteria need beside coverage: the same as long as nothing but verdicts changed, so it is kept with the facts. */
type Beside = Pick<CriteriaOf, 'cases' | 'told' | 'defects' | 'openRuns' | 'suspect' | 'asked' | 'newestBuild'>
const beside = new WeakMap<Knowledge['facts'], Beside>()

/** Criteria of plans over what is known of their scope. */
export function criteriaEvaluated(db: Db, known: Knowledge, { plans, ...of }: CriteriaQuestion): Evaluated[][] {
  const own = besideOf(db, known, of)
  return plans.map(({ rules, branches }) => {
    const facts = criteriaFacts({
      ...own,
      nodes: known.nodes,
      whole: known.result,
      slots: known.slots,
      asOf: known.scope.asOf,
      branches,
    })
    return rules.map((rule) => evaluate(rule, facts))
  })
}

/** The cheapest items that would meet what testing can still meet. */
export function wayTo(db: Db, known: Knowledge, { rules, branches, ...of }: WayQuestion): ShortestWay {
  const held = quarantineOf(known.facts.quarantined)
  const minutes = new Map(caseMinutesOf(db, of.projectId))
  return shortestWayTo(rules, {
    facts: {
      ...besideOf(db, known, of),
      nodes: known.nodes,
      whole: known.result,
      slots: known.slots,
      asOf: known.scope.asOf,
      branches,
    },
    minutes: (id) => minutes.get(id) ?? 0,
    held,
    suspectWeight: known.scope.rules.requirementChanged,
  })
}

function besideOf(
  db: Db,
  known: Knowledge,
  { projectId, scope }: Pick<CriteriaQuestion, 'projectId' | 'scope'>,
): Beside {
  const before = beside.get(known.facts)
  if (before) return before
  const { facts } = known
  const at = { asOf: scope.asOf, release: scope.release?.id ?? null }
  const revisions = new Map(facts.requirements.map(({ id, revision }) => [id, revision]))
  const offered = buildsInScope(facts.builds, known.scope.release, known.scope.build).filter(
    ({ state }) => state === 'Offered',
  )
  const newest = offered.reduce<(typeof offered)[number] | null>(
    (last, build) => (last && last.position > build.position ? last : build),
    null,
  )
  const made: Beside = {
    cases: caseWeights(db, projectId),
    told: new Set(
      defectFacts(db, projectId).flatMap(({ attempts }) => (attempts ?? '').split(',').filter(Boolean).map(Number)),
    ),
    defects: openDefects(db, projectId, at),
    openRuns: openRuns(db, projectId, at),
    suspect: facts.links.filter((link) => (revisions.get(link.requirement) ?? 0) > link.confirmedRevision),
    asked: new Set(facts.slots.map((slot) => slot.case)),
    newestBuild: newest?.id ?? null,
  }
  beside.set(facts, made)
  return made
}
