import { sql } from 'drizzle-orm'
import { index, integer, primaryKey, sqliteTable, text, uniqueIndex, type AnySQLiteColumn } from 'drizzle-orm/sqlite-core'
import { deletedAt, editVersion, instant, serial, words } from '#db/columns.ts'
import { project } from '#db/projects/tables.ts'
import { requirement } from '#db/requirements/tables.ts'

export const folder = sqliteTable('folder', {
  id: serial(),
  projectId: integer().notNull().references(() => project.id),
  parentId: integer().references((): AnySQLiteColumn => folder.id),
  name: text().notNull(),
  position: integer().notNull(),
  deletedAt: deletedAt(),
}, (t) => [uniqueIndex('folder_name').on(t.projectId, t.parentId, t.name).where(sql`deleted_at is null`)])

export const testCase = sqliteTable('test_case', {
  id: serial(),
  projectId: integer().notNull().references(() => project.id),
  number: integer().notNull(),
  folderId: integer().references(() => folder.id),
  position: integer().notNull(),
  title: text().notNull(),
  objective: words(),
  type: text().notNull().default('Functional'),
  component: words(),
  importance: text({ enum: ['Critical', 'High', 'Medium', 'Low'] }).notNull().default('Medium'),
  ownerId: text(),
  automation: text({ enum: ['Manual', 'Candidate', 'Automated'] }).notNull().default('Manual'),
  estimate: integer(),
  /** The newest stored version, and the newest Approved one; the working copy is the version with no number. */
  newestVersionId: integer(),
  approvedVersionId: integer(),
  /** Of the working copy: what lists show without opening it. */
  steps: integer().notNull().default(0),
  state: text({ enum: ['Draft', 'In review', 'Approved'] }).notNull().default('Draft'),
  version: editVersion(),
  createdAt: instant().notNull(),
  updatedAt: instant().notNull(),
  retiredAt: instant(),
  deletedAt: deletedAt(),
}, (t) => [
  uniqueIndex('case_number').on(t.projectId, t.number),
  index('case_live').on(t.projectId, t.number).where(sql`deleted_at is null`),
  index('case_review').on(t.projectId, t.updatedAt).where(sql`state = 'In review' and deleted_at is null`),
  index('case_created').on(t.projectId, t.createdAt),
  index('case_folder').on(t.projectId, t.folderId, t.position),
])

/** A stored version, or (with no number) the working copy. Approval sits here, not on the case. */
export const caseVersion = sqliteTable('case_version', {
  id: serial(),
  caseId: integer().notNull().references(() => testCase.id),
  major: integer(),
  minor: integer(),
  state: text({ enum: ['Draft', 'In review', 'Approved'] }).notNull().default('Draft'),
  fingerprint: text().notNull(),
  preconditions: words(),
  /** JSON array of names; the rows' values are in data_row. */
  parameters: text().notNull().default('[]'),
  why: words(),
  createdAt: instant().notNull(),
  createdBy: text(),
  approvedAt: instant(),
  approvedBy: text(),
}, (t) => [uniqueIndex('case_version_number').on(t.caseId, t.major, t.minor), index('case_version_working').on(t.caseId).where(sql`major is null`)])

/** Identity only: rows of results, comments and comparisons hang on it over all versions. */
export const step = sqliteTable('step', { id: serial(), caseId: integer().notNull().references(() => testCase.id) })

export const versionStep = sqliteTable('version_step', {
  versionId: integer().notNull().references(() => caseVersion.id),
  position: integer().notNull(),
  stepId: integer().notNull().references(() => step.id),
  action: words(),
  expected: words(),
  data: words(),
}, (t) => [primaryKey({ columns: [t.versionId, t.position] })])

export const dataRow = sqliteTable('data_row', {
  versionId: integer().notNull().references(() => caseVersion.id),
  row: integer().notNull(),
  /** JSON: parameter → value. */
  values: text().notNull(),
}, (t) => [primaryKey({ columns: [t.versionId, t.row] })])

/** Requirement to case, or to one of its steps, for an interval of time; confirming closes it and opens the next. */
export const link = sqliteTable('link', {
  id: serial(),
  projectId: integer().notNull(),
  requirementId: integer().notNull().references(() => requirement.id),
  caseId: integer().notNull().references(() => testCase.id),
  stepId: integer().references(() => step.id),
  fromAt: instant().notNull(),
  untilAt: instant(),
  confirmedRevision: integer().notNull(),
  confirmedVersionId: integer(),
  personId: text(),
}, (t) => [
  index('link_requirement').on(t.requirementId, t.untilAt),
  index('link_case').on(t.caseId, t.untilAt),
  index('link_project').on(t.projectId).where(sql`until_at is null`),
  // That a link stands once is an index over an expression; it is in the migration of the search index.
])
