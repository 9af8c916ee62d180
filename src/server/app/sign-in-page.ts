import { readSetting } from '#db/installation/settings.ts'
import { allPeople, countPeople, type PersonRow } from '#db/people/people.ts'
import { services } from './services.ts'
import { meOf } from '#server/people/sign-in.ts'

/** Whether people of the demo are offered on the sign-in page, and whether anybody can sign in at all. */
export function signInPage(): {
  empty: boolean
  sample: { password: string; people: { name: string; email: string; roles: string }[] } | null
} {
  const { db } = services()
  const password = readSetting(db, 'sample password')
  return { empty: countPeople(db) === 0, sample: password === null ? null : { password, people: allPeople(db) } }
}

/** Where a person begins: Today of their first project. */
export function firstPlace(person: PersonRow | null): string {
  if (!person) return '/sign-in'
  const first = meOf(services().db, person).projects[0]
  return first ? `/p/${first.key}` : '/no-project'
}
