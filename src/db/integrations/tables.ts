import { integer, primaryKey, sqliteTable, text } from 'drizzle-orm/sqlite-core'
import { instant, words } from '#db/columns.ts'
import { project } from '#db/projects/tables.ts'

/** The outside tracker a project is connected to. */
export const tracker = sqliteTable('tracker', {
  projectId: integer()
    .primaryKey()
    .references(() => project.id),
  name: text().notNull(),
  url: text().notNull(),
  token: words(),
})

/** The tracker's own words about one of its issues, as last fetched. */
export const outsideCopy = sqliteTable(
  'outside_copy',
  {
    projectId: integer()
      .notNull()
      .references(() => project.id),
    ref: text().notNull(),
    title: text().notNull(),
    state: text().notNull(),
    who: words(),
    text: words(),
    url: words(),
    changedAt: instant(),
    fetchedAt: instant().notNull(),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.ref] })],
)
