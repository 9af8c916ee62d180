import { index, integer, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core'
import { deletedAt, editVersion, instant, serial, words } from '#db/columns.ts'
import { project } from '#db/projects/tables.ts'

export const defect = sqliteTable(
  'defect',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    number: integer().notNull(),
    title: text().notNull(),
    /** What happened, in the person's own words. */
    text: words(),
    /** Steps up to the failure, as they were filled in. */
    steps: words(),
    severity: text({ enum: ['Critical', 'Major', 'Minor', 'Cosmetic'] }).notNull(),
    priority: integer().notNull().default(3),
    state: text({ enum: ['Reported', 'Confirmed', 'In repair', 'Ready to retest', 'Closed', 'Rejected'] })
      .notNull()
      .default('Reported'),
    component: words(),
    foundInBuildId: integer(),
    fixedInBuildId: integer(),
    environmentId: integer(),
    ownerId: text(),
    reporterId: text(),
    outsideRef: words(),
    version: editVersion(),
    createdAt: instant().notNull(),
    updatedAt: instant().notNull(),
    deletedAt: deletedAt(),
  },
  (t) => [uniqueIndex('defect_number').on(t.projectId, t.number), index('defect_state').on(t.projectId, t.state)],
)

/** States with their time, so that a figure can be told as of any instant. */
export const defectStateAt = sqliteTable(
  'defect_state_at',
  {
    id: serial(),
    defectId: integer()
      .notNull()
      .references(() => defect.id),
    state: text().notNull(),
    fixedInBuildId: integer(),
    at: instant().notNull(),
    personId: text(),
  },
  (t) => [index('defect_state_at_defect').on(t.defectId, t.at)],
)

/** What a defect is linked to. A link from a failing step carries all of them; one made by hand at least one. */
export const defectLink = sqliteTable(
  'defect_link',
  {
    id: serial(),
    defectId: integer()
      .notNull()
      .references(() => defect.id),
    attemptId: integer(),
    row: integer(),
    stepId: integer(),
    itemId: integer(),
    caseId: integer(),
    requirementId: integer(),
    fromAt: instant().notNull(),
    untilAt: instant(),
  },
  (t) => [
    index('defect_link_defect').on(t.defectId),
    index('defect_link_attempt').on(t.attemptId),
    index('defect_link_case').on(t.caseId),
    index('defect_link_requirement').on(t.requirementId),
  ],
)
