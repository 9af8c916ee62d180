import { sql } from 'drizzle-orm'
import { index, integer, primaryKey, real, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core'
import { buildSaidBy } from '#core/projects/installed.ts'
import { arrivals } from '#core/runs/event-time.ts'
import { heldSides } from '#core/schedule/held.ts'
import { timings } from '#core/runs/timing.ts'
import { caseVersion, step, testCase } from '#db/cases/tables.ts'
import { deletedAt, editVersion, flag, instant, serial, words } from '#db/columns.ts'
import { plan, suite } from '#db/plans/tables.ts'
import { build, environment, project, release } from '#db/projects/tables.ts'

export const run = sqliteTable(
  'run',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    number: integer().notNull(),
    title: text().notNull(),
    /** What it is to find out. */
    aim: words(),
    /** Which data rows of each case are executed, as `1, 3-5`; empty: all. */
    dataRows: words(),
    planId: integer().references(() => plan.id),
    releaseId: integer()
      .notNull()
      .references(() => release.id),
    /** The build new attempts start on; each attempt keeps its own. */
    buildId: integer()
      .notNull()
      .references(() => build.id),
    state: text({ enum: ['Planned', 'Open', 'Closed', 'Aborted'] })
      .notNull()
      .default('Planned'),
    startOn: text().notNull(),
    endOn: text().notNull(),
    /** JSON of what it was composed of, and for which reasons; null: it was not. */
    composed: text(),
    /** When it was closed or aborted; what happened after it does not count. */
    closedAt: instant(),
    /** Why it was. */
    endedReason: words(),
    /** Minutes above the line, where somebody drew it; null: as many as the team has. */
    lineMinutes: integer(),
    /** The part of its team's time, in per cent, that is kept for retests; null: as in its project. */
    reservePercent: real(),
    /** The policy it has of its own; null: that of its project, whatever that becomes. */
    policyId: integer(),
    version: editVersion(),
    createdAt: instant().notNull(),
    updatedAt: instant().notNull(),
    deletedAt: deletedAt(),
  },
  (t) => [uniqueIndex('run_number').on(t.projectId, t.number), index('run_release').on(t.releaseId)],
)

export const runPerson = sqliteTable(
  'run_person',
  {
    runId: integer()
      .notNull()
      .references(() => run.id),
    personId: text().notNull(),
  },
  (t) => [primaryKey({ columns: [t.runId, t.personId] })],
)

/** The suites whose cases a run was made of. */
export const runSuite = sqliteTable(
  'run_suite',
  {
    runId: integer()
      .notNull()
      .references(() => run.id),
    suiteId: integer()
      .notNull()
      .references(() => suite.id),
  },
  (t) => [primaryKey({ columns: [t.runId, t.suiteId] }), index('run_suite_suite').on(t.suiteId)],
)

export const item = sqliteTable(
  'item',
  {
    id: serial(),
    runId: integer()
      .notNull()
      .references(() => run.id),
    caseId: integer()
      .notNull()
      .references(() => testCase.id),
    environmentId: integer()
      .notNull()
      .references(() => environment.id),
    position: integer().notNull(),
    assigneeId: text(),
    /** Minutes given by a person; open means the case's own, else a guess from its steps. */
    estimate: integer(),
    dueOn: text(),
    /** Of the newest attempt. */
    verdict: text().notNull().default('Not run'),
    attemptId: integer(),
    /** Why it is in the run, with commas; empty: by hand. */
    reasons: words(),
    /** Put above or below the line by hand; null: as the line decides. */
    held: text({ enum: heldSides }),
    /** Why it was taken out again. */
    droppedReason: words(),
    /** Of the version that was to be executed when it was put in; null: not known. */
    fingerprint: text(),
    /** So many people give their verdict independently, and it passes when so many of them pass it. */
    people: integer().notNull().default(1),
    passes: integer().notNull().default(1),
    deletedAt: deletedAt(),
  },
  (t) => [
    uniqueIndex('item_slot')
      .on(t.runId, t.caseId, t.environmentId)
      .where(sql`deleted_at is null`),
    index('item_assignee').on(t.assigneeId, t.verdict),
    index('item_case').on(t.caseId),
  ],
)

/** What an item waits for before it is executed: a defect, or another item of its run. */
export const itemWait = sqliteTable(
  'item_wait',
  {
    id: serial(),
    itemId: integer()
      .notNull()
      .references(() => item.id),
    defectId: integer(),
    otherItemId: integer().references(() => item.id),
    personId: text().notNull(),
    at: instant().notNull(),
  },
  (t) => [
    index('item_wait_item').on(t.itemId),
    index('item_wait_defect').on(t.defectId),
    index('item_wait_other').on(t.otherItemId),
  ],
)

export const attempt = sqliteTable(
  'attempt',
  {
    id: serial(),
    projectId: integer().notNull(),
    caseId: integer()
      .notNull()
      .references(() => testCase.id),
    versionId: integer()
      .notNull()
      .references(() => caseVersion.id),
    environmentId: integer()
      .notNull()
      .references(() => environment.id),
    buildId: integer()
      .notNull()
      .references(() => build.id),
    /** What its build was taken from. */
    buildBy: text({ enum: buildSaidBy }).notNull().default('run'),
    /** The build its run expected when it was begun; null: its build was that. */
    expectedBuildId: integer().references(() => build.id),
    itemId: integer().references(() => item.id),
    personId: text(),
    byMachine: flag(),
    verdict: text().notNull().default('Not run'),
    final: flag(),
    wholeVerdict: text(),
    /** The project's own word for it, and whether that ends the matter. */
    wholeWord: text(),
    wholeFinal: integer({ mode: 'boolean' }).notNull().default(true),
    overrideReason: text(),
    /** The project's own word its verdict is shown by. */
    word: text(),
    /** Which of the project's reasons was given for it, in its word. */
    reason: text(),
    /** The policy it began under; null: the usual one. */
    policyId: integer(),
    startedAt: instant().notNull(),
    finishedAt: instant(),
    /** Seconds it took, and who says so: the clock of the desk, whoever typed them, or what was shared out over many. */
    seconds: integer().notNull().default(0),
    timing: text({ enum: timings }).notNull().default('clock'),
    comment: words(),
    /** Why it is doubted; null: it is not. */
    doubt: text(),
    /** The act that doubted it, where it was one of many. */
    doubtId: integer(),
    /** Why it was struck out: it is kept and counts nowhere; null: it was not. */
    struck: text(),
  },
  (t) => [
    index('attempt_case').on(t.caseId, t.environmentId, t.buildId, t.finishedAt),
    index('attempt_item').on(t.itemId),
    // A version that goes is looked for here: without it every one would read all attempts.
    index('attempt_version').on(t.versionId),
    index('attempt_build').on(t.buildId, t.finishedAt),
    index('attempt_environment').on(t.environmentId, t.startedAt),
    index('attempt_finished').on(t.projectId, t.finishedAt),
    index('attempt_doubt')
      .on(t.doubtId)
      .where(sql`doubt_id is not null`),
    index('attempt_person')
      .on(t.personId, t.projectId, t.finishedAt)
      .where(sql`final = 1`),
  ],
)

/** Doubts, each of many attempts: dated, for a reason, and lifted again or not. */
export const doubtAct = sqliteTable(
  'doubt_act',
  {
    id: serial(),
    projectId: integer().notNull(),
    reason: text().notNull(),
    /** How many attempts it is of. */
    attempts: integer().notNull(),
    personId: text().notNull(),
    at: instant().notNull(),
    liftedAt: instant(),
    liftedById: text(),
  },
  (t) => [index('doubt_act_project').on(t.projectId, t.at)],
)

/** The values a row had when it was executed: frozen, whatever the case says later. */
export const attemptRow = sqliteTable(
  'attempt_row',
  {
    attemptId: integer()
      .notNull()
      .references(() => attempt.id),
    row: integer().notNull(),
    /** Which row of its version it is, where not all were executed; null: the one of its own number. */
    origin: integer(),
    values: text().notNull(),
  },
  (t) => [primaryKey({ columns: [t.attemptId, t.row] })],
)

/** The verdict and comment of a step in a row; a step with no row here is Not run. */
export const attemptStep = sqliteTable(
  'attempt_step',
  {
    attemptId: integer()
      .notNull()
      .references(() => attempt.id),
    row: integer().notNull(),
    stepId: integer()
      .notNull()
      .references(() => step.id),
    verdict: text().notNull(),
    word: text(),
    final: integer({ mode: 'boolean' }).notNull().default(true),
    comment: words(),
    at: instant().notNull(),
  },
  (t) => [primaryKey({ columns: [t.attemptId, t.row, t.stepId] })],
)

/** Every verdict as it came, for good. The pair of client and sequence makes a second sending harmless. */
export const verdictEvent = sqliteTable(
  'verdict_event',
  {
    id: serial(),
    attemptId: integer()
      .notNull()
      .references(() => attempt.id),
    clientId: text().notNull(),
    sequence: integer().notNull(),
    personId: text().notNull(),
    /** JSON of the change, with what was before. */
    change: text().notNull(),
    undoes: integer(),
    /** When it happened: the client's time, corrected and bounded; `claimedAt` as the client said it. */
    at: instant().notNull(),
    claimedAt: instant(),
    /** The claim could not be, and the time is that of arrival. */
    doubtful: flag(),
    arrival: text({ enum: arrivals }).notNull().default('in time'),
    receivedAt: instant().notNull(),
  },
  (t) => [
    uniqueIndex('verdict_event_once').on(t.clientId, t.sequence),
    index('verdict_event_attempt').on(t.attemptId, t.id),
    index('verdict_event_odd')
      .on(t.attemptId)
      .where(sql`arrival <> 'in time' or doubtful`),
  ],
)

/** Kept with each verdict: the newest final attempt per build, case and environment. */
export const standingResult = sqliteTable(
  'standing_result',
  {
    buildId: integer().notNull(),
    caseId: integer().notNull(),
    environmentId: integer().notNull(),
    attemptId: integer().notNull(),
    verdict: text().notNull(),
    finishedAt: instant().notNull(),
    fingerprint: text().notNull(),
    disputedBy: integer(),
    doubted: flag(),
  },
  (t) => [primaryKey({ columns: [t.buildId, t.caseId, t.environmentId] })],
)

export const quarantine = sqliteTable(
  'quarantine',
  {
    id: serial(),
    caseId: integer()
      .notNull()
      .references(() => testCase.id),
    environmentId: integer(),
    reason: text().notNull(),
    personId: text().notNull(),
    fromAt: instant().notNull(),
    untilAt: instant(),
  },
  (t) => [index('quarantine_case').on(t.caseId)],
)
