import type { CustomField, CustomValues } from '#core/projects/custom.ts'
import { customProblem } from '#core/projects/custom.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { customFields, setManyTags, setManyValues, tagsOf, valuesOf } from '#db/projects/fields.ts'
import { keysOf } from '#db/finding/bulk.ts'
import type { BulkAnswer } from '#server/finding/bulk-edit.ts'
import type { Context } from '#server/http/context.ts'

type TagEdit =
  { readonly add: readonly string[]; readonly drop: readonly string[] } | { readonly set: readonly string[] }
export interface FieldsEdit {
  readonly owner: CustomField['owner']
  readonly ids: readonly number[]
  readonly custom: CustomValues
  readonly tags: TagEdit
}
interface Edited {
  readonly detail: Record<string, readonly [unknown, unknown]>
  readonly set: Record<string, unknown>
}

/** Tags and own fields of many at once, added to what the change of plain fields answered. */
export function withOwnFields(context: Context, edit: FieldsEdit, plain: BulkAnswer): BulkAnswer {
  const { tx, project } = context
  const own = edited(context, edit)
  if (own.size === 0) return plain
  const prefix = edit.owner === 'case' ? 'TC' : 'RQ'
  const keys = keysOf(tx, edit.owner === 'case' ? 'test_case' : 'requirement', project.id, [...own.keys()])
  context.changeMany(
    [...own].flatMap(([id, { detail }]) => {
      const number = keys.get(id)
      return number === undefined
        ? []
        : [{ kind: edit.owner, id, ref: `${prefix}-${number}`, action: 'changed', detail }]
    }),
  )
  const before = new Map(plain.undo.map(({ id, set }) => [id, set]))
  const ids = [...new Set([...before.keys(), ...own.keys()])]
  return { changed: ids.length, undo: ids.map((id) => ({ id, set: { ...before.get(id), ...own.get(id)?.set } })) }
}

function edited(context: Context, edit: FieldsEdit): Map<number, Edited> {
  const { tx, project } = context
  const table = edit.owner === 'case' ? 'test_case' : 'requirement'
  const here = keysOf(tx, table, project.id, edit.ids)
  const found = new Map<number, Edited>()
  const note = (id: number, of: Edited) => {
    const known = found.get(id)
    found.set(id, { detail: { ...known?.detail, ...of.detail }, set: merged(known?.set, of.set) })
  }
  const tags = tagsOf(tx, edit.owner, edit.ids)
  const nextTags = (before: readonly string[]): string[] =>
    ('set' in edit.tags
      ? [...edit.tags.set]
      : [...new Set([...before, ...edit.tags.add])].filter(
          (tag) => !('drop' in edit.tags) || !edit.tags.drop.includes(tag),
        )
    ).sort()
  const retagged = [...here.keys()].flatMap((id) => {
    const before = tags.get(id) ?? []
    const after = nextTags(before)
    return JSON.stringify([...before].sort()) === JSON.stringify(after) ? [] : [{ id, before, after }]
  })
  setManyTags(
    tx,
    project.id,
    edit.owner,
    retagged.map(({ id, after }) => ({ id, tags: after })),
  )
  for (const { id, before, after } of retagged)
    note(id, { detail: { tags: [before.join(', ') || null, after.join(', ') || null] }, set: { tags: [...before] } })
  const values = valuesOf(tx, edit.owner, project.id, edit.ids)
  for (const [fieldId, next] of Object.entries(edit.custom)) {
    const field = fieldOf(context, edit.owner, fieldId, next)
    const changed = [...here.keys()].flatMap((id) => {
      const before = values.get(id)?.[fieldId] ?? []
      return JSON.stringify(before) === JSON.stringify(next) ? [] : [{ id, before }]
    })
    setManyValues(
      tx,
      field,
      changed.map(({ id }) => id),
      next,
    )
    for (const { id, before } of changed)
      note(id, {
        detail: { [field.name]: [before.join(', ') || null, next.join(', ') || null] },
        set: { custom: { [fieldId]: before } },
      })
  }
  return found
}

const merged = (a: Record<string, unknown> | undefined, b: Record<string, unknown>): Record<string, unknown> => ({
  ...a,
  ...b,
  ...((a?.['custom'] !== undefined || b['custom'] !== undefined) && {
    custom: { ...Object(a?.['custom'] ?? {}), ...Object(b['custom'] ?? {}) },
  }),
})

function fieldOf(
  { tx, project }: Context,
  owner: CustomField['owner'],
  id: string,
  values: readonly string[],
): CustomField {
  const field = customFields(tx, project.id, owner).find((each) => String(each.id) === id)
  if (!field) throw new Refusal('invalid', 'A field named here is not one of this project; nothing was changed.')
  const problem =
    customProblem(field, [...values]) ?? (field.required && values.length === 0 ? 'is required in this project' : null)
  if (problem !== null) throw new Refusal('invalid', `${field.name}: ${problem}; nothing was changed.`)
  return field
}
