import { keyOf, numberIn } from '#core/lib/key.ts'
import type {
  changeSuites as manyContract,
  createSuite as createContract,
  deleteSuites as deleteContract,
  listSuites as listContract,
  orderSuites as orderContract,
  pinCases as pinContract,
  readSuite as readContract,
  updateSuite as updateContract,
} from '#core/plans/contract.ts'
import { suiteFields } from '#core/finding/fields.ts'
import { definedOf } from '#core/lib/defined.ts'
import { changedFields } from '#core/history/changes.ts'
import { findCase } from '#db/cases/cases.ts'
import {
  addSuite,
  findSuite,
  orderPins,
  pinnedCases,
  pinToSuite,
  plansOfSuite,
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

export const listSuites = (
  { tx, project }: Context,
  { query }: Input<typeof listContract>,
): Answer<typeof listContract> =>
  answerPage(tx, query, {
    source: suiteSource(project.id),
    fields: suiteFields,
    rows: (ids) => suiteRows(tx, project.id, ids),
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
  context.change({ kind: 'suite', id, ref: keyOf('suite', number), action: 'created' })
  return { id, key: keyOf('suite', number) }
}

export function readSuite(
  { tx, project }: Context,
  { params }: Input<typeof readContract>,
): Answer<typeof readContract> {
  const stored = found(findSuite(tx, project.id, params.ref), keyOf('suite', params.ref))
  const [row] = suiteRows(tx, project.id, [stored.id])
  if (!row) throw new Error(`suite ${stored.id} has no row`)
  return { ...row, pinned: pinnedCases(tx, stored.id), plans: plansOfSuite(tx, stored.id) }
}

export function updateSuite(
  context: Context,
  { params, body }: Input<typeof updateContract>,
): Answer<typeof updateContract> {
  const before = found(findSuite(context.tx, context.project.id, params.ref), keyOf('suite', params.ref))
  checkVersion(context, before, keyOf('suite', params.ref))
  return { version: storeFields(context, before, body) }
}

function storeFields(context: Context, before: SuiteStored, edit: Input<typeof updateContract>['body']): number {
  const detail = changedFields(before, edit)
  if (Object.keys(detail).length === 0) return before.version
  const version = before.version + 1
  saveSuite(context.tx, before.id, { ...definedOf(edit), version, updatedAt: context.now })
  context.change({ kind: 'suite', id: before.id, ref: keyOf('suite', before.number), action: 'changed', detail })
  return version
}

export const changeSuites = (context: Context, { body }: Input<typeof manyContract>): Answer<typeof manyContract> =>
  changeEach(body.ids, body.set, {
    find: (id) => found(suiteById(context.tx, context.project.id, id), 'One of the chosen suites'),
    store: (before, edit) => void storeFields(context, before, edit),
  })

export function deleteSuites(context: Context, { body }: Input<typeof deleteContract>): Answer<typeof deleteContract> {
  const rows = suiteRows(context.tx, context.project.id, body.ids)
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
  const stored = found(findSuite(tx, project.id, params.ref), keyOf('suite', params.ref))
  const before = new Set(pinnedCases(tx, stored.id).map(({ id }) => id))
  const named = body.add.map((ref) => found(findCase(tx, project.id, numberIn('case', ref)), ref).id)
  const added = [...new Set([...named, ...body.addIds])].filter((id) => !before.has(id))
  pinToSuite(tx, stored.id, added)
  unpin(tx, stored.id, body.remove)
  if (body.order) orderPins(tx, stored.id, body.order)
  const cases = pinnedCases(tx, stored.id).length
  context.change({
    kind: 'suite',
    id: stored.id,
    ref: keyOf('suite', stored.number),
    action: 'pinned',
    detail: { cases: [body.remove.length, added.length] },
  })
  return { cases, added }
}
