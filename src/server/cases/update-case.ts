import { keyOf } from '#core/lib/key.ts'
import type { bulkCases as bulkContract, updateCase as contract } from '#core/cases/contract.ts'
import { definedOf } from '#core/lib/defined.ts'
import { changedFields } from '#core/history/changes.ts'
import { type CaseStored, findCase, liveAmong, saveCase } from '#db/cases/cases.ts'
import { bulkSet } from '#server/finding/bulk-edit.ts'
import { withOwnFields } from '#server/projects/bulk-fields.ts'
import { checkVersion, type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { storeCustom, storeTags } from '#server/projects/keep-fields.ts'
import { refuseForeignEdit } from '#server/projects/refuse-foreign.ts'
import { cleanHtml } from '#server/talk/clean-html.ts'

type Fields = Input<typeof contract>['body']

export function updateCase(context: Context, { params, body }: Input<typeof contract>): Answer<typeof contract> {
  const before = found(findCase(context.tx, context.project.id, params.ref), keyOf('case', params.ref))
  checkVersion(context, before, keyOf('case', params.ref))
  refuseForeignEdit(context, body)
  return {
    version: storeFields(
      context,
      before,
      body.objective === undefined ? body : { ...body, objective: cleanHtml(body.objective) },
    ),
  }
}

export function bulkCases(context: Context, { body }: Input<typeof bulkContract>): Answer<typeof bulkContract> {
  const { retired, tags, custom, ...set } = definedOf(body.set)
  refuseForeignEdit(context, set)
  // Retiring again what is retired changes nothing, and least of all the day.
  const when: Record<string, number | null> = retired === undefined ? {} : { retiredAt: retired ? context.now : null }
  const ids = retired === true ? liveAmong(context.tx, context.project.id, body.ids) : body.ids
  const plain =
    Object.keys({ ...set, ...when }).length === 0 || ids.length === 0
      ? { changed: 0, undo: [] }
      : bulkSet(context, { table: 'test_case', kind: 'case', prefix: 'TC', ids, set: { ...set, ...when } })
  // To the person a case is retired or not; when, is kept beside it.
  const undo = plain.undo.map(({ id, set: { retiredAt, ...rest } }) => ({
    id,
    set: { ...rest, ...(retiredAt !== undefined && { retired: retiredAt !== null }) },
  }))
  return withOwnFields(
    context,
    { owner: 'case', ids: body.ids, custom: custom ?? {}, tags: tags === undefined ? body.tags : { set: tags } },
    { changed: plain.changed, undo },
  )
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
