import { index, integer, primaryKey, real, sqliteTable, text } from 'drizzle-orm/sqlite-core'
import { testCase } from '#db/cases/tables.ts'
import { flag, instant } from '#db/columns.ts'
import { project } from '#db/projects/tables.ts'
import { item } from '#db/runs/tables.ts'

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
