import { sql } from 'drizzle-orm'
import { index, integer, primaryKey, real, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core'
import { finalVerdicts, signs, tints } from '#core/lib/verdict.ts'
import { dealingWays } from '#core/projects/dealing-ways.ts'
import { buildStates } from '#core/projects/builds.ts'
import { amenders, closings, deciders, openers, recorders } from '#core/projects/policy.ts'
import { deletedAt, editVersion, flag, instant, serial, words } from '#db/columns.ts'

export const project = sqliteTable('project', {
  id: serial(),
  key: text().notNull().unique(),
  name: text().notNull(),
  product: text().notNull(),
  timeZone: text().notNull().default('UTC'),
  /** Days of the week that are worked, 1 = Monday. */
  workingDays: text().notNull().default('1,2,3,4,5'),
  freshnessDays: real().notNull().default(14),
  approvalRequired: flag(),
  /** To whom the items of a new run go, unless it is said otherwise. */
  dealing: text({ enum: dealingWays }).notNull().default('evenly'),
  /** A reason is asked for when a version is cut by hand. */
  reasonAsked: flag(),
  /** Its people come in with a code beside their password. */
  secondFactorAsked: flag(),
  /** Factors of environments with their values, and combinations that are not allowed: lines. */
  factors: words(),
  factorRules: words(),
  /** Which component a changed path belongs to: lines. */
  paths: words(),
  /** The suite that has to pass on a build in intake before it is offered. */
  smokeSuiteId: integer(),
  /** Minutes it takes when a person's environment changes within a day. */
  switchMinutes: integer().notNull().default(0),
  /** The part of everybody's time, in per cent, that is kept for retests. */
  reservePercent: real().notNull().default(0),
  /** JSON of what its worth is weighed by, where that is not as usual. */
  worthWeights: words(),
  /** The rules runs are executed under; null: the usual ones. */
  policyId: integer(),
  /** Counts every change but verdicts; computed figures are cached under it. */
  structureVersion: integer().notNull().default(1),
  /** As of which of them who is in its suites was written down. */
  suitesNoticed: integer().notNull().default(0),
  createdAt: instant().notNull(),
})

/** Days on which nobody of a project works. */
export const holiday = sqliteTable(
  'holiday',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    day: text().notNull(),
    name: text().notNull(),
  },
  (t) => [index('holiday_project').on(t.projectId, t.day)],
)

export const release = sqliteTable(
  'release',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    position: integer().notNull(),
    name: text().notNull(),
    state: text({ enum: ['Planned', 'In test', 'Shipped'] }).notNull(),
    startOn: text(),
    dueOn: text(),
    deletedAt: deletedAt(),
  },
  (t) => [
    uniqueIndex('release_name')
      .on(t.projectId, t.name)
      .where(sql`deleted_at is null`),
  ],
)

export const iteration = sqliteTable(
  'iteration',
  {
    id: serial(),
    releaseId: integer()
      .notNull()
      .references(() => release.id),
    position: integer().notNull(),
    name: text().notNull(),
    startOn: text(),
    dueOn: text(),
    deletedAt: deletedAt(),
  },
  (t) => [
    uniqueIndex('iteration_name')
      .on(t.releaseId, t.name)
      .where(sql`deleted_at is null`),
  ],
)

export const build = sqliteTable(
  'build',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    releaseId: integer()
      .notNull()
      .references(() => release.id),
    /** Order in the whole project. */
    position: integer().notNull(),
    name: text().notNull(),
    state: text({ enum: buildStates }).notNull(),
    offeredAt: instant().notNull(),
    /** When it was refused or withdrawn: before that instant it counts as Offered. */
    endedAt: instant(),
    notes: words(),
    /** JSON of what it touches; null: nobody said it, so everything. */
    touches: text(),
  },
  (t) => [uniqueIndex('build_name').on(t.projectId, t.name), uniqueIndex('build_position').on(t.projectId, t.position)],
)

export const environment = sqliteTable(
  'environment',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    position: integer().notNull(),
    name: text().notNull(),
    isAny: flag(),
    seats: integer(),
    ownerId: text(),
    /** Where the instance is reached. */
    address: words(),
    notes: words(),
    deletedAt: deletedAt(),
  },
  (t) => [
    uniqueIndex('environment_name')
      .on(t.projectId, t.name)
      .where(sql`deleted_at is null`),
  ],
)

export const environmentValue = sqliteTable(
  'environment_value',
  {
    environmentId: integer()
      .notNull()
      .references(() => environment.id),
    factor: text().notNull(),
    value: text().notNull(),
  },
  (t) => [primaryKey({ columns: [t.environmentId, t.factor] })],
)

/** A time in which an environment was not to be used. */
export const outage = sqliteTable(
  'outage',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    environmentId: integer()
      .notNull()
      .references(() => environment.id),
    fromAt: instant().notNull(),
    /** Null: it goes on. */
    untilAt: instant(),
    reason: words(),
    personId: text(),
    deletedAt: deletedAt(),
  },
  (t) => [index('outage_environment').on(t.environmentId, t.fromAt), index('outage_project').on(t.projectId, t.fromAt)],
)

/** Which build stands in an environment from an instant on, until the next that is said of it. */
export const installation = sqliteTable(
  'installation',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    environmentId: integer()
      .notNull()
      .references(() => environment.id),
    /** Null: none is known from then on. */
    buildId: integer().references(() => build.id),
    fromAt: instant().notNull(),
    note: words(),
    personId: text(),
    saidAt: instant().notNull(),
    deletedAt: deletedAt(),
  },
  (t) => [
    uniqueIndex('installation_from')
      .on(t.environmentId, t.fromAt)
      .where(sql`deleted_at is null`),
    index('installation_project').on(t.projectId, t.fromAt),
  ],
)

export const verdictKind = sqliteTable('verdict_kind', {
  id: serial(),
  projectId: integer()
    .notNull()
    .references(() => project.id),
  word: text().notNull(),
  countsAs: text().notNull(),
  final: flag(),
  forItems: flag(),
  forSteps: flag(),
  /** Drawn beside the mark of what it counts as. */
  sign: text({ enum: signs }).notNull().default('dot'),
  tint: text({ enum: tints }).notNull().default('grey'),
  position: integer().notNull().default(0),
  /** Nobody gives it any more; what was said with it stays. */
  retiredAt: instant(),
  deletedAt: deletedAt(),
})

/** Reasons one may give for a verdict. */
export const verdictReason = sqliteTable(
  'verdict_reason',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    verdict: text({ enum: finalVerdicts }).notNull(),
    word: text().notNull(),
    position: integer().notNull().default(0),
    retiredAt: instant(),
  },
  (t) => [uniqueIndex('verdict_reason_word').on(t.projectId, t.verdict, sql`lower(word)`)],
)

/** Rules of runs. A row never changes: who changes a rule makes another row. */
export const policy = sqliteTable(
  'policy',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    decides: text({ enum: deciders }).notNull(),
    records: text({ enum: recorders }).notNull(),
    opens: text({ enum: openers }).notNull(),
    /** JSON: what is asked for, by verdict. */
    asked: text().notNull(),
    closes: text({ enum: closings }).notNull(),
    amends: text({ enum: amenders }).notNull(),
    amendDays: integer().notNull(),
    approvedOnly: flag(),
    spoiledByCase: flag(),
    spoiledByBuild: flag(),
    createdAt: instant().notNull(),
  },
  (t) => [index('policy_project').on(t.projectId)],
)

/** One number per object and kind, never used again. */
export const counter = sqliteTable(
  'counter',
  {
    projectId: integer().notNull(),
    prefix: text().notNull(),
    next: integer().notNull(),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.prefix] })],
)

/** Keys an object was known by before it moved. */
export const alias = sqliteTable(
  'alias',
  {
    projectId: integer().notNull(),
    key: text().notNull(),
    kind: text().notNull(),
    ownerId: integer().notNull(),
    at: instant().notNull(),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.key] })],
)

export const customField = sqliteTable(
  'custom_field',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    ownerKind: text().notNull(),
    name: text().notNull(),
    kind: text({ enum: ['text', 'number', 'choice', 'multi-choice', 'date', 'person', 'link'] }).notNull(),
    required: flag(),
    /** JSON array; and of the types of case it is asked of (none: all). */
    choices: words(),
    types: words(),
    position: integer().notNull(),
    deletedAt: deletedAt(),
  },
  (t) => [
    uniqueIndex('custom_field_name')
      .on(t.projectId, t.ownerKind, t.name)
      .where(sql`deleted_at is null`),
  ],
)

/** Values in typed columns, so that they can be indexed and compared; a multi-choice has several rows. */
export const customValue = sqliteTable(
  'custom_value',
  {
    fieldId: integer()
      .notNull()
      .references(() => customField.id),
    ownerId: integer().notNull(),
    position: integer().notNull().default(0),
    text: text(),
    number: real(),
    date: text(),
    person: text(),
  },
  (t) => [
    primaryKey({ columns: [t.fieldId, t.ownerId, t.position] }),
    index('custom_text').on(t.fieldId, t.text),
    index('custom_number').on(t.fieldId, t.number),
    index('custom_date').on(t.fieldId, t.date),
  ],
)

export const tagging = sqliteTable(
  'tagging',
  {
    projectId: integer().notNull(),
    ownerKind: text().notNull(),
    ownerId: integer().notNull(),
    tag: text().notNull(),
  },
  (t) => [primaryKey({ columns: [t.ownerKind, t.ownerId, t.tag] }), index('tagging_tag').on(t.projectId, t.tag)],
)

export const savedView = sqliteTable(
  'saved_view',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    list: text().notNull(),
    name: text().notNull(),
    ownerId: text().notNull(),
    shared: flag(),
    /** The part of the address after `?`. */
    query: text().notNull(),
    version: editVersion(),
    deletedAt: deletedAt(),
  },
  (t) => [index('saved_view_list').on(t.projectId, t.list)],
)
