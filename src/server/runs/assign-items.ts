import { isFinal } from '#core/lib/verdict.ts'
import { keyOf } from '#core/lib/key.ts'
import type {
  changeItems as changeContract,
  dealItems as dealContract,
  listItems as listContract,
  orderItems as orderContract,
} from '#core/runs/contract.ts'
import { itemFields } from '#core/finding/fields.ts'
import { definedOf } from '#core/lib/defined.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { dealKnowing } from '#core/runs/dealing.ts'
import { type Several, severalProblem } from '#core/runs/several.ts'
import type { Tx } from '#db/open.ts'
import { buildsOfItem } from '#db/runs/attempts.ts'
import { itemSource } from '#db/runs/item-list.ts'
import { findItem, itemRows, itemsOfRun, type ItemStored, saveItem } from '#db/runs/items.ts'
import { findRun, type RunStored, teamIds, teamOf } from '#db/runs/runs.ts'
import { changeEach } from '#server/finding/change-many.ts'
import { answerOrder, answerPage } from '#server/finding/list-question.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { refreshItem, refreshStanding } from './refresh-standing.ts'
import { knowsNothing, type WhoKnows, whoKnows } from './who-knows.ts'

export function listItems(
  { tx, project, now }: Context,
  { params, query }: Input<typeof listContract>,
): Answer<typeof listContract> {
  const run = found(findRun(tx, project.id, params.ref), keyOf('run', params.ref))
  return answerPage(tx, query, {
    source: itemSource(run.id, now),
    fields: itemFields,
    rows: (ids) => itemRows(tx, run.id, ids, now),
  })
}

export function orderItems(
  { tx, project, now }: Context,
  { params, query }: Input<typeof orderContract>,
): Answer<typeof orderContract> {
  const run = found(findRun(tx, project.id, params.ref), keyOf('run', params.ref))
  return answerOrder(tx, query, { source: itemSource(run.id, now), fields: itemFields })
}

export function changeItems(
  context: Context,
  { params, body }: Input<typeof changeContract>,
): Answer<typeof changeContract> {
  const { tx, project } = context
  const run = found(findRun(tx, project.id, params.ref), keyOf('run', params.ref))
  const answer = changeEach(body.ids, definedOf(body.set), {
    find: (id) => {
      const item = found(findItem(tx, project.id, id), 'One of the chosen items')
      if (item.runId !== run.id)
        throw new Refusal('invalid', 'One of the chosen items is of another run; nothing was changed.')
      return item
    },
    store: (before, edit) => {
      refuseSeveral({ ...before, ...edit })
      saveItem(tx, before.id, edit)
      if (edit.people !== undefined || edit.passes !== undefined) followSeveral(tx, before)
    },
  })
  if (answer.changed > 0)
    context.change({
      kind: 'run',
      id: run.id,
      ref: keyOf('run', run.number),
      action: 'assigned',
      detail: { items: [null, answer.changed] },
    })
  return answer
}

function refuseSeveral(of: Several): void {
  const problem = severalProblem(of)
  if (problem !== null)
    throw new Refusal('invalid', `${problem} Nothing was changed.`, {
      fields: [{ field: 'passes', message: 'is more than the people' }],
    })
}

/** By how many people an item is judged changes what was judged already. */
function followSeveral(tx: Tx, { id, caseId, environmentId }: ItemStored): void {
  refreshItem(tx, id)
  for (const buildId of buildsOfItem(tx, id)) refreshStanding(tx, { caseId, environmentId, buildId })
}

/** Deals items over the run's team; who knows what is read first, so that nobody waits for it. */
export async function dealItems(
  context: OpenContext,
  { params, body }: Input<typeof dealContract>,
): Promise<Answer<typeof dealContract>> {
  const { tx, project } = context
  const run = found(findRun(tx, project.id, params.ref), keyOf('run', params.ref))
  const knows =
    body.way === 'evenly'
      ? knowsNothing
      : await whoKnows(context, {
          cases: itemsOfRun(tx, run.id, body.ids ?? null).map(({ caseId }) => caseId),
          people: teamIds(tx, run.id),
        })
  return context.store((inside) => deal(inside, run, { ids: body.ids, knows }))
}

/** Minutes come out as even as that allows; what people have left already counts. */
function deal(
  context: Context,
  run: RunStored,
  { ids, knows }: { readonly ids: readonly number[] | undefined; readonly knows: WhoKnows },
): Answer<typeof dealContract> {
  const { tx } = context
  const people = teamIds(tx, run.id)
  if (people.length === 0) throw new Refusal('refused', 'This run has no team to deal to; add testers first.')
  const wanted = ids
    ? itemsOfRun(tx, run.id, ids)
    : itemsOfRun(tx, run.id, null).filter(({ assigneeId }) => assigneeId === null)
  const open = wanted.filter(({ verdict }) => verdict === 'Not run')
  const dealing = new Set(open.map(({ id }) => id))
  const given = itemsOfRun(tx, run.id, null).filter(({ id, verdict }) => !dealing.has(id) && !isFinal(verdict))
  const load = Object.fromEntries(
    teamOf(tx, run.id).map(({ id }) => [
      id,
      given.filter(({ assigneeId }) => assigneeId === id).reduce((sum, { minutes }) => sum + minutes, 0),
    ]),
  )
  const caseOf = new Map(open.map(({ id, caseId }) => [id, caseId]))
  const known = (item: number, person: string): number => knows(caseOf.get(item) ?? 0, person)
  const dealt = dealKnowing(open, people, { load, knows: known })
  const before = new Map(open.map(({ id, assigneeId }) => [id, assigneeId]))
  for (const { item, person } of dealt) saveItem(tx, item, { assigneeId: person })
  if (dealt.length > 0)
    context.change({
      kind: 'run',
      id: run.id,
      ref: keyOf('run', run.number),
      action: 'dealt',
      detail: { items: [null, dealt.length] },
    })
  return {
    dealt: dealt.length,
    known: dealt.filter(({ item, person }) => known(item, person) > 0).length,
    undo: dealt.map(({ item }) => ({ id: item, set: { assigneeId: before.get(item) ?? null } })),
  }
}
