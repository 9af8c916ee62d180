import { sql } from 'drizzle-orm'
import {
  index,
  integer,
  primaryKey,
  sqliteTable,
  text,
  uniqueIndex,
  type AnySQLiteColumn,
} from 'drizzle-orm/sqlite-core'
import { deletedAt, editVersion, flag, instant, serial, words } from '#db/columns.ts'
import { project } from '#db/projects/tables.ts'
import { requirement } from '#db/requirements/tables.ts'

/** A step that stands for the steps of a routine's or a case's version, with values for their parameters (JSON). */
const useColumns = () => ({
  useRoutineVersionId: integer().references((): AnySQLiteColumn => routineVersion.id),
  useCaseVersionId: integer().references((): AnySQLiteColumn => caseVersion.id),
  useValues: words(),
})

export const folder = sqliteTable(
  'folder',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    parentId: integer().references((): AnySQLiteColumn => folder.id),
    name: text().notNull(),
    position: integer().notNull(),
    deletedAt: deletedAt(),
  },
  (t) => [
    uniqueIndex('folder_name')
      .on(t.projectId, t.parentId, t.name)
      .where(sql`deleted_at is null`),
  ],
)

export const testCase = sqliteTable(
  'test_case',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    number: integer().notNull(),
    folderId: integer().references(() => folder.id),
    position: integer().notNull(),
    title: text().notNull(),
    objective: words(),
    type: text().notNull().default('Functional'),
    component: words(),
    importance: text({ enum: ['Critical', 'High', 'Medium', 'Low'] })
      .notNull()
      .default('Medium'),
    ownerId: text(),
    automation: text({ enum: ['Manual', 'Candidate', 'Automated'] })
      .notNull()
      .default('Manual'),
    estimate: integer(),
    /** The newest stored version, and the newest Approved one; the working copy is the version with no number. */
    newestVersionId: integer(),
    approvedVersionId: integer(),
    /** Of the working copy: what lists show without opening it. */
    steps: integer().notNull().default(0),
    state: text({ enum: ['Draft', 'In review', 'Approved'] })
      .notNull()
      .default('Draft'),
    version: editVersion(),
    createdAt: instant().notNull(),
    updatedAt: instant().notNull(),
    retiredAt: instant(),
    /** From when it can be tested, by hand; null: from the latest of its requirements. */
    fromReleaseId: integer(),
    fromIterationId: integer(),
    /** The case that took this one's place when the two were merged. */
    mergedIntoId: integer(),
    deletedAt: deletedAt(),
  },
  (t) => [
    uniqueIndex('case_number').on(t.projectId, t.number),
    index('case_live')
      .on(t.projectId, t.number)
      .where(sql`deleted_at is null`),
    index('case_review')
      .on(t.projectId, t.updatedAt)
      .where(sql`state = 'In review' and deleted_at is null`),
    index('case_created').on(t.projectId, t.createdAt),
    index('case_folder').on(t.projectId, t.folderId, t.position),
  ],
)

/** A stored version, or (with no number) the working copy. Approval sits here, not on the case. */
export const caseVersion = sqliteTable(
  'case_version',
  {
    id: serial(),
    caseId: integer()
      .notNull()
      .references(() => testCase.id),
    major: integer(),
    minor: integer(),
    state: text({ enum: ['Draft', 'In review', 'Approved'] })
      .notNull()
      .default('Draft'),
    fingerprint: text().notNull(),
    preconditions: words(),
    /** JSON array of names; the rows' values are in data_row. */
    parameters: text().notNull().default('[]'),
    /** Name of the environment it needs; empty: any. */
    environment: words(),
    /** The data table its rows come from, and whether an attempt executes each row or takes one that nobody else has. */
    tableId: integer().references((): AnySQLiteColumn => dataTable.id),
    tableMode: text({ enum: ['each', 'one'] }),
    why: words(),
    createdAt: instant().notNull(),
    createdBy: text(),
    approvedAt: instant(),
    approvedBy: text(),
  },
  (t) => [
    uniqueIndex('case_version_number').on(t.caseId, t.major, t.minor),
    index('case_version_working')
      .on(t.caseId)
      .where(sql`major is null`),
  ],
)

/** Identity only: rows of results, comments and comparisons hang on it over all versions. */
export const step = sqliteTable(
  'step',
  {
    id: serial(),
    caseId: integer()
      .notNull()
      .references(() => testCase.id),
    /** Of a step that comes from a routine or another case: the step that inserts it, and which of theirs it is. */
    withinStepId: integer().references((): AnySQLiteColumn => step.id),
    innerKey: integer(),
    innerStepId: integer().references((): AnySQLiteColumn => step.id),
  },
  (t) => [index('step_within').on(t.withinStepId)],
)

export const versionStep = sqliteTable(
  'version_step',
  {
    versionId: integer()
      .notNull()
      .references(() => caseVersion.id),
    position: integer().notNull(),
    stepId: integer()
      .notNull()
      .references(() => step.id),
    action: words(),
    expected: words(),
    data: words(),
    ...useColumns(),
    evidence: flag(),
  },
  (t) => [
    primaryKey({ columns: [t.versionId, t.position] }),
    index('version_step_routine')
      .on(t.useRoutineVersionId)
      .where(sql`use_routine_version_id is not null`),
    index('version_step_case')
      .on(t.useCaseVersionId)
      .where(sql`use_case_version_id is not null`),
  ],
)

/** Cases that must have run before this one. */
export const caseNeed = sqliteTable(
  'case_need',
  {
    versionId: integer()
      .notNull()
      .references(() => caseVersion.id),
    caseId: integer()
      .notNull()
      .references(() => testCase.id),
  },
  (t) => [primaryKey({ columns: [t.versionId, t.caseId] })],
)

/** Named steps that many cases insert. */
export const routine = sqliteTable(
  'routine',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    number: integer().notNull(),
    title: text().notNull(),
    objective: words(),
    newestVersionId: integer(),
    version: editVersion(),
    createdAt: instant().notNull(),
    updatedAt: instant().notNull(),
    deletedAt: deletedAt(),
  },
  (t) => [uniqueIndex('routine_number').on(t.projectId, t.number)],
)

/** A stored version, or (with no number) the working copy. */
export const routineVersion = sqliteTable(
  'routine_version',
  {
    id: serial(),
    routineId: integer()
      .notNull()
      .references(() => routine.id),
    major: integer(),
    minor: integer(),
    fingerprint: text().notNull(),
    why: words(),
    createdAt: instant().notNull(),
    createdBy: text(),
  },
  (t) => [uniqueIndex('routine_version_number').on(t.routineId, t.major, t.minor)],
)

export const routineStep = sqliteTable(
  'routine_step',
  {
    versionId: integer()
      .notNull()
      .references(() => routineVersion.id),
    position: integer().notNull(),
    /** Identity over the versions of the routine. */
    key: integer().notNull(),
    action: words(),
    expected: words(),
    data: words(),
    ...useColumns(),
    evidence: flag(),
  },
  (t) => [primaryKey({ columns: [t.versionId, t.position] })],
)

/** Rows of values that cases share. */
export const dataTable = sqliteTable(
  'data_table',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    name: text().notNull(),
    /** JSON array of names. */
    columns: text().notNull().default('[]'),
    /** Whether an execution uses a row up in its environment, until the table is filled up again. */
    usedUp: flag(),
    version: editVersion(),
    deletedAt: deletedAt(),
  },
  (t) => [
    uniqueIndex('data_table_name')
      .on(t.projectId, t.name)
      .where(sql`deleted_at is null`),
  ],
)

export const dataTableRow = sqliteTable(
  'data_table_row',
  {
    id: serial(),
    tableId: integer()
      .notNull()
      .references(() => dataTable.id),
    position: integer().notNull(),
    values: text().notNull(),
    /** Checked out: two testers never use it at once. */
    heldBy: text(),
    heldAt: instant(),
    heldAttemptId: integer(),
  },
  (t) => [
    index('data_table_row_table').on(t.tableId, t.position),
    index('data_table_row_held')
      .on(t.heldAttemptId)
      .where(sql`held_attempt_id is not null`),
  ],
)

/** A row that was used up in an environment by an attempt; brought back when its table is filled up again there. */
export const dataRowUse = sqliteTable(
  'data_row_use',
  {
    id: serial(),
    rowId: integer().notNull(),
    environmentId: integer().notNull(),
    attemptId: integer(),
    at: instant().notNull(),
    filledAt: instant(),
  },
  (t) => [index('data_row_use_row').on(t.rowId, t.environmentId)],
)

/** What new cases can start from; steps and fields as JSON, with no identity of their own. */
export const caseTemplate = sqliteTable(
  'case_template',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    name: text().notNull(),
    content: text().notNull(),
    personId: text(),
    at: instant().notNull(),
    deletedAt: deletedAt(),
  },
  (t) => [
    uniqueIndex('case_template_name')
      .on(t.projectId, t.name)
      .where(sql`deleted_at is null`),
  ],
)

/** Another wording that somebody proposes; its steps name the place they have in the version it was made from. */
export const suggestion = sqliteTable(
  'suggestion',
  {
    id: serial(),
    projectId: integer().notNull(),
    caseId: integer()
      .notNull()
      .references(() => testCase.id),
    versionId: integer()
      .notNull()
      .references(() => caseVersion.id),
    content: text().notNull(),
    note: words(),
    state: text({ enum: ['Open', 'Taken', 'Declined'] })
      .notNull()
      .default('Open'),
    at: instant().notNull(),
    personId: text().notNull(),
    decidedAt: instant(),
    decidedBy: text(),
  },
  (t) => [index('suggestion_case').on(t.caseId)],
)

/** A person asked to review a version, and what they answered. */
export const reviewAsked = sqliteTable(
  'review_asked',
  {
    id: serial(),
    projectId: integer().notNull(),
    caseId: integer()
      .notNull()
      .references(() => testCase.id),
    versionId: integer()
      .notNull()
      .references(() => caseVersion.id),
    askedBy: text().notNull(),
    personId: text().notNull(),
    at: instant().notNull(),
    answer: text({ enum: ['approved', 'sent back'] }),
    answeredAt: instant(),
  },
  (t) => [
    index('review_asked_case').on(t.caseId),
    index('review_asked_person')
      .on(t.personId)
      .where(sql`answer is null`),
  ],
)

export const dataRow = sqliteTable(
  'data_row',
  {
    versionId: integer()
      .notNull()
      .references(() => caseVersion.id),
    row: integer().notNull(),
    /** JSON: parameter → value. */
    values: text().notNull(),
  },
  (t) => [primaryKey({ columns: [t.versionId, t.row] })],
)

/** Requirement to case, or to one of its steps, for an interval of time; confirming closes it and opens the next. */
export const link = sqliteTable(
  'link',
  {
    id: serial(),
    projectId: integer().notNull(),
    requirementId: integer()
      .notNull()
      .references(() => requirement.id),
    caseId: integer()
      .notNull()
      .references(() => testCase.id),
    stepId: integer().references(() => step.id),
    fromAt: instant().notNull(),
    untilAt: instant(),
    confirmedRevision: integer().notNull(),
    confirmedVersionId: integer(),
    /** The sentence of the requirement that is proved; empty: all of it. */
    quote: words(),
    personId: text(),
  },
  (t) => [
    index('link_requirement').on(t.requirementId, t.untilAt),
    index('link_case').on(t.caseId, t.untilAt),
    index('link_project')
      .on(t.projectId)
      .where(sql`until_at is null`),
    // That a link stands once is an index over an expression; it is in the migration of the search index.
  ],
)
