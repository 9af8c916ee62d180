import { index, integer, primaryKey, sqliteTable, text } from 'drizzle-orm/sqlite-core'
import { tokenScopes } from '#core/people/token.ts'
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
  /** What it may be used for: reading, sending results, or all that its person may do. */
  scope: text({ enum: tokenScopes }).notNull().default('write'),
  createdAt: instant().notNull(),
  lastUsedAt: instant(),
  endsAt: instant(),
  revokedAt: instant(),
})
