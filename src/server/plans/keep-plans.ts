import { keyOf } from '#core/lib/key.ts'
import type {
  createPlan as createContract,
  listPlans as listContract,
  orderPlans as orderContract,
  readPlan as readContract,
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
  planSuites,
  savePlan,
  setPlanEnvironments,
  setPlanSuites,
} from '#db/plans/plans.ts'
import { iterationRelease } from '#db/projects/releases.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { answerOrder, answerPage } from '#server/finding/list-question.ts'
import { unapprovedOfPlan } from '#db/plans/suites.ts'
import { checkVersion, type Context, found } from '#server/http/context.ts'
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

export function readPlan(
  { tx, project }: Context,
  { params }: Input<typeof readContract>,
): Answer<typeof readContract> {
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
    unapproved: project.approvalRequired ? unapprovedOfPlan(tx, stored.id) : [],
  }
}

export function updatePlan(
  context: Context,
  { params, body }: Input<typeof updateContract>,
): Answer<typeof updateContract> {
  const { tx, project } = context
  const before = found(findPlan(tx, project.id, params.ref), keyOf('plan', params.ref))
  checkVersion(context, before, keyOf('plan', params.ref))
  const { suites, environments, ...fields } = body
  const held = {
    suites: planSuites(tx, before.id).map(({ id }) => id),
    environments: planEnvironments(tx, before.id).map(({ id }) => id),
  }
  const detail = changedFields({ ...before, ...held }, { ...fields, suites, environments })
  if (Object.keys(detail).length === 0) return { version: before.version }
  if (suites) setPlanSuites(tx, before.id, suites)
  if (environments) setPlanEnvironments(tx, before.id, environments)
  savePlan(tx, before.id, { ...definedOf(fields), version: before.version + 1, updatedAt: context.now })
  context.change({ kind: 'plan', id: before.id, ref: keyOf('plan', before.number), action: 'changed', detail })
  return { version: before.version + 1 }
}
