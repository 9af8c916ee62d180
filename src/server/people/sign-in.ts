import type {
  readMe as meContract,
  signIn as signInContract,
  signInWithCode as codeContract,
  signOut as signOutContract,
} from '#core/people/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { signOnOf } from '#db/installation/sign-on.ts'
import { findPerson, knownByEmail, knownPerson, type PersonRow } from '#db/people/people.ts'
import { hasPicture } from '#db/people/pictures.ts'
import { endSignIns } from '#db/people/sign-ins.ts'
import { projectsOf } from '#db/projects/projects-of.ts'
import { allProjects, findProjectById } from '#db/projects/projects.ts'
import type { Tx } from '#db/open.ts'
import { signInOf, type Tried } from '#server/http/sign-in.ts'
import type { Context } from '#server/http/context.ts'
import type { Services } from '#server/http/services.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'

export async function signIn(context: OpenContext, { body }: Input<typeof signInContract>): Promise<Response> {
  const tried = await trySignIn(context, body)
  const person = tried.personId === null ? undefined : findPerson(context.tx, tried.personId)
  return withCookies(Response.json(person ? meOf(context.tx, person) : { code: 'asked' }), tried.answer)
}

/** Who tries to come in, and a way to note what came of it. */
export type Door = Pick<OpenContext, 'address' | 'store' | 'request'> & {
  readonly services: Pick<Services, 'signIn' | 'guesses' | 'db'>
}

/** What a browser says it is. */
export const deviceIn = ({ headers }: Request): string => (headers.get('user-agent') ?? '').slice(0, 300)

const wrong = (): Refusal =>
  new Refusal('not-signed-in', 'That e-mail address and password do not belong together. Check both and try again.')

/** Tries a password; without a person in what it answers, a code is asked for as well. */
export async function trySignIn(
  { services, address, store, request }: Door,
  { email, password }: { readonly email: string; readonly password: string },
): Promise<Tried> {
  const account = email.toLowerCase()
  const tried = await services.guesses.guess({
    account,
    address,
    look: () => services.signIn.tryPassword(account, password, { address, device: deviceIn(request) }),
    right: ({ ok }) => ok,
  })
  if (!tried.ok) {
    store((context) => context.secure({ kind: 'sign-in failed', told: `Wrong password for ${account}`, person: null }))
    throw wrong()
  }
  const whose = knownByEmail(services.db, account)
  const signOn = signOnOf(services.db)
  if (signOn.only && whose && !whose.administrator) {
    store(({ tx }) => endSignIns(tx, whose.id, {}))
    throw new Refusal('not-signed-in', `People sign in by ${signOn.name} here; passwords are for administrators.`)
  }
  if (tried.personId !== null) cameIn(store, tried.personId)
  return tried
}

/** Notes that somebody came in; whose access was ended is put out again. */
export function cameIn(store: OpenContext['store'], personId: string, how = ''): void {
  const may = store((context) => {
    const person = findPerson(context.tx, personId)
    if (person)
      context.secure({ kind: 'sign-in', told: `${person.name} signed in${how}`, person: personId, by: personId })
    else {
      endSignIns(context.tx, personId, {})
      const name = knownPerson(context.tx, personId)?.name ?? personId
      context.secure({ kind: 'sign-in failed', told: `${name} has no access any more`, person: personId })
    }
    return person !== undefined
  })
  if (!may)
    throw new Refusal(
      'not-signed-in',
      'Your access to this installation was ended. An administrator can let you in again.',
    )
}

export async function signInWithCode(context: OpenContext, { body }: Input<typeof codeContract>): Promise<Response> {
  const tried = await tryCode(context, body.code)
  const person = tried.personId === null ? undefined : findPerson(context.tx, tried.personId)
  if (!person) throw wrong()
  return withCookies(Response.json(meOf(context.tx, person)), tried.answer)
}

/** Tries a code after a password; the cookie of the first step says whose it is. */
export async function tryCode({ services, address, store, request }: Door, code: string): Promise<Tried> {
  const tried = await services.guesses.guess({
    account: `the code of ${address}`,
    address,
    look: () =>
      services.signIn.tryCode(code.replace(/\s/g, ''), request.headers, { address, device: deviceIn(request) }),
    right: ({ ok }) => ok,
  })
  const again = tried.ok && !(await services.guesses.once(`code ${code} of ${tried.personId}`))
  // What the code has just opened for whoever saw it used is closed again.
  if (again) await services.signIn.end(new Headers({ cookie: cookiesOf(tried.answer) }))
  if (again || !tried.ok || tried.personId === null) {
    store((context) => context.secure({ kind: 'sign-in failed', told: 'Wrong code of a second factor', person: null }))
    throw new Refusal(
      'not-signed-in',
      'That code is not right, or too old. Take the newest one; after some wrong ones, begin again with your password.',
    )
  }
  cameIn(store, tried.personId)
  return tried
}

export async function signOut(
  { services, request, store }: OpenContext,
  _input: Input<typeof signOutContract>,
): Promise<Response> {
  const { headers } = request
  services.events.endOf(signInOf(headers))
  const signedIn = await services.signIn.personOf(headers)
  if (signedIn)
    store((context) =>
      context.secure({ kind: 'sign-in ended', told: 'Signed out', person: signedIn.personId, by: signedIn.personId }),
    )
  return withCookies(Response.json({ ok: true }), await services.signIn.end(headers))
}

export function readMe({ tx, person, limit }: Context): Answer<typeof meContract> {
  const all = meOf(tx, person)
  const only = limit?.projectId == null ? null : findProjectById(tx, limit.projectId)
  return only === null ? all : { ...all, projects: all.projects.filter(({ key }) => key === only?.key) }
}

export function meOf(tx: Tx, person: PersonRow): Answer<typeof meContract> {
  const { id, name, email, administrator, language, timeZone, afterVerdict } = person
  const projects = administrator
    ? allProjects(tx).map((each) => ({ ...each, role: 'lead' as const }))
    : projectsOf(tx, person)
  return { id, name, email, administrator, language, timeZone, afterVerdict, picture: hasPicture(tx, id), projects }
}

/** What an answer gives a browser to keep, as the browser would send it back. */
const cookiesOf = ({ headers }: Response): string =>
  headers
    .getSetCookie()
    .map((cookie) => cookie.split(';')[0])
    .join('; ')

export function withCookies(answer: Response, from: Response): Response {
  for (const cookie of from.headers.getSetCookie()) answer.headers.append('set-cookie', cookie)
  return answer
}
