import { keyOf } from '#core/lib/key.ts'
import type { CaseSet, changeCases as manyContract, updateCase as contract } from '#core/cases/contract.ts'
import type { ManyChanged } from '#core/lib/many.ts'
import { definedOf } from '#core/lib/defined.ts'
import { changedFields } from '#core/history/changes.ts'
import { type CaseStored, findCase, liveAmong, saveCase } from '#db/cases/cases.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { iterationRelease } from '#db/projects/releases.ts'
import { changeMany, joinChanges } from '#server/finding/change-many.ts'
import { changeOwnFields } from '#server/projects/change-own-fields.ts'
import { checkVersion, type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { ownFieldsOf, storeCustom, storeTags } from '#server/projects/keep-fields.ts'

type Fields = Input<typeof contract>['body']

export function updateCase(context: Context, { params, body }: Input<typeof contract>): Answer<typeof contract> {
  const before = found(findCase(context.tx, context.project.id, params.ref), keyOf('case', params.ref))
  checkVersion(context, before, keyOf('case', params.ref), () => ({
    retired: before.retiredAt !== null,
    ...ownFieldsOf(context, 'case', before.id),
  }))
  refuseStrangeIteration(context, { fromReleaseId: before.fromReleaseId, ...body })
  return { version: storeFields(context, before, body) }
}

/** An iteration is one of the release it is said with. */
function refuseStrangeIteration(
  { tx }: Context,
  { fromReleaseId, fromIterationId }: Pick<Fields, 'fromReleaseId' | 'fromIterationId'>,
): void {
  if (fromIterationId && iterationRelease(tx, fromIterationId)?.releaseId !== fromReleaseId)
    throw new Refusal('invalid', 'That iteration does not belong to that release; nothing was stored.', {
      fields: [{ field: 'fromIterationId', message: 'is of another release' }],
    })
}

export function changeCases(context: Context, { body }: Input<typeof manyContract>): Answer<typeof manyContract> {
  const { retired, tags, custom, ...set } = definedOf(body.set)
  refuseStrangeIteration(context, set)
  return joinChanges<CaseSet>(
    changeMany(context, { kind: 'case', ids: body.ids, set }),
    changeRetired(context, body.ids, retired),
    changeOwnFields(context, { owner: 'case', ids: body.ids, custom, tags: tags ? { set: tags } : body.tags }),
  )
}

/** To a person a case is retired or not; when, is kept beside it. Retiring again what is retired changes nothing, and least of all the day. */
function changeRetired(
  context: Context,
  ids: readonly number[],
  retired: boolean | undefined,
): ManyChanged<Pick<CaseSet, 'retired'>> {
  if (retired === undefined) return { changed: 0, undo: [] }
  const set = { retiredAt: retired ? context.now : null }
  const changed = changeMany(context, {
    kind: 'case',
    ids: retired ? liveAmong(context.tx, context.project.id, ids) : ids,
    set,
  })
  return { ...changed, undo: changed.undo.map(({ id }) => ({ id, set: { retired: !retired } })) }
}

function storeFields(context: Context, before: CaseStored, { retired, tags, custom, ...edit }: Fields): number {
  const detail = {
    ...changedFields({ ...before, retired: before.retiredAt !== null }, { ...edit, retired }),
    ...storeTags(context, 'case', before.id, tags),
    ...(custom && storeCustom(context, 'case', before.id, custom)),
  }
  if (Object.keys(detail).length === 0) return before.version
  const version = before.version + 1
  const set = retired === undefined ? {} : { retiredAt: retired ? (before.retiredAt ?? context.now) : null }
  saveCase(context.tx, before.id, { ...definedOf(edit), ...set, version, updatedAt: context.now })
  context.change({ kind: 'case', id: before.id, ref: keyOf('case', before.number), action: 'changed', detail })
  return version
}
