import { quarantineOf } from '#core/runs/quarantine.ts'
import { criterionWords, evaluate, figureText, wantedText } from '#core/plans/criteria.ts'
import { criteriaFacts } from '#core/reports/scope-criteria.ts'
import { asPassed } from '#core/reports/shortest-way.ts'
import type { LineAnswer } from '#core/schedule/contract.ts'
import type { Scope } from '#core/projects/scope.ts'
import type { Db } from '#db/open.ts'
import { criteriaOf, planBranches, plansFor } from '#db/plans/criteria.ts'
import type { WeighedItem } from '#server/workers/questions.ts'
import { factsOf } from './criteria.ts'
import type { Knowledge } from './facts-cache.ts'

interface StakeOf {
  readonly projectId: number
  readonly scope: Scope
  readonly above: readonly WeighedItem[]
  readonly all: readonly WeighedItem[]
}

/** Criteria that would be met if everything passed, and are not if only what is above the line does. */
export function atStake(db: Db, known: Knowledge, of: StakeOf): LineAnswer['criteria'] {
  const { projectId, scope } = of
  if (!scope.release) return { stake: [], met: 0, of: 0 }
  const held = quarantineOf(known.facts.quarantined)
  const sets = [of.above, of.all].map((items) => items.map((item) => ({ case: item.case, environment: item.answers })))
  const rows = plansFor(db, { projectId, release: scope.release.id, iteration: null }).flatMap((plan) => {
    const facts = factsOf(db, known, { projectId, scope, branches: planBranches(db, plan.id) })
    const way = { facts, minutes: () => 0, held, suspectWeight: known.scope.rules.requirementChanged }
    const [present, ...worlds] = [facts, ...sets.map((passed) => asPassed(way, passed))].map((each) =>
      criteriaFacts(each),
    )
    return criteriaOf(db, plan.id)
      .filter(({ side }) => side === 'exit')
      .flatMap(({ rule }) => {
        const [above, all] = worlds.map((each) => evaluate(rule, each))
        return present && above && all ? [{ plan, rule, now: evaluate(rule, present), above, all }] : []
      })
  })
  return {
    met: rows.filter(({ above }) => above.outcome === 'met').length,
    of: rows.length,
    stake: rows
      .filter(({ above, all }) => all.outcome === 'met' && above.outcome !== 'met')
      .map(({ plan, rule, now, above, all }) => ({
        plan: plan.key,
        words: criterionWords(rule, null),
        wanted: wantedText(rule),
        now: figureText(rule, now.figure),
        above: figureText(rule, above.figure),
        all: figureText(rule, all.figure),
      })),
  }
}
