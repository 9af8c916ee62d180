import { keyOf } from '#core/lib/key.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { findPlan, type PlanStored } from '#db/plans/plans.ts'
import { type Context, found } from '#server/http/context.ts'

/** Says that a closed plan stays as it is, and so does one whose release has shipped. */
export function refuseClosed({ state, number, frozenVersionId }: PlanStored): void {
  if (state === 'Closed')
    throw new Refusal('refused', `${keyOf('plan', number)} is closed; nothing was stored. Open it again to change it.`)
  if (frozenVersionId !== null)
    throw new Refusal(
      'refused',
      `The release of ${keyOf('plan', number)} has shipped, and the plan stays as it was; nothing was stored.`,
    )
}

/** A plan that is there and not closed, or a refusal that says so. */
export function openPlan({ tx, project }: Pick<Context, 'tx' | 'project'>, number: number): PlanStored {
  const plan = found(findPlan(tx, project.id, number), keyOf('plan', number))
  refuseClosed(plan)
  return plan
}
