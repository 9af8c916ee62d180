import { isRecord } from '#core/lib/record.ts'
import type { SQL } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'

// What raw SQL answers is unknown until it is looked at. Each query names its columns and what is in them; the type of its rows is
// made from that, and every row is held against it, so that a column that is renamed, missing or of another kind is found where it is read.

/** What a column may hold, and what it is read as. */
export interface Cell<Value> {
  readonly kind: string
  readonly holds: (value: unknown) => value is Value
}
export type Shape = Readonly<Record<string, Cell<unknown>>>
export type Row<S extends Shape> = { -readonly [Name in keyof S]: S[Name] extends Cell<infer Value> ? Value : never }

const cell = <Value>(kind: string, holds: (value: unknown) => value is Value): Cell<Value> => ({ kind, holds })

export const int: Cell<number> = cell('a number', (value) => typeof value === 'number')
export const text: Cell<string> = cell('a text', (value) => typeof value === 'string')

/** The same, or nothing. */
export const maybe = <Value>(of: Cell<Value>): Cell<Value | null> =>
  cell(`${of.kind} or nothing`, (value): value is Value | null => value === null || of.holds(value))

/** One of a closed set of words. */
export const oneOf = <const Word extends string>(words: readonly Word[]): Cell<Word> =>
  cell(`one of ${words.join(', ')}`, (value): value is Word => words.some((word) => word === value))

/** All rows of a query, each held against its shape. */
export function rowsOf<S extends Shape>(tx: Pick<Tx, 'all'>, shape: S, query: SQL): Row<S>[] {
  const rows = tx.all<unknown>(query)
  const columns = Object.entries(shape)
  return rows.map((row) => held(row, shape, columns))
}

/** The first row of a query, or `undefined` when there is none. */
export function rowOf<S extends Shape>(tx: Pick<Tx, 'get'>, shape: S, query: SQL): Row<S> | undefined {
  const row = tx.get<unknown>(query)
  return row === undefined ? undefined : held(row, shape, Object.entries(shape))
}

/** Does the query find anything? */
export const findsAny = (tx: Pick<Tx, 'get'>, query: SQL): boolean => tx.get<unknown>(query) !== undefined

function held<S extends Shape>(row: unknown, _: S, columns: readonly (readonly [string, Cell<unknown>])[]): Row<S> {
  if (!isRecord(row)) throw new Error('a query answered something that is no row')
  for (const [name, { kind, holds }] of columns)
    if (!holds(row[name])) throw new Error(`column ${name} of a query is ${JSON.stringify(row[name])}, not ${kind}`)
  // Every column was looked at just now.
  return row as Row<S>
}
