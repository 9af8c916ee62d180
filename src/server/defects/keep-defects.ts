import { lower } from '#core/lib/lower.ts'
import { keyOf } from '#core/lib/key.ts'
import type {
  changeDefects as manyContract,
  deleteDefects as deleteContract,
  linkDefect as linkContract,
  listDefects as listContract,
  orderDefects as orderContract,
  readDefect as readContract,
  updateDefect as updateContract,
} from '#core/defects/contract.ts'
import { awaitsRepair, moveRefusal, nextStates } from '#core/defects/state.ts'
import { defectFields } from '#core/finding/fields.ts'
import { definedOf } from '#core/lib/defined.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { changedFields } from '#core/history/changes.ts'
import {
  addDefectState,
  defectEvidence,
  defectLinks,
  defectRows,
  defectSource,
  statesOfDefect,
  type DefectStored,
  findDefect,
  placesOfDefect,
  saveDefect,
} from '#db/defects/queries.ts'
import { hideRows } from '#db/finding/search.ts'
import { findPerson } from '#db/people/people.ts'
import { projectDetail } from '#db/projects/detail.ts'
import { changeEach } from '#server/finding/change-many.ts'
import { answerOrder, answerPage } from '#server/finding/list-question.ts'
import { checkVersion, type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { tellFreed } from '#server/runs/keep-waits.ts'
import { refreshStanding } from '#server/runs/refresh-standing.ts'
import { linkFromStep } from './log-defect.ts'

export const listDefects = (
  { tx, project }: Context,
  { query }: Input<typeof listContract>,
): Answer<typeof listContract> =>
  answerPage(tx, query, {
    source: defectSource(project.id),
    fields: defectFields,
    rows: (ids) => defectRows(tx, project.id, ids),
  })

export const orderDefects = (
  { tx, project }: Context,
  { query }: Input<typeof orderContract>,
): Answer<typeof orderContract> => answerOrder(tx, query, { source: defectSource(project.id), fields: defectFields })

export function readDefect(
  { tx, project }: Context,
  { params }: Input<typeof readContract>,
): Answer<typeof readContract> {
  const stored = found(findDefect(tx, project.id, params.ref), keyOf('defect', params.ref))
  const [row] = defectRows(tx, project.id, [stored.id])
  if (!row) throw new Error(`defect ${stored.id} has no row`)
  const environments = projectDetail(tx, project, 'viewer').environments
  return {
    ...row,
    text: stored.text,
    steps: stored.steps,
    foundInId: stored.foundInBuildId,
    fixedInId: stored.fixedInBuildId,
    environment: environments.find(({ id }) => id === stored.environmentId)?.name ?? null,
    ownerId: stored.ownerId,
    reporter: stored.reporterId === null ? null : (findPerson(tx, stored.reporterId)?.name ?? null),
    outsideRef: stored.outsideRef,
    updatedAt: stored.updatedAt,
    next: [...nextStates(stored.state)],
    links: defectLinks(tx, stored.id),
    evidence: defectEvidence(tx, project.key, stored.id),
    states: statesOfDefect(tx, stored.id),
  }
}

export function updateDefect(
  context: Context,
  { params, body }: Input<typeof updateContract>,
): Answer<typeof updateContract> {
  const before = found(findDefect(context.tx, context.project.id, params.ref), keyOf('defect', params.ref))
  checkVersion(context, before, keyOf('defect', params.ref), () => ({
    fixedInId: before.fixedInBuildId,
    foundInId: before.foundInBuildId,
  }))
  const { fixedInId, foundInId, ...rest } = body
  const after = storeFields(context, before, {
    ...rest,
    fixedInBuildId: fixedInId,
    foundInBuildId: foundInId,
  })
  return { version: after.version, state: after.state }
}

/** Stores an edit; a move to another state is checked, dated, and weighed in what stands where the defect is linked. */
function storeFields(
  context: Context,
  before: DefectStored,
  edit: Partial<{ [K in keyof DefectStored]: DefectStored[K] | undefined }>,
): DefectStored {
  const detail = changedFields(before, edit)
  if (Object.keys(detail).length === 0) return before
  const after: DefectStored = { ...before, ...definedOf(edit), version: before.version + 1, updatedAt: context.now }
  const refusal = moveRefusal(before.state, after.state, after.fixedInBuildId)
  if (refusal)
    throw new Refusal('refused', refusal, {
      fields: [{ field: after.state === 'Ready to retest' ? 'fixedInId' : 'state', message: refusal }],
    })
  saveDefect(context.tx, before.id, after)
  if (after.state !== before.state || after.fixedInBuildId !== before.fixedInBuildId) {
    addDefectState(context.tx, {
      defectId: before.id,
      state: after.state,
      fixedInBuildId: after.fixedInBuildId,
      at: context.now,
      personId: context.person.id,
    })
    for (const place of placesOfDefect(context.tx, before.id)) refreshStanding(context.tx, place)
    tellRepaired(context, before, after)
  }
  context.change({
    kind: 'defect',
    id: before.id,
    ref: keyOf('defect', before.number),
    action: after.state === before.state ? 'changed' : lower(after.state),
    detail,
  })
  return after
}

/** What waited for a defect can go on when it is repaired, or nothing is to be done about it any more. */
function tellRepaired(context: Context, before: DefectStored, { state }: DefectStored): void {
  if (awaitsRepair(before.state) && !awaitsRepair(state))
    tellFreed(context, { defect: before.id }, `${keyOf('defect', before.number)} is ${lower(state)}`)
}

export const changeDefects = (context: Context, { body }: Input<typeof manyContract>): Answer<typeof manyContract> => {
  return changeEach(body.ids, body.set, {
    find: (id) => {
      const [row] = defectRows(context.tx, context.project.id, [id])
      return found(row && findDefect(context.tx, context.project.id, row.number), 'One of the chosen defects')
    },
    store: (before, edit) => void storeFields(context, before, edit),
  })
}

export function linkDefect(
  context: Context,
  { params, body }: Input<typeof linkContract>,
): Answer<typeof linkContract> {
  const stored = found(findDefect(context.tx, context.project.id, params.ref), keyOf('defect', params.ref))
  linkFromStep(context, stored.id, body)
  context.change({ kind: 'defect', id: stored.id, ref: keyOf('defect', stored.number), action: 'linked' })
  return { ok: true }
}

export function deleteDefects(context: Context, { body }: Input<typeof deleteContract>): Answer<typeof deleteContract> {
  const rows = defectRows(context.tx, context.project.id, body.ids)
  hideRows(
    context.tx,
    'defect',
    rows.map(({ id }) => id),
    context.now,
  )
  for (const { id, key } of rows) {
    for (const place of placesOfDefect(context.tx, id)) refreshStanding(context.tx, place)
    tellFreed(context, { defect: id }, `${key} is deleted`)
    context.change({ kind: 'defect', id, ref: key, action: 'deleted' })
  }
  return { refs: rows.map(({ key }) => key) }
}
