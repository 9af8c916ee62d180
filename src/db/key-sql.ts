import { type SQL, sql } from 'drizzle-orm'
import { type Keyed, prefixes } from '#core/lib/key.ts'

/** An object's key in SQL; `number` is a column's name in a query of ours, never anything from outside. */
export const keySql = (kind: Keyed, number: string): SQL => sql.raw(`'${prefixes[kind]}-' || ${number}`)
