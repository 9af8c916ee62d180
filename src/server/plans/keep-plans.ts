import { keyOf } from '#core/lib/key.ts'
import type {
  createPlan as createContract,
  listPlans as listContract,
  orderPlans as orderContract,
  readPlan as readContract,
  readPlanSince as sinceContract,
  updatePlan as updateContract,
} from '#core/plans/contract.ts'
import { planFields } from '#core/finding/fields.ts'
import { definedOf } from '#core/lib/defined.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { changedFields } from '#core/history/changes.ts'
import {
  addPlan,
  findPlan,
  planEnvironments,
  planMinutes,
  planRows,
  planRuns,
  planSource,
  type PlanStored,
  planSuites,
  savePlan,
  setPlanEnvironments,
  setPlanSuites,
} from '#db/plans/plans.ts'
import { iterationRelease, releaseDue, releaseState } from '#db/projects/releases.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { answerOrder, answerPage } from '#server/finding/list-question.ts'
import { dayAfter, dayIn, daysBetween } from '#core/lib/days.ts'
import { planParts } from '#core/plans/state.ts'
import { minutesGivenOn } from '#db/people/members.ts'
import {
  branchesOf,
  milestonesOf,
  partsOf,
  peopleIn,
  risksOf,
  savePart,
  setBranches,
  setMilestones,
  setPeople,
  setRisks,
} from '#db/plans/parts.ts'
import { asksOf, setAsks } from '#db/plans/asked.ts'
import type { Ask } from '#core/plans/asks.ts'
import { missingOfPlan } from '#db/plans/proved.ts'
import { actsSince, awaySoon, buildsSince, casesSince, rewordedSince } from '#db/plans/since.ts'
import { checkVersion, type Context, found } from '#server/http/context.ts'
import { asksShown } from './define-plan.ts'
import { freezePlan } from './freeze-plan.ts'
import { moveState, signedOf } from './keep-versions.ts'
import { refuseClosed } from './open-plan.ts'
import type { Answer, Input } from '#server/http/route.ts'

export const listPlans = (
  { tx, project }: Context,
  { query }: Input<typeof listContract>,
): Answer<typeof listContract> =>
  answerPage(tx, query, {
    source: planSource(project.id),
    fields: planFields,
    rows: (ids) => planRows(tx, project.id, ids),
  })

export const orderPlans = (
  { tx, project }: Context,
  { query }: Input<typeof orderContract>,
): Answer<typeof orderContract> => answerOrder(tx, query, { source: planSource(project.id), fields: planFields })

export function createPlan(context: Context, { body }: Input<typeof createContract>): Answer<typeof createContract> {
  const { tx, project, now } = context
  if (body.iteration !== null && iterationRelease(tx, body.iteration)?.releaseId !== body.release)
    throw new Refusal('invalid', 'That iteration does not belong to that release.')
  const number = takeNumbers(tx, project.id, 'plan')
  const id = addPlan(
    tx,
    { projectId: project.id, number, title: body.title, releaseId: body.release, iterationId: body.iteration },
    now,
  )
  setPlanSuites(tx, id, body.suites)
  setPlanEnvironments(tx, id, body.environments)
  context.change({ kind: 'plan', id, ref: keyOf('plan', number), action: 'created' })
  return { id, key: keyOf('plan', number) }
}

/** What is asked for the same twice counts as it was said last. */
const onceAsked = (asks: readonly Ask[]): Ask[] => [
  ...new Map(asks.map((ask) => [`${ask.about}:${ask.id}`, ask])).values(),
]

/** A plan that is due in more days is looked at no further. */
const mostDays = 400

/** What a plan says beside its suites and environments. */
function detailOf({ tx, project, now }: Reading, { id, releaseId }: PlanStored) {
  const dueOn = releaseDue(tx, releaseId)
  const days = dueOn === null ? null : daysBetween(dayIn(project.timeZone, now), dueOn, mostDays)
  return {
    parts: partsOf(tx, id),
    risks: risksOf(tx, id),
    branches: branchesOf(tx, id),
    people: peopleIn(tx, id).map((each) => ({
      ...each,
      minutes: days && minutesGivenOn(tx, project.id, each.id, days),
    })),
    milestones: milestonesOf(tx, id),
    dueOn,
    unproved: missingOfPlan(tx, project.id, id),
    asks: asksShown(tx, id),
  }
}

type Reading = Pick<Context, 'tx' | 'project' | 'now'>

export function readPlan(context: Reading, { params }: Input<typeof readContract>): Answer<typeof readContract> {
  const { tx, project } = context
  const stored = found(findPlan(tx, project.id, params.ref), keyOf('plan', params.ref))
  const [row] = planRows(tx, project.id, [stored.id])
  if (!row) throw new Error(`plan ${stored.id} has no row`)
  const suiteList = planSuites(tx, stored.id)
  return {
    ...row,
    releaseId: stored.releaseId,
    iterationId: stored.iterationId,
    suiteList,
    environmentList: planEnvironments(tx, stored.id),
    runList: planRuns(tx, stored.id),
    minutes: planMinutes(tx, stored.id),
    ...detailOf(context, stored),
    ...signedOf(context, stored),
  }
}

/** A closed plan can be opened again, and nothing else. */
function refuseEdit(plan: PlanStored, edit: Input<typeof updateContract>['body']): void {
  const opens = edit.state !== undefined && edit.state !== 'Closed'
  const says = Object.keys(edit).some((field) => field !== 'state')
  if (says && (!opens || plan.state !== 'Closed')) refuseClosed(plan)
}

export function updatePlan(
  context: Context,
  { params, body }: Input<typeof updateContract>,
): Answer<typeof updateContract> {
  const { tx, project } = context
  const before = found(findPlan(tx, project.id, params.ref), keyOf('plan', params.ref))
  checkVersion(context, before, keyOf('plan', params.ref))
  const { suites, environments, parts, risks, branches, people, milestones, asks, ...fields } = body
  refuseEdit(before, body)
  const held = {
    suites: planSuites(tx, before.id).map(({ id }) => id),
    environments: planEnvironments(tx, before.id).map(({ id }) => id),
    ...partsOf(tx, before.id),
    risks: risksOf(tx, before.id).map(({ title, likelihood, impact }) => ({ title, likelihood, impact })),
    branches: branchesOf(tx, before.id).map(({ id, inside, reason }) => ({ id, inside, reason })),
    people: peopleIn(tx, before.id).map(({ id, part }) => ({ id, part })),
    milestones: milestonesOf(tx, before.id),
    asks: asksOf(tx, [before.id]).get(before.id) ?? [],
  }
  const said = { ...fields, suites, environments, ...parts, branches, people, milestones, asks }
  const detail = {
    ...changedFields({ ...before, ...held }, said),
    ...(risks && { risks: [held.risks, risks] as const }),
  }
  if (Object.keys(detail).length === 0) return { version: before.version }
  if (suites) setPlanSuites(tx, before.id, suites)
  if (environments) setPlanEnvironments(tx, before.id, environments)
  const of = { projectId: context.project.id, planId: before.id, now: context.now }
  for (const part of planParts) if (parts?.[part] !== undefined) savePart(tx, before.id, part, parts[part])
  if (risks) setRisks(tx, of, risks)
  if (branches) setBranches(tx, before.id, branches)
  if (people) setPeople(tx, before.id, people)
  if (milestones) setMilestones(tx, of, milestones)
  if (asks) setAsks(tx, before.id, onceAsked(asks))
  savePlan(tx, before.id, { ...definedOf(fields), version: before.version + 1, updatedAt: context.now })
  if (fields.state && fields.state !== before.state) move(context, before, fields.state)
  context.change({ kind: 'plan', id: before.id, ref: keyOf('plan', before.number), action: 'changed', detail })
  return { version: before.version + 1 }
}

/** What else comes with a new state: a closed plan is frozen, one that is opened again lives on, unless its release has shipped. */
function move(context: Context, before: PlanStored, state: PlanStored['state']): void {
  const { tx } = context
  moveState(context, before, state)
  const isFrozen = before.frozenVersionId !== null
  if (state === 'Closed' && !isFrozen) freezePlan(context, { ...before, state }, 'closed')
  if (state !== 'Closed' && isFrozen && releaseState(tx, before.releaseId) !== 'Shipped')
    savePlan(tx, before.id, { frozenVersionId: null })
}

/** What whoever looks every day wants to know first. */
export function readPlanSince(
  { tx, project, person, now }: Context,
  { params, query: { since } }: Input<typeof sinceContract>,
): Answer<typeof sinceContract> {
  const { id } = found(findPlan(tx, project.id, params.ref), keyOf('plan', params.ref))
  const today = dayIn(project.timeZone, now)
  return {
    ...casesSince(tx, id, since),
    reworded: rewordedSince(tx, id, since),
    builds: buildsSince(tx, id, since),
    away: awaySoon(tx, id, { from: today, to: dayAfter(today, 14) }),
    acts: actsSince(tx, id, { since, but: person.id }),
  }
}
