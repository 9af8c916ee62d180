import { quarantineOf } from '#core/runs/quarantine.ts'
import { evaluate } from '#core/plans/criteria.ts'
import { criteriaFacts } from '#core/reports/scope-criteria.ts'
import { asPassed } from '#core/reports/shortest-way.ts'
import type { Db } from '#db/open.ts'
import type { StakeQuestion, StakeReply } from '#server/workers/questions.ts'
import { factsOf } from './criteria.ts'
import type { Knowledge } from './facts-cache.ts'

/** How criteria stand now, if some items pass, and if more of them do. */
export function stakeOf(db: Db, known: Knowledge, { plans, sets, ...of }: StakeQuestion): StakeReply {
  const held = quarantineOf(known.facts.quarantined)
  return plans.map(({ rules, branches }) => {
    const facts = factsOf(db, known, { ...of, branches })
    const way = { facts, minutes: () => 0, held, suspectWeight: known.scope.rules.requirementChanged }
    const worlds = [facts, ...sets.map((passed) => asPassed(way, passed))].map((each) => criteriaFacts(each))
    return rules.map((rule) =>
      worlds.map((each) => {
        const { outcome, figure } = evaluate(rule, each)
        return { outcome, figure }
      }),
    )
  })
}
