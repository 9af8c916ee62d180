import { findPerson, type PersonRow } from '#db/people/people.ts'
import { services } from './services.ts'

/** Who asks for a page, by the sign-in cookie. */
export async function personAsking(headers: Headers): Promise<PersonRow | null> {
  const own = services()
  const id = await own.signIn.personOf(headers)
  return (id === null ? undefined : findPerson(own.db, id)) ?? null
}
