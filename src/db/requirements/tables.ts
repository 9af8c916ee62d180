import {
  index,
  integer,
  primaryKey,
  sqliteTable,
  text,
  uniqueIndex,
  type AnySQLiteColumn,
} from 'drizzle-orm/sqlite-core'
import { deletedAt, editVersion, instant, serial, words } from '#db/columns.ts'
import { iteration, project, release } from '#db/projects/tables.ts'

export const requirement = sqliteTable(
  'requirement',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    number: integer().notNull(),
    parentId: integer().references((): AnySQLiteColumn => requirement.id),
    position: integer().notNull(),
    title: text().notNull(),
    text: words(),
    revision: integer().notNull().default(1),
    kind: text().notNull().default('Function'),
    component: words(),
    state: text({ enum: ['Draft', 'Agreed', 'Done', 'Dropped'] })
      .notNull()
      .default('Draft'),
    likelihood: integer(),
    impact: integer(),
    priority: integer(),
    ownerId: text(),
    outsideRef: words(),
    outsideUrl: words(),
    version: editVersion(),
    createdAt: instant().notNull(),
    updatedAt: instant().notNull(),
    deletedAt: deletedAt(),
  },
  (t) => [
    uniqueIndex('requirement_number').on(t.projectId, t.number),
    index('requirement_parent').on(t.projectId, t.parentId, t.position),
  ],
)

export const requirementRevision = sqliteTable(
  'requirement_revision',
  {
    requirementId: integer()
      .notNull()
      .references(() => requirement.id),
    revision: integer().notNull(),
    title: text().notNull(),
    text: text().notNull(),
    at: instant().notNull(),
    personId: text(),
  },
  (t) => [primaryKey({ columns: [t.requirementId, t.revision] })],
)

/** Testable from one or more releases, each from an iteration (none: from the start of the release). */
export const requirementTarget = sqliteTable(
  'requirement_target',
  {
    requirementId: integer()
      .notNull()
      .references(() => requirement.id),
    releaseId: integer()
      .notNull()
      .references(() => release.id),
    iterationId: integer().references(() => iteration.id),
  },
  (t) => [primaryKey({ columns: [t.requirementId, t.releaseId] }), index('requirement_target_release').on(t.releaseId)],
)

/** A tie between two requirements, such as one that refines another, for an interval of time. */
export const requirementRelation = sqliteTable(
  'requirement_relation',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    fromId: integer()
      .notNull()
      .references(() => requirement.id),
    toId: integer()
      .notNull()
      .references(() => requirement.id),
    kind: text().notNull(),
    fromAt: instant().notNull(),
    untilAt: instant(),
  },
  (t) => [index('requirement_relation_from').on(t.fromId), index('requirement_relation_to').on(t.toId)],
)
