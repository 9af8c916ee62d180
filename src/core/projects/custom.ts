import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { done, id, idParams, line, none, plainDate, projectParams } from '#core/lib/shapes.ts'

export const customKinds = ['text', 'number', 'choice', 'multi-choice', 'date', 'person', 'link'] as const
export type CustomKind = (typeof customKinds)[number]
export const customOwners = ['requirement', 'case'] as const

export const customFieldShape = z.object({
  id,
  owner: z.enum(customOwners),
  name: z.string(),
  kind: z.enum(customKinds),
  required: z.boolean(),
  choices: z.array(z.string()),
  types: z.array(z.string()),
  position: z.number(),
})
export type CustomField = z.infer<typeof customFieldShape>

/** Values of an object by the ids of their fields; a multi-choice is several values, everything else one. */
export const customValues = z.record(z.string().regex(/^\d+$/), z.array(z.string().max(2000)).max(100))
export type CustomValues = z.infer<typeof customValues>

const customFieldBody = z.object({
  owner: z.enum(customOwners),
  name: line(60),
  kind: z.enum(customKinds),
  required: z.boolean().default(false),
  choices: z.array(line(80)).max(200).default([]),
  types: z.array(line(60)).max(50).default([]),
})
export const listCustomFields = contract({
  name: 'listCustomFields',
  method: 'GET',
  path: '/projects/:key/fields',
  permission: 'read',
  summary: 'The project’s own fields of requirements and cases',
  params: projectParams,
  query: none,
  body: none,
  output: z.object({ rows: z.array(customFieldShape.extend({ used: z.number() })) }),
})
export const createCustomField = contract({
  name: 'createCustomField',
  method: 'POST',
  path: '/projects/:key/fields',
  permission: 'setUp',
  summary: 'Define a field of the project’s own',
  params: projectParams,
  query: none,
  body: customFieldBody,
  output: z.object({ id }),
})
export const updateCustomField = contract({
  name: 'updateCustomField',
  method: 'PATCH',
  path: '/projects/:key/fields/:id',
  permission: 'setUp',
  summary: 'Rename a field, change its choices, or whether it is required',
  params: idParams('custom_field'),
  query: none,
  body: customFieldBody.pick({ name: true, required: true, choices: true, types: true }).partial(),
  output: done,
})
export const deleteCustomField = contract({
  name: 'deleteCustomField',
  method: 'DELETE',
  path: '/projects/:key/fields/:id',
  permission: 'setUp',
  summary: 'Take a field away; its values are kept and come back with a field of its name',
  params: idParams('custom_field'),
  query: none,
  body: none,
  output: done,
})

/** What is wrong with values for a field, as a sentence's end, or `null`. */
export function customProblem(field: Pick<CustomField, 'kind' | 'choices'>, values: readonly string[]): string | null {
  if (field.kind !== 'multi-choice' && values.length > 1) return 'takes one value'
  const wrong = values.find((value) => !fits(field, value))
  return wrong === undefined ? null : `“${wrong.slice(0, 60)}” ${expectation(field)}`
}

function fits({ kind, choices }: Pick<CustomField, 'kind' | 'choices'>, value: string): boolean {
  if (kind === 'number') return /^-?\d+(\.\d+)?$/.test(value) && Number.isFinite(Number(value))
  if (kind === 'choice' || kind === 'multi-choice') return choices.includes(value)
  if (kind === 'date') return plainDate.safeParse(value).success
  if (kind === 'link') return z.url({ protocol: /^https?$/ }).safeParse(value).success
  return true
}

function expectation({ kind, choices }: Pick<CustomField, 'kind' | 'choices'>): string {
  if (kind === 'number') return 'is not a number'
  if (kind === 'date') return 'is not a date such as 2026-11-23'
  if (kind === 'link') return 'is not an address that begins with http:// or https://'
  return `is none of ${choices.join(', ')}`
}

/** Is the field asked of an object of this type? A field with no types is asked of all. */
export const appliesTo = ({ types }: Pick<CustomField, 'types'>, type: string): boolean =>
  types.length === 0 || types.includes(type)

/** A cell of a sheet as values: a multi-choice is written with semicolons between. */
export const valuesFromCell = ({ kind }: Pick<CustomField, 'kind'>, cell: string): string[] =>
  (kind === 'multi-choice' ? cell.split(';') : [cell]).map((part) => part.trim()).filter((part) => part !== '')
