import { type CustomField, type CustomValues, customProblem } from '#core/projects/custom.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { customFields, setManyTags, setManyValues, tagsOf, valuesOf } from '#db/projects/fields.ts'
import { keysOf } from '#db/finding/many.ts'
import type { ManyChanged } from '#core/lib/many.ts'
import type { Changes } from '#core/history/changes.ts'
import { keyOf } from '#core/lib/key.ts'
import type { Context } from '#server/http/context.ts'

type TagEdit =
  { readonly add: readonly string[]; readonly drop: readonly string[] } | { readonly set: readonly string[] }

export interface OwnFieldsEdit {
  readonly owner: CustomField['owner']
  readonly ids: readonly number[]
  readonly custom: CustomValues | undefined
  readonly tags: TagEdit
}

/** What tags and own fields of one were set to before. */
export interface OwnSet {
  tags?: string[]
  custom?: Record<string, string[]>
}

interface Edited {
  readonly detail: Changes
  readonly set: OwnSet
}

/** Tags and own fields of many at once. */
export function changeOwnFields(context: Context, edit: OwnFieldsEdit): ManyChanged<OwnSet> {
  const { tx, project } = context
  const keys = keysOf(tx, edit.owner, project.id, edit.ids)
  const edited = new Map<number, Edited>()
  const note = (id: number, detail: Changes, set: OwnSet) => {
    const known = edited.get(id)
    const custom = { ...known?.set.custom, ...set.custom }
    edited.set(id, {
      detail: { ...known?.detail, ...detail },
      set: { ...known?.set, ...set, ...(Object.keys(custom).length > 0 && { custom }) },
    })
  }
  retag(context, edit, [...keys.keys()], note)
  for (const [fieldId, next] of Object.entries(edit.custom ?? {}))
    setField(context, { ...edit, ids: [...keys.keys()] }, { fieldId, next }, note)
  context.changeMany(
    [...edited].map(([id, { detail }]) => ({
      kind: edit.owner,
      id,
      ref: keyOf(edit.owner, keys.get(id) ?? 0),
      action: 'changed',
      detail,
    })),
  )
  return { changed: edited.size, undo: [...edited].map(([id, { set }]) => ({ id, set })) }
}

type Note = (id: number, detail: Changes, set: OwnSet) => void
const told = (values: readonly string[]): string | null => values.join(', ') || null

function retag({ tx, project }: Context, { owner, tags }: OwnFieldsEdit, ids: readonly number[], note: Note): void {
  const known = tagsOf(tx, owner, ids)
  const changed = ids.flatMap((id) => {
    const before = [...(known.get(id) ?? [])].sort()
    const after = retagged(before, tags)
    return JSON.stringify(before) === JSON.stringify(after) ? [] : [{ id, before, after }]
  })
  setManyTags(
    tx,
    project.id,
    owner,
    changed.map(({ id, after }) => ({ id, tags: after })),
  )
  for (const { id, before, after } of changed) note(id, { tags: [told(before), told(after)] }, { tags: before })
}

const retagged = (before: readonly string[], edit: TagEdit): string[] =>
  'set' in edit
    ? [...edit.set].sort()
    : [...new Set([...before, ...edit.add])].filter((tag) => !edit.drop.includes(tag)).sort()

function setField(
  context: Context,
  { owner, ids }: OwnFieldsEdit,
  { fieldId, next }: { readonly fieldId: string; readonly next: string[] },
  note: Note,
): void {
  const field = fieldOf(context, owner, fieldId, next)
  const values = valuesOf(context.tx, owner, context.project.id, ids)
  const changed = ids.flatMap((id) => {
    const before = values.get(id)?.[fieldId] ?? []
    return JSON.stringify(before) === JSON.stringify(next) ? [] : [{ id, before: [...before] }]
  })
  setManyValues(
    context.tx,
    field,
    changed.map(({ id }) => id),
    next,
  )
  for (const { id, before } of changed)
    note(id, { [field.name]: [told(before), told(next)] }, { custom: { [fieldId]: before } })
}

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
