import {
  type createCustomField as createContract,
  type deleteCustomField as deleteContract,
  type listCustomFields as listContract,
  type updateCustomField as updateContract,
  type CustomField,
  customProblem,
  type CustomValues,
} from '#core/projects/custom.ts'
import type { Changes } from '#core/history/changes.ts'
import { Refusal } from '#core/lib/refusal.ts'
import {
  addCustomField,
  customFields,
  customUses,
  saveCustomField,
  setTags,
  setValues,
  tagsOf,
  valuesOf,
} from '#db/projects/fields.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

export function listCustomFields({ tx, project }: Context): Answer<typeof listContract> {
  const uses = customUses(tx, project.id)
  return { rows: customFields(tx, project.id).map((field) => ({ ...field, used: uses.get(field.id) ?? 0 })) }
}

export function createCustomField(
  context: Context,
  { body }: Input<typeof createContract>,
): Answer<typeof createContract> {
  refuseTwin(context, body.owner, body.name, null)
  if ((body.kind === 'choice' || body.kind === 'multi-choice') && body.choices.length === 0)
    throw new Refusal('invalid', 'A field of choices needs at least one; nothing was stored.', {
      fields: [{ field: 'choices', message: 'are missing' }],
    })
  const id = addCustomField(context.tx, context.project.id, body)
  context.change({ kind: 'field', id, ref: body.name, action: 'defined' })
  return { id }
}

export function updateCustomField(
  context: Context,
  { params, body }: Input<typeof updateContract>,
): Answer<typeof updateContract> {
  const field = fieldIn(context, params.id)
  if (body.name !== undefined) refuseTwin(context, field.owner, body.name, field.id)
  saveCustomField(context.tx, field.id, body)
  context.change({ kind: 'field', id: field.id, ref: body.name ?? field.name, action: 'changed' })
  return { ok: true }
}

export function deleteCustomField(
  context: Context,
  { params }: Input<typeof deleteContract>,
): Answer<typeof deleteContract> {
  const field = fieldIn(context, params.id)
  saveCustomField(context.tx, field.id, { deletedAt: context.now })
  context.change({ kind: 'field', id: field.id, ref: field.name, action: 'taken away' })
  return { ok: true }
}

function fieldIn({ tx, project }: Context, id: number): CustomField {
  const field = customFields(tx, project.id).find((each) => each.id === id)
  if (!field) throw new Refusal('not-found', 'There is no such field in this project.')
  return field
}

function refuseTwin({ tx, project }: Context, owner: CustomField['owner'], name: string, but: number | null): void {
  if (
    customFields(tx, project.id, owner).some(
      (each) => each.id !== but && each.name.toLowerCase() === name.toLowerCase(),
    )
  )
    throw new Refusal('refused', `There is a field called ${name} already; nothing was stored.`, {
      fields: [{ field: 'name', message: 'is taken' }],
    })
}

/** Stores values of own fields; answers what changed, for history. A value that does not fit is refused with its field. */
export function storeCustom(context: Context, owner: CustomField['owner'], id: number, values: CustomValues): Changes {
  const fields = customFields(context.tx, context.project.id, owner)
  const before = valuesOf(context.tx, owner, context.project.id, [id]).get(id) ?? {}
  return Object.fromEntries(
    Object.entries(values).flatMap(([fieldId, own]) => {
      const field = fields.find((each) => String(each.id) === fieldId)
      if (!field) throw new Refusal('invalid', 'A field named here is not one of this project; nothing was stored.')
      const problem = customProblem(field, own)
      if (problem !== null)
        throw new Refusal('invalid', `${field.name}: ${problem}; nothing was stored.`, {
          fields: [{ field: `custom.${fieldId}`, message: problem }],
        })
      if (field.required && own.length === 0)
        throw new Refusal('invalid', `${field.name} is required in this project; nothing was stored.`, {
          fields: [{ field: `custom.${fieldId}`, message: 'is required' }],
        })
      const old = before[fieldId] ?? []
      if (JSON.stringify(old) === JSON.stringify(own)) return []
      setValues(context.tx, field, id, own)
      return [[field.name, [old.join(', ') || null, own.join(', ') || null] as const]]
    }),
  )
}

/** Tags and own fields of an object, as it shows them. */
export const ownFieldsOf = ({ tx, project }: Context, owner: CustomField['owner'], id: number) => ({
  tags: tagsOf(tx, owner, [id]).get(id) ?? [],
  custom: valuesOf(tx, owner, project.id, [id]).get(id) ?? {},
})

/** Stores tags where they changed; answers what changed, for history. */
export function storeTags(
  context: Context,
  owner: CustomField['owner'],
  id: number,
  tags: readonly string[] | undefined,
): Changes {
  const before = tagsOf(context.tx, owner, [id]).get(id) ?? []
  if (tags === undefined || JSON.stringify([...before].sort()) === JSON.stringify([...new Set(tags)].sort())) return {}
  setTags(context.tx, context.project.id, owner, id, tags)
  return { tags: [before.join(', ') || null, tags.join(', ') || null] }
}
