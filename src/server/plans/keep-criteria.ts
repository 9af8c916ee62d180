import { keyOf } from '#core/lib/key.ts'
import { dayIn } from '#core/lib/days.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type {
  addCriterion as addContract,
  changeCriterion as changeContract,
  removeCriterion as removeContract,
  waiveCriterion as waiveContract,
} from '#core/plans/criteria-contract.ts'
import { criterionWords } from '#core/plans/criteria.ts'
import { addCriterionTo, criteriaOf, type CriterionStored, findCriterion, saveCriterion } from '#db/plans/criteria.ts'
import type { PlanStored } from '#db/plans/plans.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { openPlan } from './open-plan.ts'

const mostCriteria = 60

function changed(
  context: Context,
  plan: PlanStored,
  action:
    | 'criterion added'
    | 'criterion changed'
    | 'criterion taken away'
    | 'criterion brought back'
    | 'criterion waived'
    | 'waiver ended',
  words: string,
): void {
  context.change({
    kind: 'plan',
    id: plan.id,
    ref: keyOf('plan', plan.number),
    action,
    detail: { criterion: [null, words] },
  })
}

const wordsOf = ({ rule }: Pick<CriterionStored, 'rule'>): string => criterionWords(rule, null)

export function addCriterion(
  context: Context,
  { params, body }: Input<typeof addContract>,
): Answer<typeof addContract> {
  const plan = openPlan(context, params.ref)
  if (criteriaOf(context.tx, plan.id).length >= mostCriteria)
    throw new Refusal('refused', `A plan has at most ${mostCriteria} criteria.`)
  const id = addCriterionTo(context.tx, { projectId: context.project.id, planId: plan.id, ...body })
  changed(context, plan, 'criterion added', wordsOf(body))
  return { id }
}

export function changeCriterion(
  context: Context,
  { params, body }: Input<typeof changeContract>,
): Answer<typeof changeContract> {
  const plan = openPlan(context, params.ref)
  const before = own(context, plan, params.criterion)
  const { before: place, ...edit } = body
  const said = { ...(edit.side && { side: edit.side }), ...(edit.rule && { rule: edit.rule }) }
  if (Object.keys(said).length > 0) saveCriterion(context.tx, before.id, said)
  if (place !== undefined) placeBefore(context, plan, before.id, place)
  changed(context, plan, 'criterion changed', wordsOf({ rule: edit.rule ?? before.rule }))
  return { ok: true }
}

/** Puts one before another, or last. */
function placeBefore({ tx }: Context, plan: PlanStored, id: number, before: number | null): void {
  const all = criteriaOf(tx, plan.id)
  const own = all.find((each) => each.id === id)
  const rest = all.filter((each) => each !== own)
  const at = before === null ? rest.length : rest.findIndex((each) => each.id === before)
  const order = own ? rest.toSpliced(at < 0 ? rest.length : at, 0, own) : rest
  for (const [index, each] of order.entries())
    if (each.position !== index + 1) saveCriterion(tx, each.id, { position: index + 1 })
}

function own({ tx }: Context, plan: PlanStored, id: number): CriterionStored {
  return found(findCriterion(tx, plan.id, id), 'That criterion')
}

export function removeCriterion(
  context: Context,
  { params, query }: Input<typeof removeContract>,
): Answer<typeof removeContract> {
  const plan = openPlan(context, params.ref)
  const stored = findCriterion(context.tx, plan.id, params.criterion)
  if (!stored) throw new Refusal('not-found', 'That criterion is not of this plan.')
  const undo = query.undo === 'yes'
  saveCriterion(context.tx, stored.id, { deletedAt: undo ? null : context.now })
  changed(context, plan, undo ? 'criterion brought back' : 'criterion taken away', wordsOf(stored))
  return { ok: true }
}

/** A waiver says why and until when; who waived it is kept with it. */
export function waiveCriterion(
  context: Context,
  { params, body }: Input<typeof waiveContract>,
): Answer<typeof waiveContract> {
  const plan = openPlan(context, params.ref)
  const stored = own(context, plan, params.criterion)
  if (body.until !== null && body.reason === '')
    throw new Refusal('invalid', 'Say why the criterion is waived; nothing was stored.', {
      fields: [{ field: 'reason', message: 'is asked for' }],
    })
  if (body.until !== null && body.until < dayIn(context.project.timeZone, context.now))
    throw new Refusal('invalid', 'That day is over; a waiver ends today or later. Nothing was stored.', {
      fields: [{ field: 'until', message: 'is over' }],
    })
  saveCriterion(
    context.tx,
    stored.id,
    body.until === null
      ? { waivedBy: null, waivedAt: null, waivedReason: '', waivedUntil: null }
      : {
          waivedBy: context.person.id,
          waivedAt: context.now,
          waivedReason: body.reason,
          waivedUntil: body.until,
        },
  )
  changed(context, plan, body.until === null ? 'waiver ended' : 'criterion waived', wordsOf(stored))
  return { ok: true }
}
