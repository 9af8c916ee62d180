import { dayIn } from '#core/lib/days.ts'
import { keyOf } from '#core/lib/key.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { ScopeQuery } from '#core/lib/shapes.ts'
import {
  criterionWords,
  type EvaluatedShort,
  figureText,
  isWaived,
  type Outcome,
  wantedText,
} from '#core/plans/criteria.ts'
import type {
  CriteriaTally,
  CriterionShown,
  PlanCriteria,
  readCriteria as readContract,
  Readiness,
  readReadiness as readinessContract,
  readShortestWay as wayContract,
} from '#core/plans/criteria-contract.ts'
import { resolveScope, type Scope } from '#core/projects/scope.ts'
import type { Tx } from '#db/open.ts'
import { criteriaOf, type CriterionStored, planBranches, plansFor } from '#db/plans/criteria.ts'
import { missingRows } from '#db/plans/missing.ts'
import { findPlan, planById } from '#db/plans/plans.ts'
import { namesOf } from '#db/plans/sources.ts'
import { memberRows } from '#db/plans/suites.ts'
import { nameOf } from '#db/people/people.ts'
import { projectDetail } from '#db/projects/detail.ts'
import type { ProjectRow } from '#db/projects/projects.ts'
import { found } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import type { Services } from '#server/http/services.ts'
import { criteriaJob, type SlotAnswer, slotsJob, wayJob } from '#server/workers/questions.ts'

type Own = Pick<Services, 'db' | 'jobs' | 'now'>

/** The scope a plan's criteria are evaluated in: its release and iteration; build, environment and instant of what one looks at. */
export function scopeOfPlan(
  tx: Tx,
  project: ProjectRow,
  plan: { readonly releaseId: number; readonly iterationId: number | null },
  query: ScopeQuery,
): Scope {
  const detail = projectDetail(tx, project, 'viewer')
  const release = detail.releases.find(({ id }) => id === plan.releaseId)
  if (!release) throw new Refusal('not-found', 'The release of this plan is gone; its criteria cannot be evaluated.')
  const build = detail.builds.find(({ name, release: of }) => name === query.build && of === release.id)
  const iteration = detail.iterations.find(({ id }) => id === plan.iterationId)
  const resolved = resolveScope(detail, {
    release: release.name,
    ...(iteration && { iteration: iteration.name }),
    ...(build && { build: build.name }),
    ...(query.environment !== undefined && { environment: query.environment }),
    ...(query.asOf !== undefined && { asOf: query.asOf }),
  })
  if ('problem' in resolved) throw new Refusal('invalid', resolved.problem)
  return resolved.scope
}

interface PlanFor {
  readonly id: number
  readonly key: string
  readonly title: string
  readonly state: string
}

async function evaluatePlans(
  services: Own,
  project: ProjectRow,
  scope: Scope,
  plans: readonly PlanFor[],
): Promise<PlanCriteria[]> {
  const { db: tx } = services
  const stored = plans.map(({ id }) => criteriaOf(tx, id))
  const evaluated = await services.jobs.run(criteriaJob, {
    projectId: project.id,
    scope,
    plans: plans.map(({ id }, at) => ({
      rules: (stored[at] ?? []).map(({ rule }) => rule),
      branches: planBranches(tx, id),
    })),
    most: mostIds,
  })
  const at = scope.asOf ?? services.now()
  const today = dayIn(project.timeZone, at)
  return plans.map((plan, index) => {
    const criteria = (stored[index] ?? []).flatMap((own, n) => {
      const told = evaluated[index]?.[n]
      return told ? [shown(tx, own, told, today)] : []
    })
    const side = (of: CriterionShown['side']) => criteria.filter((each) => each.side === of)
    return {
      plan: { id: plan.id, key: plan.key, title: plan.title, state: plan.state },
      scope: {
        release: scope.release?.name ?? '',
        iteration: scope.iteration?.name ?? null,
        build: scope.build?.name ?? null,
        environment: scope.environment?.name ?? null,
        asOf: at,
      },
      entry: tallyOf(side('entry')),
      exit: tallyOf(side('exit')),
      criteria,
    }
  })
}

const tallyOf = (criteria: readonly { readonly outcome: Outcome }[]): CriteriaTally => ({
  met: criteria.filter(({ outcome }) => outcome === 'met').length,
  of: criteria.length,
  waived: criteria.filter(({ outcome }) => outcome === 'waived').length,
})

/** What is met needs no waiver. */
const outcomeOn = (
  today: string,
  { waivedUntil }: Pick<CriterionStored, 'waivedUntil'>,
  { outcome }: Pick<EvaluatedShort, 'outcome'>,
): Outcome => (isWaived(waivedUntil, today) && outcome !== 'met' ? 'waived' : outcome)

function shown(tx: Tx, own: CriterionStored, told: EvaluatedShort, today: string): CriterionShown {
  const branch = own.rule.kind === 'share' && own.rule.branch !== null ? own.rule.branch : null
  const name = branch === null ? null : namesOf(tx, 'requirement', [branch]).get(branch)
  return {
    id: own.id,
    side: own.side,
    rule: own.rule,
    words: criterionWords(own.rule, name ? `${name.key} ${name.title}` : null),
    outcome: outcomeOn(today, own, told),
    plainly: told.outcome,
    figure: told.figure,
    figureText: figureText(own.rule, told.figure),
    wanted: wantedText(own.rule),
    missing: missingShown(tx, told),
    waiver:
      own.waivedUntil === null
        ? null
        : {
            by: own.waivedBy === null ? null : nameOf(tx, own.waivedBy),
            at: own.waivedAt ?? 0,
            reason: own.waivedReason,
            until: own.waivedUntil,
            holds: isWaived(own.waivedUntil, today),
          },
  }
}

const mostIds = 500
const first = 8

function missingShown(tx: Tx, { missing, missingTotal }: EvaluatedShort): CriterionShown['missing'] {
  const all = missing.of === 'slots' ? [...new Set(missing.slots.map((slot) => slot.case))] : missing.ids
  return {
    of: missing.of,
    total: missingTotal,
    ids: [...all],
    first: missingRows(tx, missing, first),
  }
}

/** How a plan's criteria stand; a plan in whatever state can be asked. */
export async function readCriteria(
  { services, tx, project }: OpenContext,
  { params, query }: Input<typeof readContract>,
): Promise<Answer<typeof readContract>> {
  const plan = found(findPlan(tx, project.id, params.ref), keyOf('plan', params.ref))
  const named = { ...plan, key: keyOf('plan', plan.number) }
  const [told] = await evaluatePlans(services, project, scopeOfPlan(tx, project, plan, query), [named])
  if (!told) throw new Error(`plan ${plan.id} was not evaluated`)
  return told
}

/** How many exit criteria that speak for a scope are met: what each page says; `null` where there are none. */
export async function tallyFor(services: Own, project: ProjectRow, scope: Scope): Promise<CriteriaTally | null> {
  const { db: tx } = services
  if (scope.release === null) return null
  const plans = plansFor(tx, {
    projectId: project.id,
    release: scope.release.id,
    iteration: scope.iteration?.id ?? null,
  })
  const own = plans.map(({ id }) => ({
    criteria: criteriaOf(tx, id).filter(({ side }) => side === 'exit'),
    branches: planBranches(tx, id),
  }))
  if (own.every(({ criteria }) => criteria.length === 0)) return null
  const told = await services.jobs.run(criteriaJob, {
    projectId: project.id,
    scope,
    plans: own.map(({ criteria, branches }) => ({ rules: criteria.map(({ rule }) => rule), branches })),
    most: 0,
  })
  const today = dayIn(project.timeZone, scope.asOf ?? services.now())
  return tallyOf(
    own.flatMap(({ criteria }, at) =>
      criteria.map((each, n) => ({
        outcome: outcomeOn(today, each, told[at]?.[n] ?? { outcome: 'undecidable' }),
      })),
    ),
  )
}

/** The criteria that speak for a scope. */
export async function readinessOf(services: Own, project: ProjectRow, query: ScopeQuery): Promise<Readiness> {
  const { db: tx } = services
  const resolved = resolveScope(projectDetail(tx, project, 'viewer'), query)
  if ('problem' in resolved) throw new Refusal('invalid', resolved.problem)
  const { scope } = resolved
  if (scope.release === null) return { exit: tallyOf([]), entry: tallyOf([]), plans: [] }
  const plans = plansFor(tx, {
    projectId: project.id,
    release: scope.release.id,
    iteration: scope.iteration?.id ?? null,
  })
  const told: PlanCriteria[] = []
  for (const plan of plans) {
    const own = planById(tx, project.id, plan.id)
    if (own) told.push(...(await evaluatePlans(services, project, scopeOfPlan(tx, project, own, query), [plan])))
  }
  const all = (side: CriterionShown['side']) =>
    tallyOf(told.flatMap(({ criteria }) => criteria.filter((each) => each.side === side)))
  return { exit: all('exit'), entry: all('entry'), plans: told }
}

export const readReadiness = (
  { services, project }: OpenContext,
  { query }: Input<typeof readinessContract>,
): Promise<Answer<typeof readinessContract>> => readinessOf(services, project, query)

const mostItems = 200

/** The way from here to every exit criterion that testing can still meet; waived ones are left out. */
export async function readShortestWay(
  { services, tx, project }: OpenContext,
  { params, query }: Input<typeof wayContract>,
): Promise<Answer<typeof wayContract>> {
  const plan = found(findPlan(tx, project.id, params.ref), keyOf('plan', params.ref))
  const scope = scopeOfPlan(tx, project, plan, query)
  const today = dayIn(project.timeZone, scope.asOf ?? services.now())
  const criteria = criteriaOf(tx, plan.id).filter(
    ({ side, waivedUntil }) => side === 'exit' && !isWaived(waivedUntil, today),
  )
  const asked = { projectId: project.id, scope, branches: planBranches(tx, plan.id) }
  const rules = criteria.map(({ rule }) => rule)
  const way = await services.jobs.run(wayJob, { ...asked, rules })
  const [evaluated = []] = await services.jobs.run(criteriaJob, {
    projectId: project.id,
    scope,
    plans: [{ rules, branches: asked.branches }],
    most: first,
  })
  const items = way.items.slice(0, mostItems)
  const cases = [...new Set(items.map((item) => item.case))]
  const standing = await services.jobs.run(slotsJob, { projectId: project.id, scope, cases, suspect: [] })
  const rows = new Map(memberRows(tx, cases).map((row) => [row.id, row]))
  const names = new Map(projectDetail(tx, project, 'viewer').environments.map(({ id, name }) => [id, name]))
  const idAt = (at: number) => criteria[at]?.id ?? 0
  return {
    minutes: way.minutes,
    total: way.items.length,
    exact: way.exact,
    items: items.map((item) => {
      const row = rows.get(item.case)
      const name = names.get(item.environment) ?? ''
      const slot = standing[item.case]?.find((each) => each.environment === name)
      return {
        case: item.case,
        key: row?.key ?? '',
        title: row?.title ?? '',
        environment: item.environment,
        environmentName: name,
        minutes: item.minutes,
        verdict: slot?.verdict ?? 'Not run',
        stale: (slot?.reasons.length ?? 0) > 0,
        why: whyItem(slot),
        helps: item.helps.map(idAt),
      }
    }),
    slots: way.items.map((item) => ({ case: item.case, environment: item.environment })),
    meets: way.meets.map(idAt),
    cannot: way.cannot.flatMap((at) => {
      const own = criteria[at]
      const told = evaluated[at]
      if (!own || !told) return []
      const of = shown(tx, own, told, today)
      return [{ id: of.id, words: of.words, missing: of.missing }]
    }),
  }
}

/** What of a result does not do. */
function whyItem(slot: SlotAnswer | undefined): string {
  if (!slot || slot.build === null) return 'never executed'
  const verdict = slot.verdict === 'Passed' ? '' : `${slot.verdict} on ${slot.build}`
  const defects = slot.defects.length > 0 ? slot.defects.join(', ') : ''
  return [verdict, defects, ...slot.reasons].filter((part) => part !== '').join(', ') || `on ${slot.build}`
}
