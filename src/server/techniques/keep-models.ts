import type { ActionOf } from '#core/history/acts.ts'
import { keyOf } from '#core/lib/key.ts'
import type {
  createModel as createContract,
  deleteModel as deleteContract,
  exportModel as exportContract,
  listModelRevisions as revisionsContract,
  readDrafting as readContract,
  restoreModel as restoreContract,
  updateModel as updateContract,
} from '#core/techniques/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import {
  addModel,
  addModelRevision,
  checklistOf,
  decidedRows,
  modelById,
  modelRevisions,
  modelsOf,
  type ModelStored,
  newestRevision,
  saidBy,
  rewriteRevision,
  saveModel,
} from '#db/techniques/queries.ts'
import { findPerson } from '#db/people/people.ts'
import { findRequirement, requirementById } from '#db/requirements/requirements.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

/** Somebody who goes on changing a model within this time goes on with the same revision, unless rows were decided at it. */
const sameRevision = 15 * 60_000

export function readDrafting(
  { tx, project }: Pick<Context, 'tx' | 'project'>,
  { params }: Pick<Input<typeof readContract>, 'params'>,
): Answer<typeof readContract> {
  const own = found(findRequirement(tx, project.id, params.ref), keyOf('requirement', params.ref))
  const models = modelsOf(tx, own.id)
  const rows = decidedRows(
    tx,
    models.map(({ id }) => id),
  )
  return {
    requirement: {
      id: own.id,
      key: keyOf('requirement', own.number),
      title: own.title,
      revision: own.revision,
      text: own.text,
    },
    models: models.map((model) =>
      sheetOf(
        tx,
        model,
        rows.filter(({ modelId }) => modelId === model.id),
      ),
    ),
    checklist: checklistOf(tx, own.id),
  }
}

const sheetOf = (tx: Context['tx'], own: ModelStored, rows: ReturnType<typeof decidedRows>) => {
  const said = saidBy(tx, own, rows)
  const { id, technique, name, model, source, pattern, revision, requirementRevision, version, updatedAt, updatedBy } =
    own
  return {
    id,
    technique,
    name,
    model,
    source: { ...source },
    pattern,
    revision,
    requirementRevision,
    version,
    updatedAt,
    by: updatedBy === null ? null : (findPerson(tx, updatedBy)?.name ?? null),
    rows: rows.map(({ id: row, row: cells, decision, case: of, revision: at, at: when }, index) => ({
      id: row,
      row: { ...cells },
      decision,
      case: of,
      revision: at,
      at: when,
      said: said[index] ?? null,
    })),
  }
}

export const modelIn = ({ tx, project }: Pick<Context, 'tx' | 'project'>, id: number): ModelStored =>
  found(modelById(tx, project.id, id), 'This model')

/** Models belong to a requirement, whose history tells what happened to them. */
export function tellRequirement(
  context: Context,
  requirementId: number,
  action: ActionOf<'requirement'>,
  detail: Readonly<Record<string, readonly [unknown, unknown]>>,
): void {
  const own = found(requirementById(context.tx, context.project.id, requirementId), 'The requirement')
  context.change({ kind: 'requirement', id: own.id, ref: keyOf('requirement', own.number), action, detail })
}

export function createModel(
  context: Context,
  { params, body }: Input<typeof createContract>,
): Answer<typeof createContract> {
  const { tx, project, by } = context
  const own = found(findRequirement(tx, project.id, params.ref), keyOf('requirement', params.ref))
  if (modelsOf(tx, own.id).length >= 50)
    throw new Refusal(
      'refused',
      `${keyOf('requirement', own.number)} has 50 models already. Take one away, or split the requirement.`,
    )
  const id = addModel(
    tx,
    {
      projectId: project.id,
      requirementId: own.id,
      requirementRevision: own.revision,
      name: body.name,
      model: body.model,
      source: body.source,
      pattern: body.pattern,
    },
    by,
  )
  tellRequirement(context, own.id, 'model added', { model: [null, body.name] })
  return { id }
}

export function updateModel(
  context: Context,
  { params, body }: Input<typeof updateContract>,
): Answer<typeof updateContract> {
  const { tx, by, now, expected } = context
  const own = modelIn(context, params.id)
  if (own.version !== expected)
    throw new Refusal(
      'conflict',
      `${own.name} was changed by somebody else meanwhile. Their model is shown; what you typed is still in the lines.`,
      { current: sheetOf(tx, own, decidedRows(tx, [own.id])) },
    )
  if (body.model && body.model.technique !== own.technique)
    throw new Refusal('invalid', 'A model keeps its technique. Add another model for another technique.')
  const changed = body.model !== undefined && JSON.stringify(body.model) !== JSON.stringify(own.model)
  const newest = newestRevision(tx, own.id)
  const goesOn =
    newest !== undefined &&
    newest.personId === by.personId &&
    now - newest.at < sameRevision &&
    !decidedRows(tx, [own.id]).some(({ revision }) => revision === own.revision)
  const revision = changed && !goesOn ? own.revision + 1 : own.revision
  if (changed && body.model)
    goesOn
      ? rewriteRevision(tx, { modelId: own.id, revision, model: body.model }, now)
      : addModelRevision(tx, { modelId: own.id, revision, model: body.model }, by)
  const requirement = found(requirementById(tx, context.project.id, own.requirementId), 'The requirement')
  const { fits, ...edit } = body
  saveModel(tx, own.id, {
    ...edit,
    revision,
    version: own.version + 1,
    updatedAt: now,
    updatedBy: by.personId,
    ...(fits && { requirementRevision: requirement.revision }),
  })
  if (revision !== own.revision)
    tellRequirement(context, own.requirementId, 'model changed', { [own.name]: [own.revision, revision] })
  else if (fits)
    tellRequirement(context, own.requirementId, 'model confirmed', {
      [own.name]: [own.requirementRevision, requirement.revision],
    })
  else if (body.name !== undefined && body.name !== own.name)
    tellRequirement(context, own.requirementId, 'model renamed', { model: [own.name, body.name] })
  else context.change({ kind: 'model', id: own.id, ref: keyOf('requirement', requirement.number), action: 'stored' })
  return { version: own.version + 1, revision }
}

export function deleteModel(context: Context, { params }: Input<typeof deleteContract>): Answer<typeof deleteContract> {
  const own = modelIn(context, params.id)
  saveModel(context.tx, own.id, { deletedAt: context.now })
  tellRequirement(context, own.requirementId, 'model taken away', { model: [own.name, null] })
  return { ok: true }
}

export function restoreModel(
  context: Context,
  { params }: Input<typeof restoreContract>,
): Answer<typeof restoreContract> {
  const own = modelById(context.tx, context.project.id, params.id, true)
  if (!own) throw new Refusal('not-found', 'There is no such model in this project.')
  saveModel(context.tx, own.id, { deletedAt: null })
  tellRequirement(context, own.requirementId, 'model brought back', { model: [null, own.name] })
  return { ok: true }
}

export function listModelRevisions(
  context: Context,
  { params, query }: Input<typeof revisionsContract>,
): Answer<typeof revisionsContract> {
  const own = modelIn(context, params.id)
  const { rows, total } = modelRevisions(context.tx, own.id, query)
  return { rows, total, next: query.cursor + rows.length < total ? query.cursor + rows.length : null }
}

export const exportModel = (
  context: Context,
  { params }: Input<typeof exportContract>,
): Answer<typeof exportContract> => modelIn(context, params.id).model.body
