import { index, integer, primaryKey, sqliteTable, text } from 'drizzle-orm/sqlite-core'
import { instant } from '#db/columns.ts'

/** The few facts of an installation that are neither a project's nor a person's. */
export const setting = sqliteTable('setting', { name: text().primaryKey(), value: text().notNull() })

export const idempotencyKey = sqliteTable(
  'idempotency_key',
  {
    personId: text().notNull(),
    key: text().notNull(),
    request: text().notNull(),
    bodyHash: text().notNull(),
    status: integer().notNull(),
    answer: text().notNull(),
    at: instant().notNull(),
  },
  (t) => [primaryKey({ columns: [t.personId, t.key] }), index('idempotency_at').on(t.at)],
)
