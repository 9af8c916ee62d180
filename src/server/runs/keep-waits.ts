import { awaitsRepair } from '#core/defects/state.ts'
import { groupBy } from '#core/lib/group.ts'
import { lower } from '#core/lib/lower.ts'
import { keyOf, readKey } from '#core/lib/key.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { isFinal, verdict as verdictShape } from '#core/lib/verdict.ts'
import { goesRound, waitState } from '#core/runs/waits.ts'
import type { holdItems as holdContract, waitFor as waitContract } from '#core/runs/waits-contract.ts'
import { findCase } from '#db/cases/cases.ts'
import { type DefectStored, findDefect } from '#db/defects/queries.ts'
import { itemById, itemsOfRun } from '#db/runs/items.ts'
import { findRun, type RunStored } from '#db/runs/runs.ts'
import { addWait, dropWaits, type Held, heldBy, itemsWaited, saidWaits, waitsOfItems } from '#db/runs/waits.ts'
import { tell } from '#db/talk/inbox.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

type Each = Input<typeof holdContract>['body']['of'][number]
type Item = ReturnType<typeof itemsOfRun>[number]

/** Says of items what they wait for; what was executed already waits for nothing, unless it is blocked. */
export function waitFor(context: Context, { params, body }: Input<typeof waitContract>): Answer<typeof waitContract> {
  const run = found(findRun(context.tx, context.project.id, params.ref), keyOf('run', params.ref))
  const items = itemsHere(context, run, body.ids)
  const before = heldOf(context, body.ids)
  if (body.for === null) dropWaits(context.tx, body.ids)
  else {
    const target = targetOf(context, run, body.for)
    const executed = items.find(({ verdict }) => isFinal(verdict) && verdict !== 'Blocked')
    if (executed) throw new Refusal('refused', 'One of the chosen items was executed already, so it waits for nothing.')
    const waited = itemsWaited(context.tx, run.id)
    const said = new Map(before.map((each) => [each.item, each.defects]))
    for (const item of items) holdOne(context, item, { target, waited, said: said.get(item.id) ?? [] })
  }
  const after = heldOf(context, body.ids)
  const undo = before.filter((each, at) => JSON.stringify(each) !== JSON.stringify(after[at]))
  if (undo.length > 0) note(context, run, undo.length)
  return { changed: undo.length, undo }
}

export function holdItems(context: Context, { params, body }: Input<typeof holdContract>): Answer<typeof holdContract> {
  const run = found(findRun(context.tx, context.project.id, params.ref), keyOf('run', params.ref))
  const ids = body.of.map(({ item }) => item)
  itemsHere(
    context,
    run,
    body.of.flatMap(({ item, items }) => [item, ...items]),
  )
  dropWaits(context.tx, ids)
  const waited = itemsWaited(context.tx, run.id)
  for (const { item, defects, items } of body.of) {
    for (const defect of defects) addWait(context.tx, { item, defect, other: null }, by(context))
    for (const other of items) holdBehind(context, { item, other, waited })
  }
  note(context, run, ids.length)
  return { changed: ids.length }
}

const by = ({ person, now }: Context) => ({ personId: person.id, at: now })
const note = (context: Context, run: RunStored, items: number): void =>
  context.change({
    kind: 'run',
    id: run.id,
    ref: keyOf('run', run.number),
    action: 'waits changed',
    detail: { items: [null, items] },
  })

function itemsHere(context: Context, run: RunStored, ids: readonly number[]): Item[] {
  const items = itemsOfRun(context.tx, run.id, ids)
  if (items.length < new Set(ids).size)
    throw new Refusal('invalid', 'One of the chosen items is not in this run any more; nothing was changed.')
  return items
}

/** What is waited for: a defect, or the items of a case. */
type Target = { readonly defect: DefectStored } | { readonly items: readonly Item[] }

function targetOf({ tx, project }: Context, run: RunStored, said: string): Target {
  const key = readKey(said)
  if (key?.kind === 'defect') {
    const defect = found(findDefect(tx, project.id, key.number), keyOf('defect', key.number))
    if (!awaitsRepair(defect.state))
      throw new Refusal(
        'refused',
        `${keyOf('defect', key.number)} is ${lower(defect.state)}; there is nothing to wait for.`,
      )
    return { defect }
  }
  if (key?.kind !== 'case')
    throw new Refusal('invalid', `“${said}” is neither a defect (DF-12) nor a case of this run (TC-12).`, {
      fields: [{ field: 'for', message: 'is no key of a defect or a case' }],
    })
  const own = found(findCase(tx, project.id, key.number), keyOf('case', key.number))
  const items = itemsOfRun(tx, run.id, null).filter(({ caseId }) => caseId === own.id)
  if (items.length === 0)
    throw new Refusal('refused', `${keyOf('case', key.number)} is not in ${keyOf('run', run.number)}.`)
  return { items }
}

type Waited = Map<number, number[]>

/** What is there already stays as it is. */
function holdOne(
  context: Context,
  item: Item,
  { target, waited, said }: { target: Target; waited: Waited; said: readonly number[] },
): void {
  if ('defect' in target) {
    if (!said.includes(target.defect.id))
      addWait(context.tx, { item: item.id, defect: target.defect.id, other: null }, by(context))
    return
  }
  const there = target.items.find(({ environmentId }) => environmentId === item.environmentId)
  const other = there ?? (target.items.length === 1 ? target.items[0] : undefined)
  if (!other)
    throw new Refusal('refused', 'That case is in this run in several environments, but not in that of the item.')
  if (waited.get(item.id)?.includes(other.id)) return
  holdBehind(context, { item: item.id, other: other.id, waited })
}

function holdBehind(
  context: Context,
  { item, other, waited }: { readonly item: number; readonly other: number; readonly waited: Waited },
): void {
  if (goesRound(item, other, waited))
    throw new Refusal(
      'refused',
      item === other
        ? 'An item cannot wait for itself; nothing was changed.'
        : 'Those items would wait for each other; nothing was changed.',
    )
  addWait(context.tx, { item, defect: null, other }, by(context))
  waited.set(item, [...(waited.get(item) ?? []), other])
}

/** What each of the items waits for by what was said, in the order of the ids. */
function heldOf({ tx }: Context, ids: readonly number[]): Each[] {
  const said = groupBy(saidWaits(tx, ids), ({ item }) => item)
  return ids.map((item) => {
    const own = said.get(item) ?? []
    return {
      item,
      defects: own.flatMap(({ defect }) => (defect === null ? [] : [defect])),
      items: own.flatMap(({ other }) => (other === null ? [] : [other])),
    }
  })
}

/** Whoever has an item that a defect or another item held is told when nothing holds it any more. */
export function tellFreed(context: Context, of: Parameters<typeof heldBy>[1], because: string): void {
  const held = heldBy(context.tx, of)
  const waits = waitsOfItems(
    context.tx,
    held.map(({ item }) => item),
  )
  for (const each of held) {
    const verdict = itemById(context.tx, each.item)?.verdict
    if (each.person !== null && waitState(waits.get(each.item) ?? [], verdictShape.parse(verdict)) === 'freed')
      tellOne(context, { ...each, person: each.person }, because)
  }
}

function tellOne(
  { tx, project, person, now }: Context,
  held: Held & { readonly person: string },
  because: string,
): void {
  tell(tx, {
    projectId: project.id,
    personId: held.person,
    kind: 'freed',
    ref: held.run,
    text: `${held.case} on ${held.environment} waits no more: ${because}.`,
    fromId: person.id,
    at: now,
  })
}
