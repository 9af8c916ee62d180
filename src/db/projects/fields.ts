import { textsIn } from '#db/json.ts'
import { int, maybe, rowOf, rowsOf, text } from '#db/rows.ts'
import { and, eq, isNull, type SQL, sql } from 'drizzle-orm'
import type { CustomField, CustomKind, CustomValues } from '#core/projects/custom.ts'
import { inIds } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { customField, customValue, tagging } from './tables.ts'

type Owner = CustomField['owner']
const ownerOf = (text: string): Owner => (text === 'requirement' ? 'requirement' : 'case')

/** How many objects have a value, by field. */
export const customUses = (tx: Tx, projectId: number): Map<number, number> =>
  new Map(
    rowsOf(
      tx,
      { id: int, n: int },
      sql`
        select v.field_id as id, count(distinct v.owner_id) as n
        from custom_value v
        join custom_field f on f.id = v.field_id
        where f.project_id = ${projectId}
        group by 1`,
    ).map(({ id, n }) => [id, n]),
  )

/** Fields in their order. */
export function customFields(tx: Tx, projectId: number, owner?: Owner): CustomField[] {
  return tx
    .select()
    .from(customField)
    .where(
      and(
        eq(customField.projectId, projectId),
        isNull(customField.deletedAt),
        owner === undefined ? undefined : eq(customField.ownerKind, owner),
      ),
    )
    .orderBy(customField.ownerKind, customField.position, customField.id)
    .all()
    .map(({ id, ownerKind, name, kind, required, choices, types, position }) => ({
      id,
      owner: ownerOf(ownerKind),
      name,
      kind,
      required,
      choices: textsIn(choices),
      types: textsIn(types),
      position,
    }))
}

export function addCustomField(
  tx: Tx,
  projectId: number,
  of: {
    owner: Owner
    name: string
    kind: CustomKind
    required: boolean
    choices: readonly string[]
    types: readonly string[]
  },
): number {
  const again = tx
    .select({ id: customField.id })
    .from(customField)
    .where(
      and(
        eq(customField.projectId, projectId),
        eq(customField.ownerKind, of.owner),
        eq(customField.name, of.name),
        eq(customField.kind, of.kind),
      ),
    )
    .get()
  const values = {
    required: of.required,
    choices: JSON.stringify(of.choices),
    types: JSON.stringify(of.types),
    deletedAt: null,
  }
  if (again) {
    tx.update(customField).set(values).where(eq(customField.id, again.id)).run()
    return again.id
  }
  const last =
    rowOf(tx, { n: maybe(int) }, sql`select max(position) as n from custom_field where project_id = ${projectId}`)?.n ??
    0
  return tx
    .insert(customField)
    .values({ projectId, ownerKind: of.owner, name: of.name, kind: of.kind, position: last + 1, ...values })
    .returning({ id: customField.id })
    .get().id
}

export const saveCustomField = (
  tx: Tx,
  id: number,
  edit: {
    name?: string | undefined
    required?: boolean | undefined
    choices?: readonly string[] | undefined
    types?: readonly string[] | undefined
    deletedAt?: number
  },
): void =>
  void tx
    .update(customField)
    .set({
      ...(edit.name !== undefined && { name: edit.name }),
      ...(edit.required !== undefined && { required: edit.required }),
      ...(edit.choices && { choices: JSON.stringify(edit.choices) }),
      ...(edit.types && { types: JSON.stringify(edit.types) }),
      ...(edit.deletedAt !== undefined && { deletedAt: edit.deletedAt }),
    })
    .where(eq(customField.id, id))
    .run()

/** Values by object, then by field. */
export function valuesOf(tx: Tx, owner: Owner, projectId: number, ids: readonly number[]): Map<number, CustomValues> {
  const rows = rowsOf(
    tx,
    { fieldId: int, ownerId: int, value: text },
    sql`
      select v.field_id as fieldId, v.owner_id as ownerId,
        coalesce(v.text, v.date, v.person, case when v.number = cast(v.number as integer) then cast(cast(v.number as integer) as text) else cast(v.number as text) end) as value
      from custom_value v
      join custom_field f on f.id = v.field_id
      where f.project_id = ${projectId}
        and f.owner_kind = ${owner}
        and f.deleted_at is null
        and ${inIds(sql`v.owner_id`, ids)}
      order by v.owner_id, v.field_id, v.position`,
  )
  const found = new Map<number, CustomValues>()
  for (const { fieldId, ownerId, value } of rows) {
    const own = found.get(ownerId) ?? {}
    ;(own[String(fieldId)] ??= []).push(value)
    found.set(ownerId, own)
  }
  return found
}

/** Sets what an object says in one field; each kind in the column in which it can be compared. */
export function setValues(
  tx: Tx,
  field: Pick<CustomField, 'id' | 'kind'>,
  ownerId: number,
  values: readonly string[],
): void {
  tx.delete(customValue)
    .where(and(eq(customValue.fieldId, field.id), eq(customValue.ownerId, ownerId)))
    .run()
  values.forEach((value, position) => {
    const column =
      field.kind === 'number'
        ? { number: Number(value) }
        : field.kind === 'date'
          ? { date: value }
          : field.kind === 'person'
            ? { person: value }
            : { text: value }
    tx.insert(customValue)
      .values({ fieldId: field.id, ownerId, position, ...column })
      .run()
  })
}

/** What has tags: runs too, which have no fields of a project's own. */
type Tagged = Owner | 'run'

export const tagsOf = (tx: Tx, owner: Tagged, ids: readonly number[]): Map<number, string[]> => {
  const found = new Map<number, string[]>()
  for (const { id, tag } of rowsOf(
    tx,
    { id: int, tag: text },
    sql`
      select owner_id as id, tag
      from tagging
      where owner_kind = ${owner} and ${inIds(sql`owner_id`, ids)}
      order by tag`,
  ))
    found.set(id, [...(found.get(id) ?? []), tag])
  return found
}

export function setTags(tx: Tx, projectId: number, owner: Tagged, ownerId: number, tags: readonly string[]): void {
  tx.delete(tagging)
    .where(and(eq(tagging.ownerKind, owner), eq(tagging.ownerId, ownerId)))
    .run()
  for (const tag of new Set(tags)) tx.insert(tagging).values({ projectId, ownerKind: owner, ownerId, tag }).run()
}

/** The same values for many, by two statements. */
export function setManyValues(
  tx: Tx,
  field: Pick<CustomField, 'id' | 'kind'>,
  ids: readonly number[],
  values: readonly string[],
): void {
  tx.run(sql`delete from custom_value where field_id = ${field.id} and ${inIds(sql`owner_id`, ids)}`)
  const column = sql.raw(
    field.kind === 'number' ? 'number' : field.kind === 'date' ? 'date' : field.kind === 'person' ? 'person' : 'text',
  )
  values.forEach((value, position) =>
    tx.run(
      sql`
        insert into custom_value (field_id, owner_id, position, ${column})
        select ${field.id}, value, ${position}, ${field.kind === 'number' ? Number(value) : value}
        from json_each(${JSON.stringify(ids)})`,
    ),
  )
}

/** Each with tags of its own, by two statements. */
export function setManyTags(
  tx: Tx,
  projectId: number,
  owner: Owner,
  all: readonly { readonly id: number; readonly tags: readonly string[] }[],
): void {
  if (all.length === 0) return
  tx.run(
    sql`
      delete
      from tagging
      where owner_kind = ${owner} and ${inIds(
        sql`owner_id`,
        all.map(({ id }) => id),
      )}`,
  )
  tx.run(
    sql`
      insert into tagging (project_id, owner_kind, owner_id, tag)
      select ${projectId}, ${owner}, j.value ->> 0, j.value ->> 1
      from json_each(${JSON.stringify(all.flatMap(({ id, tags }) => tags.map((tag) => [id, tag])))}) j`,
  )
}

/** An expression for each own field, over the object's id: what a list filters, sorts and groups by. */
export const ownFieldSql = (fields: readonly CustomField[], owner: SQL): Record<string, SQL> =>
  Object.fromEntries(
    fields.map(({ id, kind }) => [
      `own:${id}`,
      kind === 'number'
        ? sql`(select number from custom_value where field_id = ${id} and owner_id = ${owner})`
        : kind === 'person'
          ? sql`
            (
              select p.name
              from custom_value v
              join person p on p.id = v.person
              where v.field_id = ${id} and v.owner_id = ${owner}
            )`
          : sql`
            (
              select group_concat(coalesce(text, date), ', ')
              from custom_value
              where field_id = ${id} and owner_id = ${owner}
            )`,
    ]),
  )
