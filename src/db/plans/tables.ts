import { sql } from 'drizzle-orm'
import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core'
import { askAbouts, askWays } from '#core/plans/asks.ts'
import { criterionSides } from '#core/plans/criteria.ts'
import { planParts, signAnswers, versionStates } from '#core/plans/state.ts'
import { sourceKinds, suiteOrders } from '#core/plans/source.ts'
import { testCase } from '#db/cases/tables.ts'
import { requirement } from '#db/requirements/tables.ts'
import { deletedAt, editVersion, flag, instant, serial, words } from '#db/columns.ts'
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
    /** Why it is closed. */
    closedReason: words(),
    orderedBy: text({ enum: suiteOrders }).notNull().default('hand'),
    /** Its cases and their minutes, as they were written down with who is in it. */
    caseCount: integer().notNull().default(0),
    caseMinutes: integer().notNull().default(0),
    /** Its definition changed so often: what was reckoned from an older one is reckoned again. */
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

/** Where cases of a suite come from beside its pins. */
export const suiteSource = sqliteTable(
  'suite_source',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    suiteId: integer()
      .notNull()
      .references(() => suite.id),
    position: integer().notNull(),
    kind: text({ enum: sourceKinds }).notNull(),
    /** Of a branch: the requirement at its top; of the best in some minutes: within this branch. */
    requirementId: integer().references(() => requirement.id),
    /** Of a suite within this one. */
    includedId: integer().references(() => suite.id),
    /** Of a rule: typed words, and the filter as JSON. */
    words: words(),
    filter: words(),
    minutes: integer(),
    /** JSON of the cases chosen when it was frozen, with why each is in. */
    frozen: text(),
    /** Since when it cannot be followed: what it held then is kept apart. */
    brokenAt: instant(),
    createdAt: instant().notNull(),
    deletedAt: deletedAt(),
  },
  (t) => [
    index('suite_source_suite').on(t.suiteId, t.position),
    index('suite_source_included')
      .on(t.includedId)
      .where(sql`included_id is not null`),
  ],
)

/** What a suite leaves out whatever its sources say. */
export const suiteExclusion = sqliteTable(
  'suite_exclusion',
  {
    suiteId: integer()
      .notNull()
      .references(() => suite.id),
    caseId: integer()
      .notNull()
      .references(() => testCase.id),
    reason: text().notNull(),
    personId: text(),
    at: instant().notNull(),
  },
  (t) => [primaryKey({ columns: [t.suiteId, t.caseId] })],
)

/** The order by hand; it outlives a case's going out and coming back. */
export const suitePlace = sqliteTable(
  'suite_place',
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

/**
 * Which case was in which suite from when until when, written when a change is noticed: for what came and went since, and for
 * what a suite held at some time. Who is in now is reckoned from the sources.
 */
export const suiteMember = sqliteTable(
  'suite_member',
  {
    id: serial(),
    suiteId: integer()
      .notNull()
      .references(() => suite.id),
    caseId: integer()
      .notNull()
      .references(() => testCase.id),
    /** JSON: ids of the sources it was in by, 0 for its pin. */
    sources: text().notNull(),
    fromAt: instant().notNull(),
    untilAt: instant(),
    /** Who did what brought it in, and took it out. */
    fromBy: text(),
    untilBy: text(),
  },
  (t) => [
    uniqueIndex('suite_member_now')
      .on(t.suiteId, t.caseId)
      .where(sql`until_at is null`),
    index('suite_member_until').on(t.suiteId, t.untilAt),
    index('suite_member_from')
      .on(t.suiteId, t.fromAt)
      .where(sql`until_at is null`),
    index('suite_member_case')
      .on(t.caseId)
      .where(sql`until_at is null`),
  ],
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
    /** The version that answers for it while it is closed or its release shipped. */
    frozenVersionId: integer(),
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

/** Which environments are asked for, where it is not every one of the plan. */
export const planAsk = sqliteTable(
  'plan_ask',
  {
    planId: integer()
      .notNull()
      .references(() => plan.id),
    about: text({ enum: askAbouts }).notNull(),
    /** One of these, by what it is about; none of the whole plan. */
    suiteId: integer().references(() => suite.id),
    requirementId: integer().references(() => requirement.id),
    caseId: integer().references(() => testCase.id),
    way: text({ enum: askWays }).notNull(),
    /** JSON of ids; null: those of the plan. */
    environments: text(),
  },
  (t) => [index('plan_ask_plan').on(t.planId)],
)

/** Where the cases of a plan are dealt that are spread over its environments. */
export const planDeal = sqliteTable(
  'plan_deal',
  {
    planId: integer()
      .notNull()
      .references(() => plan.id),
    caseId: integer()
      .notNull()
      .references(() => testCase.id),
    environmentId: integer()
      .notNull()
      .references(() => environment.id),
  },
  (t) => [primaryKey({ columns: [t.planId, t.caseId] })],
)

/** What a plan says in one of its parts, in free words. */
export const planPart = sqliteTable(
  'plan_part',
  {
    planId: integer()
      .notNull()
      .references(() => plan.id),
    part: text({ enum: planParts }).notNull(),
    text: words(),
  },
  (t) => [primaryKey({ columns: [t.planId, t.part] })],
)

export const planRisk = sqliteTable(
  'plan_risk',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    planId: integer()
      .notNull()
      .references(() => plan.id),
    position: integer().notNull(),
    title: text().notNull(),
    likelihood: integer().notNull(),
    impact: integer().notNull(),
    deletedAt: deletedAt(),
  },
  (t) => [index('plan_risk_plan').on(t.planId, t.position)],
)

/** Requirements and cases that answer a risk. */
export const planRiskAnswer = sqliteTable(
  'plan_risk_answer',
  {
    id: serial(),
    riskId: integer()
      .notNull()
      .references(() => planRisk.id),
    requirementId: integer().references(() => requirement.id),
    caseId: integer().references(() => testCase.id),
  },
  (t) => [index('plan_risk_answer_risk').on(t.riskId)],
)

/** Branches that are in a plan's scope, or out of it, and why. */
export const planBranch = sqliteTable(
  'plan_branch',
  {
    planId: integer()
      .notNull()
      .references(() => plan.id),
    requirementId: integer()
      .notNull()
      .references(() => requirement.id),
    inside: flag(),
    reason: words(),
  },
  (t) => [primaryKey({ columns: [t.planId, t.requirementId] })],
)

/** Who takes part, and as what. */
export const planPerson = sqliteTable(
  'plan_person',
  {
    planId: integer()
      .notNull()
      .references(() => plan.id),
    personId: text().notNull(),
    part: words(),
  },
  (t) => [primaryKey({ columns: [t.planId, t.personId] })],
)

export const planMilestone = sqliteTable(
  'plan_milestone',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    planId: integer()
      .notNull()
      .references(() => plan.id),
    title: text().notNull(),
    /** A plain date. */
    on: text().notNull(),
    deletedAt: deletedAt(),
  },
  (t) => [index('plan_milestone_plan').on(t.planId, t.on)],
)

/** An entry or exit rule of a plan, evaluated from data when it is asked for. */
export const planCriterion = sqliteTable(
  'plan_criterion',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    planId: integer()
      .notNull()
      .references(() => plan.id),
    side: text({ enum: criterionSides }).notNull(),
    position: integer().notNull(),
    /** JSON of the rule. */
    rule: text().notNull(),
    waivedBy: text(),
    waivedAt: instant(),
    waivedReason: words(),
    /** The plain date with which the waiver ends. */
    waivedUntil: text(),
    deletedAt: deletedAt(),
  },
  (t) => [index('plan_criterion_plan').on(t.planId, t.position)],
)

/** How a plan stood when people were asked to sign it, or when it was closed: for good. */
export const planVersion = sqliteTable(
  'plan_version',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    planId: integer()
      .notNull()
      .references(() => plan.id),
    number: integer().notNull(),
    state: text({ enum: versionStates }).notNull(),
    /** JSON of what it says, line by line. */
    definition: text().notNull(),
    note: words(),
    personId: text(),
    at: instant().notNull(),
    /** When it was signed off, sent back or withdrawn. */
    endedAt: instant(),
  },
  (t) => [uniqueIndex('plan_version_number').on(t.planId, t.number)],
)

/** What a version asks for: a row for each case and set of environments, any of which answers it. */
export const planVersionSlot = sqliteTable(
  'plan_version_slot',
  {
    versionId: integer()
      .notNull()
      .references(() => planVersion.id),
    caseId: integer()
      .notNull()
      .references(() => testCase.id),
    place: integer().notNull(),
    /** JSON of ids; an empty list is answered by any environment. */
    environments: text().notNull(),
  },
  (t) => [primaryKey({ columns: [t.versionId, t.caseId, t.place] })],
)

/** Who is asked to sign a version, and what they answered. */
export const planSignature = sqliteTable(
  'plan_signature',
  {
    versionId: integer()
      .notNull()
      .references(() => planVersion.id),
    personId: text().notNull(),
    answer: text({ enum: signAnswers }),
    words: words(),
    at: instant(),
  },
  (t) => [primaryKey({ columns: [t.versionId, t.personId] }), index('plan_signature_person').on(t.personId)],
)
