import { index, integer, primaryKey, real, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core'
import { testCase } from '#db/cases/tables.ts'
import { deletedAt, flag, instant, serial } from '#db/columns.ts'
import { environment, project } from '#db/projects/tables.ts'
import { item, run } from '#db/runs/tables.ts'

/** Kept with each verdict: what attempts of a case teach about its minutes, in an environment, or (0) in all of them together. */
export const learnedMinutes = sqliteTable(
  'learned_minutes',
  {
    caseId: integer()
      .notNull()
      .references(() => testCase.id),
    environmentId: integer().notNull(),
    minutes: real().notNull(),
    low: real().notNull(),
    high: real().notNull(),
    /** Attempts it rests on. */
    n: integer().notNull(),
  },
  (t) => [primaryKey({ columns: [t.caseId, t.environmentId] })],
)

/** The project's own regression, renewed daily: minutes = base × (1 + steps)^steps × rows^rows, by environment, or (0) for any. */
export const minutesModel = sqliteTable(
  'minutes_model',
  {
    projectId: integer()
      .notNull()
      .references(() => project.id),
    environmentId: integer().notNull(),
    base: real().notNull(),
    steps: real().notNull(),
    rows: real().notNull(),
    spread: real().notNull(),
    n: integer().notNull(),
    at: instant().notNull(),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.environmentId] })],
)

/** On whose day an item is, and from which minute of it; a pin stays where it is when all is levelled again. */
export const itemPlace = sqliteTable(
  'item_place',
  {
    itemId: integer()
      .primaryKey()
      .references(() => item.id),
    personId: text().notNull(),
    day: text().notNull(),
    start: integer().notNull(),
    /** What it takes of the day. */
    minutes: integer().notNull(),
    pinned: flag(),
  },
  (t) => [index('item_place_person').on(t.personId, t.day)],
)

/** Another way a run could go, kept by name until it is put in force or dropped. */
export const whatIf = sqliteTable(
  'what_if',
  {
    id: serial(),
    runId: integer()
      .notNull()
      .references(() => run.id),
    name: text().notNull(),
    /** What is different; null: as the run has it. */
    endOn: text(),
    reservePercent: real(),
    /** So many testers more whom nobody has named yet. */
    more: integer().notNull().default(0),
    personId: text().notNull(),
    createdAt: instant().notNull(),
    deletedAt: deletedAt(),
  },
  (t) => [index('what_if_run').on(t.runId)],
)

/** People who would join the team. */
export const whatIfPerson = sqliteTable(
  'what_if_person',
  {
    whatIfId: integer()
      .notNull()
      .references(() => whatIf.id),
    personId: text().notNull(),
  },
  (t) => [primaryKey({ columns: [t.whatIfId, t.personId] })],
)

/** Environments nothing would be executed in. */
export const whatIfEnvironment = sqliteTable(
  'what_if_environment',
  {
    whatIfId: integer()
      .notNull()
      .references(() => whatIf.id),
    environmentId: integer()
      .notNull()
      .references(() => environment.id),
  },
  (t) => [primaryKey({ columns: [t.whatIfId, t.environmentId] })],
)

/** Where a calendar program reads the days of a person, or of a run, without signing in; only the hash of the address is kept. */
export const calendarAddress = sqliteTable(
  'calendar_address',
  {
    id: serial(),
    projectId: integer()
      .notNull()
      .references(() => project.id),
    /** Who made it, and whose days it is where no run is named. */
    personId: text().notNull(),
    runId: integer().references(() => run.id),
    hash: text().notNull(),
    createdAt: instant().notNull(),
    lastUsedAt: instant(),
    revokedAt: instant(),
  },
  (t) => [uniqueIndex('calendar_address_hash').on(t.hash), index('calendar_address_person').on(t.personId)],
)
