import { int, rowOf, rowsOf, text } from '#db/rows.ts'
import { eq, sql } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'
import { account, person } from './tables.ts'

export interface PersonRow {
  readonly id: string
  readonly name: string
  readonly email: string
  readonly administrator: boolean
}

export const findPerson = (tx: Tx, id: string): PersonRow | undefined =>
  tx
    .select({ id: person.id, name: person.name, email: person.email, administrator: person.administrator })
    .from(person)
    .where(eq(person.id, id))
    .get()

export const findPersonByEmail = (tx: Tx, email: string): PersonRow | undefined =>
  tx
    .select({ id: person.id, name: person.name, email: person.email, administrator: person.administrator })
    .from(person)
    .where(eq(person.email, email))
    .get()

export const findPersonByName = (tx: Tx, name: string): PersonRow | undefined =>
  tx
    .select({ id: person.id, name: person.name, email: person.email, administrator: person.administrator })
    .from(person)
    .where(sql`${person.name} = ${name} or ${person.email} = ${name.toLowerCase()}`)
    .get()

export const countPeople = (tx: Tx): number => rowOf(tx, { n: int }, sql`select count(*) as n from person`)?.n ?? 0

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
      order by p.administrator, p.name`,
  )

export interface NewPerson {
  readonly id: string
  readonly name: string
  readonly email: string
  readonly administrator: boolean
  readonly passwordHash: string
}

/** A person with a password, in the shape the sign-in library reads. */
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
  tx.insert(account)
    .values({
      id: `a-${of.id}`,
      accountId: of.id,
      providerId: 'credential',
      userId: of.id,
      password: of.passwordHash,
      createdAt: at,
      updatedAt: at,
    })
    .run()
}
