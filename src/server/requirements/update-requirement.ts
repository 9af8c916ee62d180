import { keyOf } from '#core/lib/key.ts'
import type { bulkRequirements as bulkContract, updateRequirement as contract } from '#core/requirements/contract.ts'
import { type Changes, changedFields } from '#core/history/changes.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { belongs, iterationRelease } from '#db/projects/releases.ts'
import { findRequirement, type RequirementStored, saveRequirement } from '#db/requirements/requirements.ts'
import { setManyTargets, setTargets, targetsOf, targetsOfMany } from '#db/requirements/targets.ts'
import { checkVersion, type Context, found } from '#server/http/context.ts'
import { cleanHtml } from '#server/talk/clean-html.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { storeCustom, storeTags } from '#server/projects/keep-fields.ts'
import { refuseForeignEdit } from '#server/projects/refuse-foreign.ts'
import { withOwnFields } from '#server/projects/bulk-fields.ts'
import { type BulkAnswer, bulkSet } from '#server/finding/bulk-edit.ts'
import { keysOf } from '#db/finding/bulk.ts'
import { definedOf } from '#core/lib/defined.ts'

export function updateRequirement(context: Context, { params, body }: Input<typeof contract>): Answer<typeof contract> {
  const before = found(findRequirement(context.tx, context.project.id, params.ref), keyOf('requirement', params.ref))
  checkVersion(context, before, keyOf('requirement', params.ref))
  refuseForeignEdit(context, body)
  const { targets, tags, custom, ...fields } = body
  const rest = {
    ...storeTags(context, 'requirement', before.id, tags),
    ...(custom && storeCustom(context, 'requirement', before.id, custom)),
  }
  const after = storeFields(
    context,
    before,
    fields.text === undefined ? fields : { ...fields, text: cleanHtml(fields.text) },
    rest,
  )
  if (targets) storeTargets(context, after, targets)
  return { version: after.version, revision: after.revision }
}

/** Stores what really changed and writes history; an edit that changes nothing leaves no trace. */
function storeFields(
  context: Context,
  before: RequirementStored,
  edit: Partial<{ [K in keyof RequirementStored]: RequirementStored[K] | undefined }>,
  rest: Changes = {},
): RequirementStored {
  const detail = { ...changedFields(before, edit), ...rest }
  if (Object.keys(detail).length === 0) return before
  context.change({
    kind: 'requirement',
    id: before.id,
    ref: keyOf('requirement', before.number),
    action: 'changed',
    detail,
  })
  return saveRequirement(context.tx, before, definedOf(edit), context.by)
}

type Targets = readonly { readonly release: number; readonly iteration: number | null }[]

function storeTargets(context: Context, of: RequirementStored, targets: Targets): void {
  checkTargets(context, targets)
  const before = targetsOf(context.tx, of.id).map(
    ({ releaseName, iterationName }) => `${releaseName}${iterationName ? ` from ${iterationName}` : ''}`,
  )
  setTargets(context.tx, of.id, targets)
  const after = targetsOf(context.tx, of.id).map(
    ({ releaseName, iterationName }) => `${releaseName}${iterationName ? ` from ${iterationName}` : ''}`,
  )
  context.change({
    kind: 'requirement',
    id: of.id,
    ref: keyOf('requirement', of.number),
    action: 'changed',
    detail: { 'testable from': [before, after] },
  })
}

function checkTargets(context: Context, targets: Targets): void {
  for (const { release, iteration } of targets) {
    if (!belongs(context.tx, context.project.id, 'release', release))
      throw new Refusal('invalid', 'That release is not one of this project.')
    if (iteration !== null && iterationRelease(context.tx, iteration)?.releaseId !== release)
      throw new Refusal('invalid', 'That iteration does not belong to that release.')
  }
}

export function bulkRequirements(context: Context, { body }: Input<typeof bulkContract>): Answer<typeof bulkContract> {
  const { tags, custom, targets, ...set } = definedOf(body.set)
  refuseForeignEdit(context, set)
  const plain =
    Object.keys(set).length === 0
      ? { changed: 0, undo: [] }
      : bulkSet(context, { table: 'requirement', kind: 'requirement', prefix: 'RQ', ids: body.ids, set })
  return withOwnFields(
    context,
    { owner: 'requirement', ids: body.ids, custom: custom ?? {}, tags: tags === undefined ? body.tags : { set: tags } },
    targets === undefined ? plain : withTargets(context, body.ids, targets, plain),
  )
}

/** Targets of many at once, added to what the change of plain fields answered. */
function withTargets(context: Context, ids: readonly number[], targets: Targets, plain: BulkAnswer): BulkAnswer {
  checkTargets(context, targets)
  const here = keysOf(context.tx, 'requirement', context.project.id, ids)
  const before = targetsOfMany(context.tx, [...here.keys()])
  const said = (of: Targets): string => JSON.stringify(of.map(({ release, iteration }) => [release, iteration]).sort())
  const changed = [...before].filter(([, own]) => said(own) !== said(targets))
  setManyTargets(
    context.tx,
    changed.map(([id]) => id),
    targets,
  )
  const after = targetsOfMany(
    context.tx,
    changed.slice(0, 1).map(([id]) => id),
  )
  const names = [...after.values()].flat().map(({ name }) => name)
  context.changeMany(
    changed.map(([id, own]) => ({
      kind: 'requirement',
      id,
      ref: keyOf('requirement', here.get(id) ?? 0),
      action: 'changed',
      detail: { 'testable from': [own.map(({ name }) => name), names] },
    })),
  )
  const sets = new Map([...plain.undo.map(({ id, set }): [number, Record<string, unknown>] => [id, set])])
  for (const [id, own] of changed)
    sets.set(id, { ...sets.get(id), targets: own.map(({ release, iteration }) => ({ release, iteration })) })
  return { changed: sets.size, undo: [...sets].map(([id, set]) => ({ id, set })) }
}
