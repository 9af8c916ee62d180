import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core'
import { testCase } from '#db/cases/tables.ts'
import { deletedAt, editVersion, instant, serial, words } from '#db/columns.ts'
import { project } from '#db/projects/tables.ts'
import { requirement } from '#db/requirements/tables.ts'

/** What a requirement's cases are derived from by one technique; `body` is the model as JSON, `source` its lines as they were typed. */
export const draftModel = sqliteTable(
  'draft_model',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    requirementId: integer()
      .notNull()
      .references(() => requirement.id),
    technique: text({ enum: ['boundaries', 'combos', 'decisions', 'paths'] }).notNull(),
    name: text().notNull(),
    body: text().notNull(),
    source: text().notNull().default('{}'),
    /** How cases accepted from it are titled. */
    pattern: words(),
    revision: integer().notNull().default(1),
    /** The requirement's revision that the model was last held against. */
    requirementRevision: integer().notNull().default(1),
    version: editVersion(),
    updatedAt: instant().notNull(),
    updatedBy: text(),
    deletedAt: deletedAt(),
  },
  (t) => [index('draft_model_requirement').on(t.requirementId), index('draft_model_project').on(t.projectId)],
)

export const draftModelRevision = sqliteTable(
  'draft_model_revision',
  {
    id: serial(),
    modelId: integer()
      .notNull()
      .references(() => draftModel.id),
    revision: integer().notNull(),
    body: text().notNull(),
    at: instant().notNull(),
    personId: text(),
  },
  (t) => [index('draft_model_revision_model').on(t.modelId, t.revision)],
)

/** What was decided about a row that a model proposed: the case made of it, or that it is left out. Until it is ended it stands. */
export const draftRow = sqliteTable(
  'draft_row',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    modelId: integer()
      .notNull()
      .references(() => draftModel.id),
    row: text().notNull(),
    decision: text({ enum: ['accepted', 'kept', 'left out'] }).notNull(),
    caseId: integer().references(() => testCase.id),
    /** The model's revision it was decided at. */
    revision: integer().notNull(),
    at: instant().notNull(),
    personId: text(),
    endedAt: instant(),
  },
  (t) => [index('draft_row_model').on(t.modelId), index('draft_row_case').on(t.caseId)],
)

/** What to test that no technique models. */
export const checklistItem = sqliteTable(
  'checklist_item',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    requirementId: integer()
      .notNull()
      .references(() => requirement.id),
    position: integer().notNull(),
    text: text().notNull(),
    doneAt: instant(),
    doneBy: text(),
    caseId: integer().references(() => testCase.id),
    deletedAt: deletedAt(),
  },
  (t) => [
    index('checklist_item_requirement').on(t.requirementId, t.position),
    index('checklist_item_project').on(t.projectId),
  ],
)
