import { keyOf, numberIn } from '#core/lib/key.ts'
import type {
  changeSuites as manyContract,
  createSuite as createContract,
  deleteSuites as deleteContract,
  listSuites as listContract,
  orderSuites as orderContract,
  pinCases as pinContract,
  placeMembers as placeContract,
  updateSuite as updateContract,
} from '#core/plans/suite-contract.ts'
import { suiteFields } from '#core/finding/fields.ts'
import { definedOf } from '#core/lib/defined.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { changedFields } from '#core/history/changes.ts'
import { findCase } from '#db/cases/cases.ts'
import {
  addSuite,
  findSuite,
  pinsOf,
  pinToSuite,
  placeCases,
  saveSuite,
  suiteById,
  suiteRows,
  type SuiteStored,
  suiteSource,
  unpin,
} from '#db/plans/suites.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { hideRows } from '#db/finding/search.ts'
import { changeEach } from '#server/finding/change-many.ts'
import { answerOrder, answerPage } from '#server/finding/list-question.ts'
import { checkVersion, type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { addSources } from './compose-suite.ts'
import { noticeAtOnce, openSuite } from './open-suite.ts'

export const listSuites = (
  { tx, project, now }: Context,
  { query }: Input<typeof listContract>,
): Answer<typeof listContract> =>
  answerPage(tx, query, {
    source: suiteSource(project.id),
    fields: suiteFields,
    rows: (ids) => suiteRows(tx, project.id, ids, now),
  })

export const orderSuites = (
  { tx, project }: Context,
  { query }: Input<typeof orderContract>,
): Answer<typeof orderContract> => answerOrder(tx, query, { source: suiteSource(project.id), fields: suiteFields })

export function createSuite(context: Context, { body }: Input<typeof createContract>): Answer<typeof createContract> {
  const { tx, project, now } = context
  const number = takeNumbers(tx, project.id, 'suite')
  const id = addSuite(tx, { projectId: project.id, number, title: body.title }, now)
  pinToSuite(tx, id, body.cases)
  addSources(context, id, body.sources)
  noticeAtOnce(context, id)
  context.change({ kind: 'suite', id, ref: keyOf('suite', number), action: 'created' })
  return { id, key: keyOf('suite', number) }
}

export function updateSuite(
  context: Context,
  { params, body }: Input<typeof updateContract>,
): Answer<typeof updateContract> {
  const before = found(findSuite(context.tx, context.project.id, params.ref), keyOf('suite', params.ref))
  checkVersion(context, before, keyOf('suite', params.ref))
  return { version: storeFields(context, before, body) }
}

type Edit = Input<typeof updateContract>['body']

/** A closed suite can be opened again, and nothing else; opened, its reason is gone. */
function storeFields(context: Context, before: SuiteStored, asked: Edit): number {
  const opens = before.state === 'Closed' && asked.state !== undefined && asked.state !== 'Closed'
  const edit = opens ? { ...asked, closedReason: '' } : asked
  const detail = changedFields(before, edit)
  if (Object.keys(detail).length === 0) return before.version
  if (!opens && !(Object.keys(detail).join() === 'closedReason')) refuseClosed(before)
  const version = before.version + 1
  saveSuite(context.tx, before.id, { ...definedOf(edit), version, updatedAt: context.now })
  context.change({ kind: 'suite', id: before.id, ref: keyOf('suite', before.number), action: 'changed', detail })
  return version
}

function refuseClosed(suite: SuiteStored): void {
  if (suite.state === 'Closed') openSuite(suite)
}

export const changeSuites = (context: Context, { body }: Input<typeof manyContract>): Answer<typeof manyContract> =>
  changeEach(body.ids, body.set, {
    find: (id) => found(suiteById(context.tx, context.project.id, id), 'One of the chosen suites'),
    store: (before, edit) => void storeFields(context, before, edit),
  })

export function deleteSuites(context: Context, { body }: Input<typeof deleteContract>): Answer<typeof deleteContract> {
  const rows = suiteRows(context.tx, context.project.id, body.ids, context.now)
  hideRows(
    context.tx,
    'suite',
    rows.map(({ id }) => id),
    context.now,
  )
  for (const row of rows) context.change({ kind: 'suite', id: row.id, ref: row.key, action: 'deleted' })
  return { refs: rows.map((row) => row.key) }
}

/** Pins and unpins in one act; every case is named by its key, so that they can be typed. */
export function pinCases(context: Context, { params, body }: Input<typeof pinContract>): Answer<typeof pinContract> {
  const { tx, project } = context
  const stored = openSuite(findSuite(tx, project.id, params.ref), params.ref)
  const before = new Set(pinsOf(tx, stored.id).map(({ id }) => id))
  const named = body.add.map((ref) => found(findCase(tx, project.id, numberIn('case', ref)), ref).id)
  const added = [...new Set([...named, ...body.addIds])].filter((id) => !before.has(id))
  pinToSuite(tx, stored.id, added)
  unpin(tx, stored.id, body.remove)
  noticeAtOnce(context, stored.id)
  context.change({
    kind: 'suite',
    id: stored.id,
    ref: keyOf('suite', stored.number),
    action: 'pinned',
    detail: { cases: [body.remove.length, added.length] },
  })
  return { pins: pinsOf(tx, stored.id).length, added }
}

export function placeMembers(
  context: Context,
  { params, body }: Input<typeof placeContract>,
): Answer<typeof placeContract> {
  const { tx, project } = context
  const stored = openSuite(findSuite(tx, project.id, params.ref), params.ref)
  if (new Set(body.order).size !== body.order.length)
    throw new Refusal('invalid', 'A case stands twice in this order; nothing was stored.')
  placeCases(tx, stored.id, body.order)
  const version = stored.version + 1
  saveSuite(tx, stored.id, { orderedBy: 'hand', version, updatedAt: context.now })
  context.change({ kind: 'suite', id: stored.id, ref: keyOf('suite', stored.number), action: 'put in order' })
  return { version }
}
