import { newcomer } from '#core/people/capacity.ts'
import { blob, index, integer, primaryKey, real, sqliteTable, text } from 'drizzle-orm/sqlite-core'
import { roles } from '#core/lib/rights.ts'
import { linkPurposes } from '#core/people/link.ts'
import { tokenScopes } from '#core/people/token.ts'
import { afterVerdicts } from '#core/people/after-verdict.ts'
import { flag, instant, serial, words } from '#db/columns.ts'

export const person = sqliteTable('person', {
  id: text().primaryKey(),
  name: text().notNull(),
  email: text().notNull().unique(),
  emailVerified: integer({ mode: 'boolean' }).notNull().default(true),
  image: text(),
  administrator: flag(),
  /** The library asks for a code beside the password. */
  twoFactorEnabled: flag(),
  /** How dates are written for them, and the clock they live by; that of the project where it is null. */
  language: text().notNull().default('en-GB'),
  timeZone: text(),
  /** What comes at the desk after a verdict. */
  afterVerdict: text({ enum: afterVerdicts }).notNull().default('next'),
  /** Kinds of notices that come as letters too, parted by commas. */
  letters: text().notNull().default(''),
  /** Minutes of a working day, and the part of them, in per cent, that is really free for testing. */
  workingMinutes: integer().notNull().default(newcomer.workingMinutes),
  freePercent: real().notNull().default(newcomer.freePercent),
  /** Since then they may not come in; what they did stays theirs. */
  endedAt: instant(),
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
    /** To the minute. */
    lastUsedAt: instant(),
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
    /** What they may: the higher of what was given to them and to their groups. */
    role: text({ enum: roles }).notNull(),
    /** What was given to them alone; null when they are in by a group. */
    givenRole: text({ enum: roles }),
    /** The part of their time, in per cent, that is for this project; skills as words with commas. */
    sharePercent: real().notNull().default(newcomer.sharePercent),
    skills: words(),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.personId] }), index('membership_person').on(t.personId)],
)

/** Days on which a person is away, the first and the last among them. */
export const absence = sqliteTable(
  'absence',
  {
    id: serial(),
    personId: text()
      .notNull()
      .references(() => person.id),
    startOn: text().notNull(),
    endOn: text().notNull(),
    /** Minutes of each day they are away; null: the whole day. */
    minutes: integer(),
    reason: words(),
  },
  (t) => [index('absence_person').on(t.personId, t.endOn)],
)

export const personGroup = sqliteTable('person_group', { id: serial(), name: text().notNull().unique() })

export const groupMember = sqliteTable(
  'group_member',
  {
    groupId: integer()
      .notNull()
      .references(() => personGroup.id, { onDelete: 'cascade' }),
    personId: text()
      .notNull()
      .references(() => person.id),
  },
  (t) => [primaryKey({ columns: [t.groupId, t.personId] }), index('group_member_person').on(t.personId)],
)

export const groupRole = sqliteTable(
  'group_role',
  {
    groupId: integer()
      .notNull()
      .references(() => personGroup.id, { onDelete: 'cascade' }),
    projectId: integer().notNull(),
    role: text({ enum: roles }).notNull(),
  },
  (t) => [primaryKey({ columns: [t.groupId, t.projectId] })],
)

/** A one-time link by which a person gives themselves a password. */
export const passwordLink = sqliteTable(
  'password_link',
  {
    /** SHA-256 of what the link bears; the link itself is shown or sent once and not kept. */
    hash: text().primaryKey(),
    personId: text()
      .notNull()
      .references(() => person.id),
    purpose: text({ enum: linkPurposes }).notNull(),
    madeBy: text(),
    createdAt: instant().notNull(),
    endsAt: instant().notNull(),
    usedAt: instant(),
  },
  (t) => [index('password_link_person').on(t.personId)],
)

/** The secret of a second factor and its recovery codes, both encrypted by the library. */
export const secondFactor = sqliteTable(
  'second_factor',
  {
    id: text().primaryKey(),
    secret: text().notNull(),
    backupCodes: text().notNull(),
    userId: text()
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    verified: integer({ mode: 'boolean' }).notNull().default(false),
    failedVerificationCount: integer().notNull().default(0),
    lockedUntil: integer({ mode: 'timestamp_ms' }),
  },
  (t) => [index('second_factor_person').on(t.userId)],
)

/** A small picture that a person shows of themselves. */
export const personPicture = sqliteTable('person_picture', {
  personId: text()
    .primaryKey()
    .references(() => person.id),
  mime: text().notNull(),
  bytes: blob({ mode: 'buffer' }).notNull(),
})

/** What happened to the safety of the installation; nothing here is ever changed or deleted. */
export const securityEvent = sqliteTable(
  'security_event',
  {
    id: serial(),
    at: instant().notNull(),
    kind: text().notNull(),
    /** Whom it is about, and who did it; null: nobody known, or a command. */
    personId: text(),
    byId: text(),
    projectId: integer(),
    address: words(),
    /** What happened, as a sentence; never a secret. */
    told: text().notNull(),
  },
  (t) => [
    index('security_event_kind').on(t.kind, t.id),
    index('security_event_person').on(t.personId, t.id),
    index('security_event_at').on(t.at),
  ],
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
