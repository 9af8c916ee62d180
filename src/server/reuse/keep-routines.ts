import { keyOf } from '#core/lib/key.ts'
import type {
  createRoutine as createContract,
  cutRoutine as cutContract,
  deleteRoutines as deleteContract,
  listRoutines as listContract,
  orderRoutines as orderContract,
  readRoutine as readContract,
  RoutineSheet,
  storeRoutine as storeContract,
  updateRoutine as updateContract,
} from '#core/reuse/contract.ts'
import {
  emptyContent,
  fingerprintText,
  parametersIn,
  type StepText,
  stepLines,
  versionName,
  withTexts,
} from '#core/cases/steps.ts'
import { definedOf } from '#core/lib/defined.ts'
import { escapeText } from '#core/lib/plain-text.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { changedFields } from '#core/history/changes.ts'
import {
  addRoutine,
  findRoutine,
  readRoutineSteps,
  routineRows,
  routineSource,
  routineVersions,
  routineWorking,
  saveRoutine,
  usersOfRoutine,
  writeRoutineSteps,
} from '#db/reuse/routines.ts'
import { hideRows } from '#db/finding/search.ts'
import type { Tx } from '#db/open.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { answerOrder, answerPage } from '#server/finding/list-question.ts'
import { checkVersion, type Context, fingerprint, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { routineFields } from '#core/finding/fields.ts'
import { cleanedSteps, contentAnswer } from '#server/cases/content.ts'
import { cutRoutineFrom } from '#server/cases/cut-routine.ts'
import { usedVersions } from '#server/cases/used-versions.ts'

export const listRoutines = (
  { tx, project }: Context,
  { query }: Input<typeof listContract>,
): Answer<typeof listContract> =>
  answerPage(tx, query, {
    source: routineSource(project.id),
    fields: routineFields,
    rows: (ids) => routineRows(tx, project.id, ids),
  })
export const orderRoutines = (
  { tx, project }: Context,
  { query }: Input<typeof orderContract>,
): Answer<typeof orderContract> => answerOrder(tx, query, { source: routineSource(project.id), fields: routineFields })

export const routineStamp = (steps: readonly StepText[]): string =>
  fingerprint(fingerprintText({ ...emptyContent, steps }))
const routineContent = (steps: ReturnType<typeof readRoutineSteps>): RoutineSheet['content'] =>
  contentAnswer({ ...emptyContent, steps, parameters: parametersIn({ preconditions: '', steps }) })

/** A routine of steps, written into its working copy; answers its number. */
export function makeRoutine(context: Context, title: string, steps: readonly StepText[]) {
  const { tx, project, by } = context
  const stored = addRoutine(
    tx,
    { projectId: project.id, number: takeNumbers(tx, project.id, 'routine'), title },
    { ...by, emptyFingerprint: routineStamp([]) },
  )
  if (steps.length > 0) writeRoutineSteps(tx, routineWorking(tx, stored.id), steps, routineStamp(steps))
  context.change({ kind: 'routine', id: stored.id, ref: keyOf('routine', stored.number), action: 'created' })
  return stored
}

export function createRoutine(context: Context, { body }: Input<typeof createContract>): Answer<typeof createContract> {
  const stored = makeRoutine(
    context,
    body.title,
    stepLines(body.lines).map((step) => withTexts(step, escapeText)),
  )
  return { key: keyOf('routine', stored.number) }
}

export const readRoutine = (
  { tx, project }: Context,
  { params }: Input<typeof readContract>,
): Answer<typeof readContract> => routineSheetOf(tx, project.id, params.ref)

export function routineSheetOf(tx: Tx, projectId: number, number: number): RoutineSheet {
  const stored = found(findRoutine(tx, projectId, number), keyOf('routine', number))
  const [row] = routineRows(tx, projectId, [stored.id])
  if (!row) throw new Error(`routine ${stored.id} has no row`)
  const working = routineWorking(tx, stored.id)
  const steps = readRoutineSteps(tx, working.id)
  const versions = routineVersions(tx, stored.id)
  return {
    ...row,
    objective: stored.objective,
    content: routineContent(steps),
    contentStamp: working.fingerprint,
    unsaved: steps.length > 0 && versions[0]?.fingerprint !== working.fingerprint,
    used: usedVersions(tx, projectId, steps),
    newestId: stored.newestVersionId,
    versions: versions.map(({ id, major, minor, at, by, why }) => ({
      id,
      name: versionName(major, minor),
      at,
      by,
      why,
    })),
    usedBy: usersOfRoutine(tx, stored.id),
  }
}

export function updateRoutine(
  context: Context,
  { params, body }: Input<typeof updateContract>,
): Answer<typeof updateContract> {
  const before = found(findRoutine(context.tx, context.project.id, params.ref), keyOf('routine', params.ref))
  checkVersion(context, before, keyOf('routine', params.ref))
  const edit = definedOf(body)
  const detail = changedFields({ ...before }, edit)
  if (Object.keys(detail).length === 0) return { version: before.version }
  saveRoutine(context.tx, before.id, { ...edit, version: before.version + 1, updatedAt: context.now })
  context.change({ kind: 'routine', id: before.id, ref: keyOf('routine', before.number), action: 'changed', detail })
  return { version: before.version + 1 }
}

export function storeRoutine(
  context: Context,
  { params, body }: Input<typeof storeContract>,
): Answer<typeof storeContract> {
  const { tx, project, now } = context
  const stored = found(findRoutine(tx, project.id, params.ref), keyOf('routine', params.ref))
  const working = routineWorking(tx, stored.id)
  if (working.fingerprint !== body.stamp)
    throw new Refusal(
      'conflict',
      `Somebody changed the steps of ${keyOf('routine', params.ref)} while you were writing. Yours are kept here; look at theirs, then store again.`,
      { current: { content: routineContent(readRoutineSteps(tx, working.id)), stamp: working.fingerprint } },
    )
  const steps = cleanedSteps(context, keyOf('routine', params.ref), body.content.steps)
  const stamp = routineStamp(steps)
  if (stamp !== working.fingerprint || steps.some(({ id }) => id === null)) {
    writeRoutineSteps(tx, working, steps, stamp)
    saveRoutine(tx, stored.id, { updatedAt: now })
    context.change({ kind: 'routine', id: stored.id, ref: keyOf('routine', stored.number), action: 'written' })
  }
  return { content: routineContent(readRoutineSteps(tx, working.id)), stamp, at: now }
}

export function cutRoutine(context: Context, { params, body }: Input<typeof cutContract>): Answer<typeof cutContract> {
  return cutRoutineFrom(
    context,
    found(findRoutine(context.tx, context.project.id, params.ref), keyOf('routine', params.ref)),
    body.why,
  )
}

export function deleteRoutines(
  context: Context,
  { body }: Input<typeof deleteContract>,
): Answer<typeof deleteContract> {
  const rows = routineRows(context.tx, context.project.id, body.ids)
  const used = rows.find(({ uses }) => uses > 0)
  if (used)
    throw new Refusal(
      'refused',
      `${used.key} is inserted in ${used.uses} ${used.uses === 1 ? 'place' : 'places'}; take it out of them first. Nothing was deleted.`,
    )
  hideRows(
    context.tx,
    'routine',
    rows.map(({ id }) => id),
    context.now,
  )
  for (const { id, key } of rows) context.change({ kind: 'routine', id, ref: key, action: 'deleted' })
  return { refs: rows.map(({ key }) => key) }
}
