import { readSetting } from '#db/installation/settings.ts'
import { allPeople, countPeople, type PersonRow } from '#db/people/people.ts'
import { services } from './services.ts'
import { meOf, trySignIn } from '#server/people/sign-in.ts'
import { type BodyLimit, bytesOf } from '#server/http/body.ts'
import { Refusal } from '#core/lib/refusal.ts'

/** Whether people of the demo are offered on the sign-in page, and whether anybody can sign in at all. */
export function signInPage(): {
  empty: boolean
  sample: { password: string; people: { name: string; email: string; roles: string }[] } | null
} {
  const { db } = services()
  const password = readSetting(db, 'sample password')
  return { empty: countPeople(db) === 0, sample: password === null ? null : { password, people: allPeople(db) } }
}

interface Tried {
  readonly email: string
  /** Set when the person is signed in. */
  readonly cookies?: readonly string[]
  readonly problem?: string
}

const formLimit: BodyLimit = { bytes: 10_000, seconds: 15, tooLarge: 'That is no sign-in: it is far too long.' }

/** A sign-in as the browser itself sends a form, where its scripts are not loaded yet or never will be. */
export async function signInByForm(request: Request, address: string): Promise<Tried> {
  let email = ''
  try {
    const form = new URLSearchParams((await bytesOf(request, formLimit)).toString('utf8'))
    const field = (name: string) => (form.get(name) ?? '').slice(0, 200)
    email = field('email')
    const answer = await trySignIn(services(), { email, password: field('password'), address })
    return { email, cookies: answer.headers.getSetCookie() }
  } catch (error) {
    if (error instanceof Refusal) return { email, problem: error.sentence }
    throw error
  }
}

/** Where a person begins: Today of their first project. */
export function firstPlace(person: PersonRow | null): string {
  if (!person) return '/sign-in'
  const first = meOf(services().db, person).projects[0]
  return first ? `/p/${first.key}` : '/no-project'
}
