import { z } from 'zod'
import { idInPath, type Owned } from './owned.ts'
import { type Keyed, keyOf, numberIn, prefixes } from './key.ts'

/** An instant in UTC, milliseconds since 1970. */
export const instant = z.number().int()
/** A plain date, `2026-11-23`, that belongs to no time zone. */
export const plainDate = z.iso.date('is no day of the calendar such as 2026-11-23')
export const id = z.number().int().positive()
export const none = z.object({}).optional()
/** Asked again with this, what was taken away is there again. */
export const orUndo = z.object({ undo: z.enum(['yes']).optional() })
export const done = z.object({ ok: z.literal(true) })
export const projectParams = z.object({
  key: z.string().regex(/^[A-Z][A-Z0-9]{1,9}$/, 'a project key is capital letters, such as FERRY'),
})

/** The key of an object, such as `RQ-4`, in letters large or small. */
export const keyShape = (kind: Keyed) => {
  const letters = prefixes[kind].replace(/./g, (letter) => `[${letter}${letter.toLowerCase()}]`)
  return z.string().regex(new RegExp(`^${letters}-[1-9]\\d{0,9}$`), `a key here looks like ${keyOf(kind, 12)}`)
}

/** A path parameter such as `RQ-4`, read as its number. */
export const refParams = (kind: Keyed) =>
  projectParams.extend({ ref: keyShape(kind).transform((key) => numberIn(kind, key)) })

export const idParams = (of: Owned) => projectParams.extend({ id: idInPath(of) })

/** One line of plain text; white space at the ends is taken off. */
export const line = (most: number) =>
  z.string().trim().min(1, 'may not be empty').max(most, `at most ${most} characters`)
export const text = (most: number) => z.string().max(most, `at most ${most} characters`)

/** The part of the world a figure is about; every part may be left open. */
export const scopeQuery = z.object({
  release: z.string().optional(),
  iteration: z.string().optional(),
  build: z.string().optional(),
  environment: z.string().optional(),
  asOf: z.coerce.number().int().optional(),
})
export type ScopeQuery = z.infer<typeof scopeQuery>

/** How every list is asked for. */
export const listQuery = z.object({
  cursor: z.coerce.number().int().min(0).optional(),
  limit: z.coerce.number().int().min(1).max(500).default(100),
  /** `no`: the total is not counted; it then says only what is known to be there. */
  count: z.enum(['yes', 'no']).optional(),
  ids: z
    .string()
    .regex(/^\d+(,\d+){0,499}$/, 'ids are numbers with commas, at most 500')
    .transform((ids) => ids.split(',').map(Number))
    .optional(),
  text: z.string().max(200).optional(),
  filter: z.string().max(8000).optional(),
  sort: z.string().max(200).optional(),
  group: z.string().max(60).optional(),
})
export type ListQuery = z.output<typeof listQuery>

export const pageOf = <T extends z.ZodType>(row: T) =>
  z.object({ rows: z.array(row), total: z.number(), next: z.number().nullable() })

/** The ordered ids of a list; `groups` tells how many consecutive ids belong to each value. */
export const orderAnswer = z.object({
  ids: z.array(z.number()),
  total: z.number(),
  all: z.number(),
  groups: z.array(z.object({ value: z.string().nullable(), count: z.number() })).nullable(),
})
export type OrderAnswer = z.infer<typeof orderAnswer>
