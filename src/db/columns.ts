import { integer, text } from 'drizzle-orm/sqlite-core'

/** Columns that many tables share, so that they mean the same everywhere. Instants are milliseconds UTC. */
export const serial = () => integer().primaryKey({ autoIncrement: true })
export const instant = () => integer()
export const flag = () => integer({ mode: 'boolean' }).notNull().default(false)
/** Deleting hides: a row is deleted while this holds an instant. */
export const deletedAt = () => integer()
/** Counts every stored edit; what `If-Match` names. */
export const editVersion = () => integer().notNull().default(1)
export const words = () => text().notNull().default('')
