import { sql } from 'drizzle-orm'
import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core'
import { deletedAt, instant, serial, words } from '#db/columns.ts'
import { project } from '#db/projects/tables.ts'

/** A whole import as one act: what it made and what it changed, so that it can be taken back as one. */
export const importAct = sqliteTable(
  'import_act',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    at: instant().notNull(),
    personId: text(),
    /** The file, or the mapping it was read by. */
    source: text().notNull(),
    what: text().notNull(),
    /** JSON: ids of what was made. */
    made: text().notNull(),
    /** JSON: id, edit version after the import, and the values before it. */
    changed: text().notNull(),
    undoneAt: instant(),
  },
  (t) => [index('import_act_project').on(t.projectId, t.id)],
)

/** What an object is called in the place it came from: how a later import finds it again. */
export const importOrigin = sqliteTable(
  'import_origin',
  {
    projectId: integer().notNull(),
    ownerKind: text().notNull(),
    source: text().notNull(),
    outsideId: text().notNull(),
    ownerId: integer().notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.projectId, t.ownerKind, t.source, t.outsideId] }),
    index('import_origin_owner').on(t.ownerKind, t.ownerId),
  ],
)

export const importMapping = sqliteTable(
  'import_mapping',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    name: text().notNull(),
    mapping: text().notNull(),
    personId: text(),
    at: instant().notNull(),
  },
  (t) => [uniqueIndex('import_mapping_name').on(t.projectId, t.name)],
)

/** A file in the folder of incoming files that is imported again and again, by one key or on a schedule. */
export const standingImport = sqliteTable(
  'standing_import',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    name: text().notNull(),
    file: text().notNull(),
    what: text({ enum: ['cases', 'requirements'] }).notNull(),
    /** JSON, as in import_mapping; empty: found anew each time. */
    mapping: words(),
    everyMinutes: integer(),
    personId: text(),
    lastAt: instant(),
    /** What the last time came to, as a sentence; and the hash of the bytes it read. */
    lastTold: words(),
    lastHash: words(),
    deletedAt: deletedAt(),
  },
  (t) => [
    uniqueIndex('standing_import_name')
      .on(t.projectId, t.name)
      .where(sql`deleted_at is null`),
  ],
)
