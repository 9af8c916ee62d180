import { readSetting } from '#db/installation/settings.ts'
import { signOnOf } from '#db/installation/sign-on.ts'
import { isSealed } from '#server/http/seal.ts'
import { allPeople, countPeople } from '#db/people/people.ts'
import { services } from './services.ts'
import { email as emailShape } from '#core/people/contract.ts'
import { askNewPassword } from '#server/people/password-links.ts'
import { type Door, meOf, tryCode, trySignIn } from '#server/people/sign-in.ts'
import { storingFor } from '#server/http/answer.ts'
import type { Asker } from '#server/http/permission.ts'
import { type BodyLimit, bytesOf } from '#server/http/body.ts'
import { Refusal } from '#core/lib/refusal.ts'

/** Whether people of the demo are offered on the sign-in page, and whether anybody can sign in at all. */
export function signInPage(): {
  empty: boolean
  sample: { password: string; people: { name: string; email: string; roles: string }[] } | null
  signOn: { name: string; only: boolean } | null
} {
  const { db } = services()
  const password = readSetting(db, 'sample password')
  const { issuer, name, only } = signOnOf(db)
  return {
    empty: countPeople(db) === 0,
    sample: password === null || only ? null : { password, people: allPeople(db) },
    signOn: issuer === '' ? null : { name: name || new URL(issuer).hostname, only },
  }
}

/** Why a provider outside signed nobody in: told by this server alone, and so sealed. */
export function refusedBySignOn(kept: string | null): string | undefined {
  return kept === null || !isSealed(kept) ? undefined : (services().seal.open(kept) ?? undefined)
}

interface Tried {
  readonly email: string
  /** Set when the person is signed in, or has to give a code yet. */
  readonly cookies?: readonly string[]
  readonly codeAsked?: boolean
  readonly problem?: string
}

const formLimit: BodyLimit = { bytes: 10_000, seconds: 15, tooLarge: 'That is no sign-in: it is far too long.' }

/** A sign-in as the browser itself sends a form, where its scripts are not loaded yet or never will be. */
export async function signInByForm(request: Request, address: string): Promise<Tried> {
  let email = ''
  const own = services()
  const door: Door = { services: own, address, request, store: storingFor(own, address) }
  try {
    const form = new URLSearchParams((await bytesOf(request, formLimit)).toString('utf8'))
    const field = (name: string) => (form.get(name) ?? '').slice(0, 200)
    email = field('email')
    const code = field('code')
    const tried =
      code === '' ? await trySignIn(door, { email, password: field('password') }) : await tryCode(door, code)
    return { email, cookies: tried.answer.headers.getSetCookie(), codeAsked: tried.personId === null }
  } catch (error) {
    if (error instanceof Refusal)
      return { email, problem: error.sentence, codeAsked: request.url.includes('step=code') }
    throw error
  }
}

/** The same for who asks for a new password; what came of it, or why it was refused. */
export async function forgottenByForm(
  request: Request,
  address: string,
): Promise<{ email: string; told?: string; problem?: string }> {
  const own = services()
  let typed = ''
  try {
    const form = new URLSearchParams((await bytesOf(request, formLimit)).toString('utf8'))
    typed = (form.get('email') ?? '').slice(0, 200)
    const email = emailShape.safeParse(typed)
    if (!email.success) return { email: typed, problem: email.error.issues[0]?.message ?? 'That is no e-mail address.' }
    const asked = { services: own, address, store: storingFor(own, address) }
    return { email: typed, told: (await askNewPassword(asked, { body: { email: email.data } })).told }
  } catch (error) {
    if (error instanceof Refusal) return { email: typed, problem: error.sentence }
    throw error
  }
}

/** Where a person begins: Today of their first project. */
export function firstPlace(asker: Asker | null): string {
  if (!asker) return '/sign-in'
  const first = meOf(services().db, asker.person).projects[0]
  return first ? `/p/${first.key}` : '/no-project'
}
