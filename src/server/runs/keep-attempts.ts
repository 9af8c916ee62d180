import { definedOf } from '#core/lib/defined.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type {
  AttemptSet,
  changeAttempts as changeContract,
  listAttempts as listContract,
  orderAttempts as orderContract,
  readAttempt as readContract,
} from '#core/runs/attempts-contract.ts'
import { attemptRows } from '#db/runs/attempt-list.ts'
import { type AttemptStored, findAttempt, saveAttempt } from '#db/runs/attempts.ts'
import { itemAt, itemById } from '#db/runs/items.ts'
import { changeEach } from '#server/finding/change-many.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { attemptOrderJob, attemptsJob } from '#server/workers/questions.ts'
import { attemptAnswer } from './desk-of.ts'
import { refreshItem, refreshStanding } from './refresh-standing.ts'

/** Which they are is found on another thread, where nobody waits for it. */
export async function listAttempts(
  { tx, project, now, services, request }: OpenContext,
  { query }: Input<typeof listContract>,
): Promise<Answer<typeof listContract>> {
  const { ids, ...page } = query.ids
    ? { ids: query.ids, total: query.ids.length, next: null }
    : await services.jobs.run(attemptsJob, { projectId: project.id, query, now }, request.signal)
  return { rows: attemptRows(tx, project.id, ids), ...page }
}

export const orderAttempts = (
  { project, now, services, request }: OpenContext,
  { query }: Input<typeof orderContract>,
): Promise<Answer<typeof orderContract>> =>
  services.jobs.run(attemptOrderJob, { projectId: project.id, query, now }, request.signal)

export function readAttempt(
  { tx, project, person }: Context,
  { params }: Input<typeof readContract>,
): Answer<typeof readContract> {
  const stored = found(findAttempt(tx, project.id, params.id), 'This attempt')
  const [row] = attemptRows(tx, project.id, [stored.id])
  if (!row) throw new Error(`attempt ${stored.id} has no row`)
  return { row, attempt: attemptAnswer(tx, project, stored, person.id) }
}

/**
 * Strikes attempts out, or puts right where, on which build and by whom they were made. Each goes with its steps, evidence and defects;
 * what stands at both places, and the item, follow.
 */
export function changeAttempts(
  context: Context,
  { body }: Input<typeof changeContract>,
): Answer<typeof changeContract> {
  const { tx, project } = context
  return changeEach(body.ids, definedOf(body.set), {
    find: (id) => found(findAttempt(tx, project.id, id), 'One of the chosen attempts'),
    store: (before, edit) => putRight(context, before, edit),
  })
}

function putRight(context: Context, before: AttemptStored, edit: AttemptSet): void {
  const { tx } = context
  const itemId = edit.environmentId === undefined ? before.itemId : itemThere(context, before, edit.environmentId)
  saveAttempt(tx, before.id, {
    ...edit,
    itemId,
    // Somebody has said which build it was.
    ...(edit.buildId !== undefined && {
      buildBy: 'person' as const,
      expectedBuildId: before.expectedBuildId ?? before.buildId,
    }),
  })
  const after = found(findAttempt(tx, before.projectId, before.id), 'This attempt')
  for (const place of [before, after]) if (before.final) refreshStanding(tx, place)
  for (const item of new Set([before.itemId, itemId])) if (item !== null) refreshItem(tx, item)
  context.change({
    kind: 'attempt',
    id: before.id,
    ref: String(itemId ?? before.id),
    action: edit.struck === undefined ? 'put right' : edit.struck === null ? 'brought back' : 'struck out',
    detail: Object.fromEntries(
      (Object.keys(edit) as (keyof AttemptSet)[]).map((field) => [field, [before[field], edit[field]]]),
    ),
  })
}

/** The item of the same run that is for its case in another environment; an attempt without an item needs none. */
function itemThere({ tx }: Context, { itemId, caseId }: AttemptStored, environmentId: number): number | null {
  if (itemId === null) return null
  const own = itemById(tx, itemId)
  const there = own && itemAt(tx, { runId: own.runId, caseId, environmentId })
  if (!there)
    throw new Refusal(
      'refused',
      'Its run has no item for its case in that environment; put one into the run first. Nothing was changed.',
    )
  return there.id
}
