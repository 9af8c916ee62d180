import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core'
import { instant, serial } from '#db/columns.ts'

/** The append-only history: who did what, when, from which value; also what the event stream resumes from. */
export const change = sqliteTable(
  'change',
  {
    id: serial(),
    projectId: integer().notNull(),
    at: instant().notNull(),
    personId: text(),
    kind: text().notNull(),
    ownerId: integer().notNull(),
    /** The object's key, such as TC-104, as it was told to listeners. */
    ref: text().notNull(),
    action: text().notNull(),
    /** JSON: field → [from, to]. */
    detail: text(),
  },
  (t) => [
    index('change_owner').on(t.kind, t.ownerId, t.id),
    index('change_project').on(t.projectId, t.id),
    index('change_person').on(t.projectId, t.personId, t.id),
    index('change_kind').on(t.projectId, t.kind, t.id),
  ],
)
