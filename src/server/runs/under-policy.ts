import { keyOf } from '#core/lib/key.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { type Arrival, arrivalOf } from '#core/runs/event-time.ts'
import { isSeveral } from '#core/runs/several.ts'
import { amendableUntil, mayRecord, type Policy } from '#core/projects/policy.ts'
import { caseById } from '#db/cases/cases.ts'
import { findPerson } from '#db/people/people.ts'
import { policyById, policyIdOf } from '#db/projects/policies.ts'
import type { ItemStored } from '#db/runs/items.ts'
import type { RunStored } from '#db/runs/runs.ts'
import type { Context } from '#server/http/context.ts'

/** The rules a run is executed under now. */
export const policyOfRun = ({ tx, project }: Pick<Context, 'tx' | 'project'>, run: RunStored): Policy =>
  policyById(tx, policyIdOf(run, project))

/** Refuses whoever is not named where only the named person records; what somebody has begun is theirs to finish. */
export function refuseOthers(
  { tx, person }: Pick<Context, 'tx' | 'person'>,
  policy: Policy,
  item: Pick<ItemStored, 'assigneeId' | 'caseId' | 'people'>,
  begunBy: string | null,
): void {
  // What several people judge is nobody's alone.
  if (isSeveral(item)) return
  if (mayRecord(policy, { person: person.id, assignee: item.assigneeId, begunBy })) return
  const own = caseById(tx, item.caseId)
  const named = item.assigneeId === null ? null : (findPerson(tx, item.assigneeId)?.name ?? 'somebody else')
  const whose = named === null ? 'nobody’s yet' : `${named}’s`
  throw new Refusal(
    'refused',
    `${own ? keyOf('case', own.number) : 'This item'} is ${whose}, and only the named person records in this run; a lead can give it to you. Nothing was stored.`,
  )
}

/** Until when whoever asks may amend results of a run; `null`: it is not closed, or they may not. */
export function amendUntil(context: Pick<Context, 'tx' | 'project' | 'role'>, run: RunStored): number | null {
  if (run.state !== 'Closed' || run.closedAt === null) return null
  return amendableUntil(policyOfRun(context, run), { closedAt: run.closedAt, lead: context.role === 'lead' })
}

/** How what happened at an instant stands to the close of the run, if there is one. */
export const arrivalAt = (
  context: Pick<Context, 'tx' | 'project' | 'role'>,
  run: RunStored | undefined,
  at: number,
): Arrival => (run ? arrivalOf(at, run.closedAt, amendUntil(context, run)) : 'in time')
