import { keyOf } from '#core/lib/key.ts'
import type {
  changeRequirements as manyContract,
  RequirementSet,
  updateRequirement as contract,
} from '#core/requirements/contract.ts'
import type { ManyChanged } from '#core/lib/many.ts'
import { type Changes, changedFields } from '#core/history/changes.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { iterationRelease } from '#db/projects/releases.ts'
import { findRequirement, type RequirementStored, saveRequirement } from '#db/requirements/requirements.ts'
import { setManyTargets, setTargets, targetsOf, targetsOfMany } from '#db/requirements/targets.ts'
import { checkVersion, type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { ownFieldsOf, storeCustom, storeTags } from '#server/projects/keep-fields.ts'
import { changeOwnFields } from '#server/projects/change-own-fields.ts'
import { changeMany, joinChanges } from '#server/finding/change-many.ts'
import { keysOf } from '#db/finding/many.ts'
import { definedOf } from '#core/lib/defined.ts'

export function updateRequirement(context: Context, { params, body }: Input<typeof contract>): Answer<typeof contract> {
  const before = found(findRequirement(context.tx, context.project.id, params.ref), keyOf('requirement', params.ref))
  checkVersion(context, before, keyOf('requirement', params.ref), () => ({
    targets: targetsOf(context.tx, before.id),
    ...ownFieldsOf(context, 'requirement', before.id),
  }))
  const { targets, tags, custom, ...fields } = body
  const rest = {
    ...storeTags(context, 'requirement', before.id, tags),
    ...(custom && storeCustom(context, 'requirement', before.id, custom)),
  }
  const after = storeFields(context, before, fields, rest)
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
    if (iteration !== null && iterationRelease(context.tx, iteration)?.releaseId !== release)
      throw new Refusal('invalid', 'That iteration does not belong to that release.')
  }
}

export function changeRequirements(
  context: Context,
  { body }: Input<typeof manyContract>,
): Answer<typeof manyContract> {
  const { tags, custom, targets, ...set } = definedOf(body.set)
  return joinChanges<RequirementSet>(
    changeMany(context, { kind: 'requirement', ids: body.ids, set }),
    changeTargets(context, body.ids, targets),
    changeOwnFields(context, { owner: 'requirement', ids: body.ids, custom, tags: tags ? { set: tags } : body.tags }),
  )
}

/** What many are testable from, by three statements. */
function changeTargets(
  context: Context,
  ids: readonly number[],
  targets: Targets | undefined,
): ManyChanged<Pick<RequirementSet, 'targets'>> {
  if (targets === undefined) return { changed: 0, undo: [] }
  checkTargets(context, targets)
  const keys = keysOf(context.tx, 'requirement', context.project.id, ids)
  const said = (of: Targets): string => JSON.stringify(of.map(({ release, iteration }) => [release, iteration]).sort())
  const changed = [...targetsOfMany(context.tx, [...keys.keys()])].filter(([, own]) => said(own) !== said(targets))
  setManyTargets(
    context.tx,
    changed.map(([id]) => id),
    targets,
  )
  const [first] = changed
  const names = first ? (targetsOfMany(context.tx, [first[0]]).get(first[0]) ?? []).map(({ name }) => name) : []
  context.changeMany(
    changed.map(([id, own]) => ({
      kind: 'requirement',
      id,
      ref: keyOf('requirement', keys.get(id) ?? 0),
      action: 'changed',
      detail: { 'testable from': [own.map(({ name }) => name), names] },
    })),
  )
  const before = (own: Targets) => own.map(({ release, iteration }) => ({ release, iteration }))
  return { changed: changed.length, undo: changed.map(([id, own]) => ({ id, set: { targets: before(own) } })) }
}
