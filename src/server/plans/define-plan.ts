import { ruleFields } from '#core/finding/fields.ts'
import { groupBy } from '#core/lib/group.ts'
import { plainText } from '#core/lib/plain-text.ts'
import { criterionWords } from '#core/plans/criteria.ts'
import type { Saying } from '#core/plans/definition.ts'
import { sourceWords } from '#core/plans/source-words.ts'
import type { AskShown } from '#core/plans/asks-contract.ts'
import { waySaid } from '#core/plans/ask-words.ts'
import { planParts } from '#core/plans/state.ts'
import { ownFieldsOf } from '#db/cases/ask.ts'
import type { Tx } from '#db/open.ts'
import { asksOf } from '#db/plans/asked.ts'
import { criteriaOf } from '#db/plans/criteria.ts'
import { sourcesOf } from '#db/plans/definitions.ts'
import { ruleOf } from '#db/plans/members.ts'
import { branchesOf, milestonesOf, partsOf, peopleIn, risksOf } from '#db/plans/parts.ts'
import { planEnvironments, type PlanStored, planSuites } from '#db/plans/plans.ts'
import { namesOf } from '#db/plans/sources.ts'
import { exclusionsOf, pinnedKeys } from '#db/plans/suites.ts'

/** What a plan says about environments, with what it says it of; what was deleted is left out. */
export function asksShown(tx: Tx, planId: number): AskShown[] {
  const asks = asksOf(tx, [planId]).get(planId) ?? []
  const names = (kind: 'suite' | 'requirement' | 'case') =>
    namesOf(
      tx,
      kind,
      asks.filter(({ about }) => about === kind).map(({ id }) => id),
    )
  const named = { suite: names('suite'), requirement: names('requirement'), case: names('case') }
  return asks.flatMap(({ about, id, way, environments }) => {
    const name = about === 'plan' ? { key: '', title: '' } : named[about].get(id)
    return name
      ? [{ about, id, way, environments: environments && [...environments], key: name.key, title: name.title }]
      : []
  })
}

/** All a plan says, each thing once and by itself: what a version freezes, and what two of them are compared by. */
export function definitionOf(tx: Tx, plan: PlanStored): Saying[] {
  const words = partsOf(tx, plan.id)
  const inWords = planParts.flatMap((part): Saying[] => {
    const said = plainText(words[part])
    return said === '' ? [] : [{ part, kind: 'In words', name: '', said }]
  })
  return [
    { part: 'why', kind: 'Title', name: '', said: plan.title },
    { part: 'why', kind: 'Objective', name: '', said: plainText(plan.objective) },
    ...risksOf(tx, plan.id).map(({ title, likelihood, impact, answers }): Saying => {
      const keys = answers.map(({ key }) => key)
      const answered = keys.length > 0 ? `, answered by ${keys.join(', ')}` : ''
      return { part: 'why', kind: 'Risk', name: title, said: `likelihood ${likelihood} × impact ${impact}${answered}` }
    }),
    ...suitesSaid(tx, plan),
    ...branchesOf(tx, plan.id).map(({ key, inside, reason }): Saying => ({
      part: 'what',
      kind: inside ? 'In scope' : 'Out of scope',
      name: key,
      said: reason,
    })),
    ...environmentsSaid(tx, plan),
    ...peopleIn(tx, plan.id).map(({ name, part }): Saying => ({ part: 'when', kind: 'Person', name, said: part })),
    ...milestonesOf(tx, plan.id).map(({ title, on }): Saying => ({
      part: 'when',
      kind: 'Milestone',
      name: title,
      said: on,
    })),
    ...criteriaSaid(tx, plan),
    ...inWords,
  ]
}

/** How each suite of a plan is made; who is in it by that is frozen beside. */
function suitesSaid(tx: Tx, { id, projectId }: PlanStored): Saying[] {
  const suites = planSuites(tx, id)
  const ids = new Set(suites.map((suite) => suite.id))
  const own = sourcesOf(tx, projectId).filter(({ suiteId }) => ids.has(suiteId))
  const sources = groupBy(own, ({ suiteId }) => suiteId)
  const names = (kind: 'requirement' | 'suite', of: (source: (typeof own)[number]) => number | null) =>
    namesOf(
      tx,
      kind,
      own.flatMap((source) => of(source) ?? []),
    )
  const requirements = names('requirement', ({ requirementId }) => requirementId)
  const included = names('suite', ({ includedId }) => includedId)
  const fields = ruleFields(ownFieldsOf(tx, projectId))
  const pins = pinnedKeys(tx, [...ids])
  // A key alone: a requirement that is named anew changes nothing of the plan.
  const keyed = (of: { readonly key: string } | undefined) => (of ? { id: 0, key: of.key, title: '' } : null)
  return suites.map(({ id: suite, key, title }) => {
    const brought = (sources.get(suite) ?? []).map((source) =>
      sourceWords(
        {
          kind: source.kind,
          requirement: keyed(requirements.get(source.requirementId ?? 0)),
          suite: keyed(included.get(source.includedId ?? 0)),
          words: source.words,
          filter: ruleOf(source).filter,
          minutes: source.minutes,
        },
        fields,
      ).trim(),
    )
    const left = exclusionsOf(tx, suite).map((each) => `without ${each.key} (${each.reason})`)
    const pinned = pins.get(suite) ?? []
    const said = [...brought, ...left, ...(pinned.length > 0 ? [`pinned ${pinned.join(', ')}`] : [])]
    return { part: 'what', kind: 'Suite', name: `${key} ${title}`, said: said.join('; ') }
  })
}

function environmentsSaid(tx: Tx, { id }: PlanStored): Saying[] {
  const own = planEnvironments(tx, id)
  const names = new Map(own.map((each) => [each.id, each.name]))
  return [
    ...own.map(({ name }): Saying => ({ part: 'where', kind: 'Environment', name, said: '' })),
    ...asksShown(tx, id).map(({ about, key, way, environments }): Saying => {
      const among = environments === null ? '' : ` of ${environments.map((each) => names.get(each) ?? '…').join('; ')}`
      return {
        part: 'where',
        kind: 'Asked for',
        name: about === 'plan' ? 'all of it' : key,
        said: `${waySaid[way]}${among}`,
      }
    }),
  ]
}

function criteriaSaid(tx: Tx, { id }: PlanStored): Saying[] {
  const all = criteriaOf(tx, id)
  const branches = namesOf(
    tx,
    'requirement',
    all.flatMap(({ rule }) => (rule.kind === 'share' ? (rule.branch ?? []) : [])),
  )
  return all.map(({ side, rule }) => {
    const branch = rule.kind === 'share' && rule.branch !== null ? (branches.get(rule.branch)?.key ?? null) : null
    const kind = side === 'exit' ? 'Exit criterion' : 'Entry criterion'
    return { part: 'enough', kind, name: criterionWords(rule, branch), said: '' }
  })
}
