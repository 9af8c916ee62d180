import { keyOf } from '#core/lib/key.ts'
import { type DefinitionChange, definitionChanges } from '#core/plans/definition.ts'
import { slotsOfPlan } from '#db/plans/asked.ts'
import { type PlanStored, savePlan } from '#db/plans/plans.ts'
import { addPlanVersion, lastVersion, plansOfRelease, type VersionStored } from '#db/plans/versions.ts'
import type { Context } from '#server/http/context.ts'
import { definitionOf } from './define-plan.ts'

/** What a plan says now that differs from a version of it. */
export const changesSince = (
  { tx }: Pick<Context, 'tx'>,
  plan: PlanStored,
  version: VersionStored,
): DefinitionChange[] => definitionChanges(version.definition, definitionOf(tx, plan))

/** Writes down how a plan stands: what it says, and every case it asks for. */
export const cutPlanVersion = (
  { tx, project, now, person }: Context,
  plan: PlanStored,
  of: { readonly state: 'In review' | 'Kept'; readonly note: string },
): { id: number; number: number } =>
  addPlanVersion(
    tx,
    {
      ...of,
      projectId: project.id,
      planId: plan.id,
      definition: definitionOf(tx, plan),
      personId: person.id === '' ? null : person.id,
      at: now,
      ...(of.state === 'Kept' && { endedAt: now }),
    },
    slotsOfPlan(tx, project, plan.id),
  )

/** From now on a version answers for the plan: the one that was signed, if the plan says the same still; else how it stands now. */
export function freezePlan(context: Context, plan: PlanStored, note: string): void {
  const signed = lastVersion(context.tx, plan.id, ['Signed off'])
  const holds = signed !== undefined && changesSince(context, plan, signed).length === 0
  const { id } = holds ? signed : cutPlanVersion(context, plan, { state: 'Kept', note })
  savePlan(context.tx, plan.id, { frozenVersionId: id })
}

/** Plans of a release that ships answer as they stand; those of one that does not any more live again, unless they are closed. */
export function freezeReleasePlans(
  context: Context,
  release: { readonly id: number; readonly name: string },
  shipped: boolean,
): void {
  for (const plan of plansOfRelease(context.tx, release.id)) {
    if (plan.state === 'Closed' || (plan.frozenVersionId !== null) === shipped) continue
    if (shipped) freezePlan(context, plan, `Release ${release.name} shipped`)
    else savePlan(context.tx, plan.id, { frozenVersionId: null })
    context.change({
      kind: 'plan',
      id: plan.id,
      ref: keyOf('plan', plan.number),
      action: 'changed',
      detail: { 'stands as when its release shipped': [!shipped, shipped] },
    })
  }
}
