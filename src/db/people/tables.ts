import { index, integer, primaryKey, sqliteTable, text } from 'drizzle-orm/sqlite-core'
import { flag, instant, serial } from '#db/columns.ts'

export const person = sqliteTable('person', {
  id: text().primaryKey(),
  name: text().notNull(),
  email: text().notNull().unique(),
  emailVerified: integer({ mode: 'boolean' }).notNull().default(true),
  image: text(),
  administrator: flag(),
  createdAt: integer({ mode: 'timestamp_ms' }).notNull(),
  updatedAt: integer({ mode: 'timestamp_ms' }).notNull(),
})

export const signIn = sqliteTable(
  'sign_in',
  {
    id: text().primaryKey(),
    token: text().notNull().unique(),
    userId: text()
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    expiresAt: integer({ mode: 'timestamp_ms' }).notNull(),
    ipAddress: text(),
    userAgent: text(),
    createdAt: integer({ mode: 'timestamp_ms' }).notNull(),
    updatedAt: integer({ mode: 'timestamp_ms' }).notNull(),
  },
  (t) => [index('sign_in_person').on(t.userId)],
)

export const account = sqliteTable(
  'account',
  {
    id: text().primaryKey(),
    accountId: text().notNull(),
    providerId: text().notNull(),
    userId: text()
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    accessToken: text(),
    refreshToken: text(),
    idToken: text(),
    accessTokenExpiresAt: integer({ mode: 'timestamp_ms' }),
    refreshTokenExpiresAt: integer({ mode: 'timestamp_ms' }),
    scope: text(),
    password: text(),
    createdAt: integer({ mode: 'timestamp_ms' }).notNull(),
    updatedAt: integer({ mode: 'timestamp_ms' }).notNull(),
  },
  (t) => [index('account_person').on(t.userId)],
)

export const verification = sqliteTable('verification', {
  id: text().primaryKey(),
  identifier: text().notNull(),
  value: text().notNull(),
  expiresAt: integer({ mode: 'timestamp_ms' }).notNull(),
  createdAt: integer({ mode: 'timestamp_ms' }),
  updatedAt: integer({ mode: 'timestamp_ms' }),
})

export const membership = sqliteTable(
  'membership',
  {
    projectId: integer().notNull(),
    personId: text()
      .notNull()
      .references(() => person.id),
    role: text({ enum: ['viewer', 'tester', 'lead'] }).notNull(),
    /** Minutes a person gives on a working day; skills as words with commas. */
    minutesPerDay: integer().notNull().default(300),
    skills: text().notNull().default(''),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.personId] })],
)

export const apiToken = sqliteTable('api_token', {
  id: serial(),
  personId: text()
    .notNull()
    .references(() => person.id),
  projectId: integer(),
  name: text().notNull(),
  /** SHA-256 of the token; the token itself is shown once and not kept. */
  hash: text().notNull().unique(),
  createdAt: instant().notNull(),
  lastUsedAt: instant(),
  revokedAt: instant(),
})

/** The append-only history: who did what, when, from which value; also what the event stream resumes from. */
export const change = sqliteTable(
  'change',
  {
    id: serial(),
    projectId: integer().notNull(),
    at: instant().notNull(),
    personId: text(),
    kind: text().notNull(),
    ownerId: integer().notNull(),
    /** The object's key, such as TC-104, as it was told to listeners. */
    ref: text().notNull(),
    action: text().notNull(),
    /** JSON: field → [from, to]. */
    detail: text(),
  },
  (t) => [index('change_owner').on(t.kind, t.ownerId, t.id), index('change_project').on(t.projectId, t.id)],
)

/** The few facts of an installation that are neither a project's nor a person's. */
export const setting = sqliteTable('setting', { name: text().primaryKey(), value: text().notNull() })

export const idempotencyKey = sqliteTable(
  'idempotency_key',
  {
    personId: text().notNull(),
    key: text().notNull(),
    request: text().notNull(),
    bodyHash: text().notNull(),
    status: integer().notNull(),
    answer: text().notNull(),
    at: instant().notNull(),
  },
  (t) => [primaryKey({ columns: [t.personId, t.key] }), index('idempotency_at').on(t.at)],
)
