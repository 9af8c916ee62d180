import { buildsInScope } from '#core/runs/standing.ts'
import { type CriteriaFacts, evaluate, type Evaluated, type EvaluatedShort, shortened } from '#core/plans/criteria.ts'
import { type CriteriaOf, criteriaFacts } from '#core/reports/scope-criteria.ts'
import type { Db } from '#db/open.ts'
import { quarantineOf } from '#core/runs/quarantine.ts'
import { type ShortestWay, shortestWayTo } from '#core/reports/shortest-way.ts'
import { caseMinutesOf, caseWeights, openDefects, openRuns } from '#db/plans/criteria.ts'
import { defectFacts } from '#db/reports/facts.ts'
import type { CriteriaQuestion, WayQuestion } from '#server/workers/questions.ts'
import type { Knowledge } from './facts-cache.ts'
import { kept } from './kept.ts'

/** What criteria need beside coverage: the same as long as nothing but verdicts changed, so it is kept with the facts. */
type Beside = Pick<
  CriteriaOf,
  'cases' | 'told' | 'defects' | 'openRuns' | 'suspect' | 'asked' | 'newestBuild' | 'proving' | 'slotsTold'
>
const beside = new WeakMap<Knowledge['facts'], Beside>()

/** What was told of a scope, whole: every page asks it again until a verdict or another change makes it known anew. */
const told = new WeakMap<Knowledge, Map<string, Evaluated>>()

/** Criteria of plans over what is known of their scope. */
export function criteriaEvaluated(
  db: Db,
  known: Knowledge,
  { plans, most, ...of }: CriteriaQuestion,
): EvaluatedShort[][] {
  return plans.map(({ rules, branches }) => {
    let facts: CriteriaFacts | null = null
    return rules.map((rule) => {
      const key = JSON.stringify([rule, branches])
      const made = kept(told, { of: known, key }, () =>
        evaluate(rule, (facts ??= criteriaFacts(factsOf(db, known, { ...of, branches })))),
      )
      return shortened(made, most)
    })
  })
}

/** The cheapest items that would meet what testing can still meet. */
export function wayTo(db: Db, known: Knowledge, { rules, branches, ...of }: WayQuestion): ShortestWay {
  const held = quarantineOf(known.facts.quarantined)
  const minutes = new Map(caseMinutesOf(db, of.projectId))
  return shortestWayTo(rules, {
    facts: factsOf(db, known, { ...of, branches }),
    minutes: (id) => minutes.get(id) ?? 0,
    held,
    suspectWeight: known.scope.rules.requirementChanged,
  })
}

/** What criteria are evaluated over. */
export const factsOf = (
  db: Db,
  known: Knowledge,
  { branches, ...of }: Pick<CriteriaQuestion, 'projectId' | 'scope'> & Pick<CriteriaOf, 'branches'>,
): CriteriaOf => ({
  ...besideOf(db, known, of),
  nodes: known.nodes,
  whole: known.result,
  slots: known.slots,
  asOf: known.scope.asOf,
  branches,
})

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
    proving: provingIn(facts),
    slotsTold: new WeakMap(),
  }
  beside.set(facts, made)
  return made
}

/** Cases that prove a requirement of the scope. */
function provingIn({ requirements, links }: Knowledge['facts']): Set<number> {
  const known = new Set(requirements.map(({ id }) => id))
  return new Set(links.filter(({ requirement }) => known.has(requirement)).map((link) => link.case))
}
