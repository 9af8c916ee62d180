import { integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core'
import { testCase } from '#db/cases/tables.ts'
import { deletedAt, editVersion, instant, serial, words } from '#db/columns.ts'
import { environment, iteration, project, release } from '#db/projects/tables.ts'

export const suite = sqliteTable(
  'suite',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    number: integer().notNull(),
    title: text().notNull(),
    objective: words(),
    state: text({ enum: ['Drafting', 'Active', 'Closed'] })
      .notNull()
      .default('Drafting'),
    version: editVersion(),
    createdAt: instant().notNull(),
    updatedAt: instant().notNull(),
    deletedAt: deletedAt(),
  },
  (t) => [uniqueIndex('suite_number').on(t.projectId, t.number)],
)

export const suitePin = sqliteTable(
  'suite_pin',
  {
    suiteId: integer()
      .notNull()
      .references(() => suite.id),
    caseId: integer()
      .notNull()
      .references(() => testCase.id),
    position: integer().notNull(),
  },
  (t) => [primaryKey({ columns: [t.suiteId, t.caseId] })],
)

export const plan = sqliteTable(
  'plan',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    number: integer().notNull(),
    title: text().notNull(),
    objective: words(),
    state: text({ enum: ['Drafting', 'In review', 'Signed off', 'Closed'] })
      .notNull()
      .default('Drafting'),
    releaseId: integer()
      .notNull()
      .references(() => release.id),
    iterationId: integer().references(() => iteration.id),
    version: editVersion(),
    createdAt: instant().notNull(),
    updatedAt: instant().notNull(),
    deletedAt: deletedAt(),
  },
  (t) => [uniqueIndex('plan_number').on(t.projectId, t.number)],
)

export const planSuite = sqliteTable(
  'plan_suite',
  {
    planId: integer()
      .notNull()
      .references(() => plan.id),
    suiteId: integer()
      .notNull()
      .references(() => suite.id),
    position: integer().notNull(),
  },
  (t) => [primaryKey({ columns: [t.planId, t.suiteId] })],
)

export const planEnvironment = sqliteTable(
  'plan_environment',
  {
    planId: integer()
      .notNull()
      .references(() => plan.id),
    environmentId: integer()
      .notNull()
      .references(() => environment.id),
  },
  (t) => [primaryKey({ columns: [t.planId, t.environmentId] })],
)
