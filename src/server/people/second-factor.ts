import type {
  beginSecondFactor as beginContract,
  confirmSecondFactor as confirmContract,
  dropSecondFactor as dropContract,
  newRecoveryCodes as codesContract,
  readSecondFactor as readContract,
} from '#core/people/own-contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { projectsOf } from '#db/projects/projects-of.ts'
import { findProject } from '#db/projects/projects.ts'
import { installationAsksFactor } from '#server/http/permission.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { refuseToken } from './own-page.ts'
import { askOwnPassword } from './passwords.ts'
import { withCookies } from './sign-in.ts'
import { tellOfChange } from './tell-change.ts'

/** Names of what asks the person for a second factor. */
function wantedBy({ tx, person }: Pick<OpenContext, 'tx' | 'person'>): string[] {
  const projects = projectsOf(tx, person).flatMap(({ key, name }) =>
    findProject(tx, key)?.secondFactorAsked ? [name] : [],
  )
  return [...(installationAsksFactor(tx) ? ['this installation'] : []), ...projects]
}

export async function readSecondFactor(
  context: OpenContext,
  _: Input<typeof readContract>,
): Promise<Answer<typeof readContract>> {
  const { services, person } = context
  const on = person.twoFactorEnabled
  return { on, codesLeft: on ? await services.signIn.codesLeft(person.id) : 0, wantedBy: wantedBy(context) }
}

export async function beginSecondFactor(
  context: OpenContext,
  { body }: Input<typeof beginContract>,
): Promise<Answer<typeof beginContract>> {
  refuseToken(context)
  if (context.person.twoFactorEnabled)
    throw new Refusal('refused', 'A second factor is set up already. Take it away first to set up another one.')
  await askOwnPassword(context, body.password)
  const begun = await context.services.signIn.beginFactor(context.request.headers, body.password)
  if (!begun) throw new Refusal('refused', 'A second factor could not be begun; nothing was changed. Try again.')
  const secret = new URL(begun.address).searchParams.get('secret') ?? ''
  return { address: begun.address, secret, codes: begun.codes }
}

export async function confirmSecondFactor(
  context: OpenContext,
  { body }: Input<typeof confirmContract>,
): Promise<Response> {
  refuseToken(context)
  const { services, person, request, address } = context
  const tried = await services.guesses.guess({
    account: `the code of ${person.id}`,
    address,
    look: () => services.signIn.confirmFactor(request.headers, body.code),
    right: ({ ok }) => ok,
  })
  if (!tried.ok)
    throw new Refusal('invalid', 'That code is not right. Take the newest one the authenticator shows.', {
      fields: [{ field: 'code', message: 'is not right' }],
    })
  context.store((inside) =>
    inside.secure({ kind: 'second factor', told: `${person.name} comes in with a second factor from now on` }),
  )
  tellOfChange(context, person.id, 'A second factor was set up for you')
  return withCookies(Response.json({ ok: true }), tried.answer)
}

export async function dropSecondFactor(context: OpenContext, { body }: Input<typeof dropContract>): Promise<Response> {
  refuseToken(context)
  await askOwnPassword(context, body.password)
  const [wanted] = wantedBy(context)
  if (wanted !== undefined)
    throw new Refusal(
      'refused',
      `A second factor is asked for by ${wanted}. When your device is lost, an administrator takes it away and you set up a new one.`,
    )
  const tried = await context.services.signIn.dropFactor(context.request.headers, body.password)
  if (!tried.ok) throw new Refusal('refused', 'There is no second factor to take away.')
  context.store((inside) =>
    inside.secure({ kind: 'second factor', told: `${context.person.name} took their second factor away` }),
  )
  tellOfChange(context, context.person.id, 'Your second factor was taken away')
  return withCookies(Response.json({ ok: true }), tried.answer)
}

export async function newRecoveryCodes(
  context: OpenContext,
  { body }: Input<typeof codesContract>,
): Promise<Answer<typeof codesContract>> {
  refuseToken(context)
  await askOwnPassword(context, body.password)
  const codes = await context.services.signIn.newCodes(context.request.headers, body.password)
  if (!codes) throw new Refusal('refused', 'Without a second factor there are no recovery codes.')
  context.store((inside) =>
    inside.secure({ kind: 'second factor', told: `${context.person.name} made new recovery codes` }),
  )
  tellOfChange(context, context.person.id, 'New recovery codes were made for you; the ones before end')
  return { codes }
}
