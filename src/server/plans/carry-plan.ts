import { groupBy } from '#core/lib/group.ts'
import { sumOf } from '#core/lib/figures.ts'
import { keyOf } from '#core/lib/key.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { type CarryGroup, carryGroups, isCarried } from '#core/plans/carry.ts'
import type {
  carryPlan as carryContract,
  readCarry as readContract,
  takeCarryBack as backContract,
} from '#core/plans/carry-contract.ts'
import type { Tx } from '#db/open.ts'
import { asksOf, setAsks } from '#db/plans/asked.ts'
import { suitesMadeWith, suitesWithCases, uncoveredSince } from '#db/plans/carry.ts'
import { addCriterionTo, criteriaOf } from '#db/plans/criteria.ts'
import { branchesOf, partsOf, peopleIn, risksOf, savePart, setBranches, setPeople, setRisks } from '#db/plans/parts.ts'
import {
  addPlan,
  findPlan,
  planEnvironments,
  type PlanStored,
  savePlan,
  setPlanEnvironments,
  setPlanSuites,
} from '#db/plans/plans.ts'
import { namesOf } from '#db/plans/sources.ts'
import { addSuite, pinToSuite, saveSuite } from '#db/plans/suites.ts'
import { projectDetail } from '#db/projects/detail.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { iterationRelease } from '#db/projects/releases.ts'
import { planParts } from '#core/plans/state.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { carryJob } from '#server/workers/questions.ts'
import { scopeOfPlan } from './evaluate-criteria.ts'
import { noticeAtOnce } from './open-suite.ts'

/** So many cases of a group are told. */
const mostTold = 2000

const why: Readonly<Record<CarryGroup, string>> = {
  retired: 'retired',
  'basis gone': 'what it proved is dropped or gone',
  failing: 'failing at the end',
  'not executed': 'not executed everywhere',
  'basis changed': 'worded anew since the result',
  'still holds': 'passed everywhere',
}

export async function readCarry(
  { services, tx, project }: OpenContext,
  { params }: Input<typeof readContract>,
): Promise<Answer<typeof readContract>> {
  const plan = found(findPlan(tx, project.id, params.ref), keyOf('plan', params.ref))
  const build = projectDetail(tx, project, 'viewer')
    .builds.filter(({ release, state }) => release === plan.releaseId && state === 'Offered')
    .at(-1)
  const scope = { ...scopeOfPlan(tx, project, plan, {}), build: build ?? null }
  const cases = groupBy(
    await services.jobs.run(carryJob, { projectId: project.id, plan: plan.id, scope }),
    (each) => each.group,
  )
  return {
    build: build?.name ?? null,
    groups: carryGroups.map((group) => {
      const own = cases.get(group) ?? []
      const names = namesOf(
        tx,
        'case',
        own.slice(0, mostTold).map(({ id }) => id),
      )
      return {
        group,
        total: own.length,
        minutes: sumOf(own, ({ minutes }) => minutes),
        carried: isCarried[group],
        rows: own.slice(0, mostTold).flatMap(({ id, minutes }) => {
          const name = names.get(id)
          return name ? [{ id, key: name.key, title: name.title, why: why[group], minutes }] : []
        }),
      }
    }),
    uncovered: uncoveredSince(tx, plan),
  }
}

/** A plan of the next release: suites with the cases that are taken, and all that the old one says but its results. */
export function carryPlan(
  context: Context,
  { params, body }: Input<typeof carryContract>,
): Answer<typeof carryContract> {
  const { tx, project, now } = context
  const old = found(findPlan(tx, project.id, params.ref), keyOf('plan', params.ref))
  if (body.iteration !== null && iterationRelease(tx, body.iteration)?.releaseId !== body.release)
    throw new Refusal('invalid', 'That iteration does not belong to that release.')
  const suites = suitesFor(context, old, new Set(body.cases))
  if (suites.size === 0)
    throw new Refusal('refused', 'None of these cases is in a suite of this plan any more; nothing was made.')
  const number = takeNumbers(tx, project.id, 'plan')
  const id = addPlan(
    tx,
    {
      projectId: project.id,
      number,
      title: body.title,
      objective: old.objective,
      releaseId: body.release,
      iterationId: body.iteration,
    },
    now,
  )
  setPlanSuites(tx, id, [...suites.values()])
  copyPlan(tx, { from: old, to: id, suites, now })
  context.change({
    kind: 'plan',
    id,
    ref: keyOf('plan', number),
    action: 'carried over',
    detail: { from: [null, keyOf('plan', old.number)] },
  })
  return { id, key: keyOf('plan', number), suites: suites.size }
}

/** A suite for each of the old plan that has some of the cases; by the id of the old one. */
function suitesFor(context: Context, old: PlanStored, taken: ReadonlySet<number>): Map<number, number> {
  const { tx, project, now } = context
  const held = groupBy(
    suitesWithCases(tx, old.id).filter((row) => taken.has(row.case)),
    ({ suite }) => suite,
  )
  return new Map(
    [...held].map(([before, rows]) => {
      const number = takeNumbers(tx, project.id, 'suite')
      const id = addSuite(tx, { projectId: project.id, number, title: rows[0]?.title ?? 'Suite' }, now)
      pinToSuite(
        tx,
        id,
        rows.map((row) => row.case),
      )
      noticeAtOnce(context, id)
      context.change({ kind: 'suite', id, ref: keyOf('suite', number), action: 'created' })
      return [before, id]
    }),
  )
}

interface Copying {
  readonly from: PlanStored
  readonly to: number
  readonly suites: ReadonlyMap<number, number>
  readonly now: number
}

/** What a plan says beside its suites: environments and what is asked of them, words, risks, branches, people and criteria. */
function copyPlan(tx: Tx, { from, to, suites, now }: Copying): void {
  setPlanEnvironments(
    tx,
    to,
    planEnvironments(tx, from.id).map(({ id }) => id),
  )
  setAsks(
    tx,
    to,
    (asksOf(tx, [from.id]).get(from.id) ?? []).flatMap((ask) => {
      const id = ask.about === 'suite' ? suites.get(ask.id) : ask.id
      return id === undefined ? [] : [{ ...ask, id }]
    }),
  )
  const parts = partsOf(tx, from.id)
  for (const part of planParts) if (parts[part] !== '') savePart(tx, to, part, parts[part])
  const risks = risksOf(tx, from.id).map(({ title, likelihood, impact, answers }) => ({
    title,
    likelihood,
    impact,
    requirements: answers.filter(({ kind }) => kind === 'requirement').map(({ id }) => id),
    cases: answers.filter(({ kind }) => kind === 'case').map(({ id }) => id),
  }))
  setRisks(tx, { projectId: from.projectId, planId: to, now }, risks)
  setBranches(tx, to, branchesOf(tx, from.id))
  setPeople(tx, to, peopleIn(tx, from.id))
  for (const { side, rule } of criteriaOf(tx, from.id))
    addCriterionTo(tx, { projectId: from.projectId, planId: to, side, rule })
}

/** Takes back what was made at once: the plan, and the suites that were made for it alone. */
export function takeCarryBack(
  context: Context,
  { params, query }: Input<typeof backContract>,
): Answer<typeof backContract> {
  const { tx, project, now } = context
  const plan = findPlan(tx, project.id, params.ref)
  if (!plan) throw new Refusal('not-found', `There is no ${keyOf('plan', params.ref)} in this project.`)
  const suites = suitesMadeWith(tx, plan.id)
  if (suites.length === 0)
    throw new Refusal('refused', `${keyOf('plan', plan.number)} was not carried over in one act; it stays.`)
  const undo = query.undo === 'yes'
  for (const id of suites) saveSuite(tx, id, { deletedAt: undo ? null : now })
  savePlan(tx, plan.id, { deletedAt: undo ? null : now })
  context.change({
    kind: 'plan',
    id: plan.id,
    ref: keyOf('plan', plan.number),
    action: undo ? 'restored' : 'deleted',
  })
  return { ok: true }
}
