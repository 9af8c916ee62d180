import type {
  readMe as meContract,
  signIn as signInContract,
  signOut as signOutContract,
} from '#core/people/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { findPersonByEmail, type PersonRow } from '#db/people/people.ts'
import { projectsOf } from '#db/projects/projects-of.ts'
import { allProjects, findProjectById } from '#db/projects/projects.ts'
import type { Tx } from '#db/open.ts'
import { signInOf } from '#server/http/sign-in.ts'
import type { Context } from '#server/http/context.ts'
import type { Services } from '#server/http/services.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'

export async function signIn(
  { services, address, tx }: OpenContext,
  { body }: Input<typeof signInContract>,
): Promise<Response> {
  const tried = await trySignIn(services, { ...body, address })
  const person = findPersonByEmail(tx, body.email.toLowerCase())
  if (!person) throw new Refusal('not-signed-in', 'That e-mail address is not known here.')
  return withCookies(Response.json(meOf(tx, person)), tried)
}

/** Tries a password; the answer bears the cookies of the sign-in. */
export async function trySignIn(
  { signIn: door, guesses }: Pick<Services, 'signIn' | 'guesses'>,
  { email, password, address }: { email: string; password: string; address: string },
): Promise<Response> {
  const tried = await guesses.guess({
    account: email.toLowerCase(),
    address,
    look: () => door.tryPassword(email, password, address),
    right: ({ ok }) => ok,
  })
  if (!tried.ok)
    throw new Refusal(
      'not-signed-in',
      'That e-mail address and password do not belong together. Check both and try again.',
    )
  return tried
}

export async function signOut(
  { services, request }: OpenContext,
  _input: Input<typeof signOutContract>,
): Promise<Response> {
  services.events.endOf(signInOf(request.headers))
  return withCookies(Response.json({ ok: true }), await services.signIn.end(request.headers))
}

export function readMe({ tx, person, limit }: Context): Answer<typeof meContract> {
  const all = meOf(tx, person)
  const only = limit?.projectId == null ? null : findProjectById(tx, limit.projectId)
  return only === null ? all : { ...all, projects: all.projects.filter(({ key }) => key === only?.key) }
}

export function meOf(tx: Tx, person: PersonRow): Answer<typeof meContract> {
  const own = projectsOf(tx, person)
  const projects = person.administrator ? allProjects(tx).map((each) => ({ ...each, role: 'lead' as const })) : own
  return { id: person.id, name: person.name, email: person.email, administrator: person.administrator, projects }
}

function withCookies(answer: Response, from: Response): Response {
  for (const cookie of from.headers.getSetCookie()) answer.headers.append('set-cookie', cookie)
  return answer
}
