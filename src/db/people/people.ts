import type { afterVerdicts } from '#core/people/after-verdict.ts'
import { int, maybe, oneOf, rowOf, rowsOf, text } from '#db/rows.ts'
import { and, eq, isNull, or, sql } from 'drizzle-orm'
import { type PersonLine, type PersonState, personStates } from '#core/people/people-contract.ts'
import { roles } from '#core/lib/rights.ts'
import { groupBy } from '#core/lib/group.ts'
import { contains } from '#db/finding/contains.ts'
import type { Tx } from '#db/open.ts'
import { openWork } from './work.ts'
import { account, person, secondFactor } from './tables.ts'

export interface PersonRow {
  readonly id: string
  readonly name: string
  readonly email: string
  readonly administrator: boolean
  readonly language: string
  readonly timeZone: string | null
  readonly afterVerdict: (typeof afterVerdicts)[number]
  readonly twoFactorEnabled: boolean
  /** They have no password: who they are is said by a provider outside, which asks for a second factor or does not. */
  readonly byProvider: boolean
}
/** Who asks where nobody is signed in; a command, say. */
export const nobody: PersonRow = {
  id: '',
  name: 'Nobody',
  email: '',
  administrator: false,
  language: 'en-GB',
  timeZone: null,
  afterVerdict: 'next',
  twoFactorEnabled: false,
  byProvider: false,
}
const columns = {
  id: person.id,
  name: person.name,
  email: person.email,
  administrator: person.administrator,
  language: person.language,
  timeZone: person.timeZone,
  afterVerdict: person.afterVerdict,
  twoFactorEnabled: person.twoFactorEnabled,
  byProvider: sql<boolean>`not exists (
    select 1 from account a where a.user_id = person.id and a.provider_id = 'credential'
  )`.mapWith(Boolean),
}

/** Somebody who may come in; whose access was ended is not found. */
export const findPerson = (tx: Tx, id: string): PersonRow | undefined =>
  tx
    .select(columns)
    .from(person)
    .where(and(eq(person.id, id), isNull(person.endedAt)))
    .get()

/** The name of anybody who ever was here. */
export const nameOf = (tx: Tx, id: string | null): string | null =>
  id === null ? null : (tx.select({ name: person.name }).from(person).where(eq(person.id, id)).get()?.name ?? null)

interface KnownPerson extends Omit<PersonRow, 'byProvider' | 'afterVerdict'> {
  readonly state: PersonState
  readonly endedAt: number | null
}

/** Has a way to come in: a password, or an account elsewhere. */
const hasWayIn = sql`exists (select 1 from account a where a.user_id = p.id)`
const stateOf = sql`case when p.ended_at is not null then 'ended' when ${hasWayIn} then 'active' else 'invited' end`

const known = (tx: Tx, column: 'id' | 'email', is: string): KnownPerson | undefined => {
  const row = rowOf(
    tx,
    {
      id: text,
      name: text,
      email: text,
      administrator: int,
      language: text,
      timeZone: maybe(text),
      twoFactorEnabled: int,
      state: oneOf(personStates),
      endedAt: maybe(int),
    },
    sql`
      select p.id, p.name, p.email, p.administrator, p.language, p.time_zone as timeZone,
        p.two_factor_enabled as twoFactorEnabled, ${stateOf} as state, p.ended_at as endedAt
      from person p
      where ${sql.identifier(column)} = ${is}`,
  )
  return row && { ...row, administrator: row.administrator === 1, twoFactorEnabled: row.twoFactorEnabled === 1 }
}
/** Anybody of this installation, with how things stand with them. */
export const knownPerson = (tx: Tx, id: string): KnownPerson | undefined => known(tx, 'id', id)
/** The same by their address, in small letters. */
export const knownByEmail = (tx: Tx, email: string): KnownPerson | undefined => known(tx, 'email', email)

export const findPersonByName = (tx: Tx, name: string): PersonRow | undefined =>
  tx
    .select(columns)
    .from(person)
    .where(and(or(eq(person.name, name), eq(person.email, name.toLowerCase())), isNull(person.endedAt)))
    .get()

export const countPeople = (tx: Tx): number => rowOf(tx, { n: int }, sql`select count(*) as n from person`)?.n ?? 0

/** Administrators who may come in, but for one. */
export const otherAdministrators = (tx: Tx, but: string): number =>
  rowOf(
    tx,
    { n: int },
    sql`select count(*) as n from person where administrator = 1 and ended_at is null and id <> ${but}`,
  )?.n ?? 0

export const allPeople = (tx: Tx): { name: string; email: string; roles: string }[] =>
  rowsOf(
    tx,
    { name: text, email: text, roles: text },
    sql`
      select p.name, p.email,
        case
          when p.administrator then 'administrator'
          else coalesce(
            (
              select group_concat(role || ' in ' || pr.key, ', ')
              from membership m
              join project pr on pr.id = m.project_id
              where m.person_id = p.id
            ),
            'no project'
          )
        end as roles
      from person p
      where p.ended_at is null and ${hasWayIn}
      order by p.administrator, p.name`,
  )

export interface NewPerson {
  readonly id: string
  readonly name: string
  readonly email: string
  readonly administrator: boolean
  /** `null`: invited; they choose one by a link. */
  readonly passwordHash: string | null
}

/** A person in the shape the sign-in library reads. */
export function addPerson(tx: Tx, of: NewPerson, now: number): void {
  const at = new Date(now)
  tx.insert(person)
    .values({
      id: of.id,
      name: of.name,
      email: of.email,
      administrator: of.administrator,
      createdAt: at,
      updatedAt: at,
    })
    .run()
  if (of.passwordHash !== null) setPassword(tx, of.id, of.passwordHash, now)
}

/** The hash of the password a person comes in by; `null` when they have none. */
export const passwordOf = (tx: Tx, personId: string): string | null =>
  tx
    .select({ password: account.password })
    .from(account)
    .where(and(eq(account.userId, personId), eq(account.providerId, 'credential')))
    .get()?.password ?? null

/** The password a person comes in by from now on. */
export function setPassword(tx: Tx, personId: string, password: string, now: number): void {
  const at = new Date(now)
  tx.insert(account)
    .values({
      id: `a-${personId}`,
      accountId: personId,
      providerId: 'credential',
      userId: personId,
      password,
      createdAt: at,
      updatedAt: at,
    })
    .onConflictDoUpdate({ target: account.id, set: { password, updatedAt: at } })
    .run()
}

/** Somebody came in by a provider outside: it is a way in of theirs from now on. */
export function noteProvider(tx: Tx, personId: string, now: number): void {
  const at = new Date(now)
  tx.insert(account)
    .values({
      id: `o-${personId}`,
      accountId: personId,
      providerId: 'single sign-on',
      userId: personId,
      createdAt: at,
      updatedAt: at,
    })
    .onConflictDoNothing()
    .run()
}

type PersonSet = Partial<
  Pick<
    typeof person.$inferInsert,
    | 'name'
    | 'email'
    | 'administrator'
    | 'endedAt'
    | 'language'
    | 'timeZone'
    | 'afterVerdict'
    | 'workingMinutes'
    | 'freePercent'
  >
>
/** Sets what is named; naming nothing changes nothing. */
export function updatePersonRow(tx: Tx, id: string, set: PersonSet): void {
  if (Object.keys(set).length > 0) tx.update(person).set(set).where(eq(person.id, id)).run()
}

/** Somebody comes in by their password alone again. */
export function dropFactor(tx: Tx, personId: string): void {
  tx.delete(secondFactor).where(eq(secondFactor.userId, personId)).run()
  tx.update(person).set({ twoFactorEnabled: false }).where(eq(person.id, personId)).run()
}

/** Everybody comes in by their password alone again; how many had a second factor. */
export function dropAllFactors(tx: Tx): number {
  tx.delete(secondFactor).run()
  return tx.update(person).set({ twoFactorEnabled: false }).where(eq(person.twoFactorEnabled, true)).run().changes
}

interface PeopleAsked {
  readonly text?: string | undefined
  readonly state?: PersonState | undefined
  readonly offset: number
  readonly limit: number
}

/** A page of the people of the installation, by name. */
export function peoplePage(tx: Tx, of: PeopleAsked): { rows: PersonLine[]; total: number } {
  const words = (of.text ?? '').split(/\s+/).filter((word) => word !== '')
  const where = sql.join(
    [
      sql`1`,
      ...words.map((word) => sql`(${contains(sql`p.name`, word)} or ${contains(sql`p.email`, word)})`),
      ...(of.state ? [sql`${stateOf} = ${of.state}`] : []),
    ],
    sql` and `,
  )
  const total = rowOf(tx, { n: int }, sql`select count(*) as n from person p where ${where}`)?.n ?? 0
  const rows = rowsOf(
    tx,
    {
      id: text,
      name: text,
      email: text,
      administrator: int,
      secondFactor: int,
      state: oneOf(personStates),
      lastIn: maybe(int),
    },
    sql`
      select p.id, p.name, p.email, p.administrator, p.two_factor_enabled as secondFactor, ${stateOf} as state,
        (select max(coalesce(s.last_used_at, s.created_at)) from sign_in s where s.user_id = p.id) as lastIn
      from person p
      where ${where}
      order by p.name, p.id
      limit ${of.limit} offset ${of.offset}`,
  )
  const ids = JSON.stringify(rows.map(({ id }) => id))
  const [rolesOf, groupsOf, openOf] = [rolesAmong(tx, ids), groupsAmong(tx, ids), openAmong(tx, ids)]
  return {
    total,
    rows: rows.map((row) => ({
      ...row,
      administrator: row.administrator === 1,
      secondFactor: row.secondFactor === 1,
      roles: (rolesOf.get(row.id) ?? []).map(({ project, role, given }) => ({ project, role, given })),
      groups: (groupsOf.get(row.id) ?? []).map(({ name }) => name),
      open: (openOf.get(row.id) ?? []).map(({ project, n }) => ({ project, n })),
    })),
  }
}

const rolesAmong = (tx: Tx, ids: string) =>
  groupBy(
    rowsOf(
      tx,
      { person: text, project: text, role: oneOf(roles), given: maybe(oneOf(roles)) },
      sql`
        select m.person_id as person, pr.key as project, m.role, m.given_role as given
        from membership m
        join project pr on pr.id = m.project_id
        where m.person_id in (select value from json_each(${ids}))
        order by pr.key`,
    ),
    ({ person: of }) => of,
  )

const groupsAmong = (tx: Tx, ids: string) =>
  groupBy(
    rowsOf(
      tx,
      { person: text, name: text },
      sql`
        select m.person_id as person, g.name
        from group_member m
        join person_group g on g.id = m.group_id
        where m.person_id in (select value from json_each(${ids}))
        order by g.name`,
    ),
    ({ person: of }) => of,
  )

const openAmong = (tx: Tx, ids: string) =>
  groupBy(
    rowsOf(
      tx,
      { person: text, project: text, n: int },
      sql`
        select o.person, pr.key as project, count(*) as n
        from (${openWork(sql`in (select value from json_each(${ids}))`)}) o
        join project pr on pr.id = o.project_id
        group by o.person, pr.key
        order by pr.key`,
    ),
    ({ person: of }) => of,
  )
