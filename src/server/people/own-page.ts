import { fileTypeFromBuffer } from 'file-type'
import type {
  changePassword as passwordContract,
  endOtherSignIns as endOthersContract,
  endSignIn as endSignInContract,
  endToken as endTokenContract,
  listSignIns as signInsContract,
  listTokens as tokensContract,
  makeToken as makeTokenContract,
  readPicture as pictureContract,
  setPicture as setPictureContract,
  updateMe as updateContract,
} from '#core/people/own-contract.ts'
import { deviceOf } from '#core/people/device.ts'
import { definedOf } from '#core/lib/defined.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { sharesProject } from '#db/people/members.ts'
import { setPassword, updatePersonRow } from '#db/people/people.ts'
import { pictureOf, setPicture as storePicture } from '#db/people/pictures.ts'
import { endSignIns, signInsOf } from '#db/people/sign-ins.ts'
import { revokeTokens, tokensOf } from '#db/people/tokens.ts'
import { findProject, findProjectById } from '#db/projects/projects.ts'
import { type BodyLimit, bytesOf } from '#server/http/body.ts'
import type { Context } from '#server/http/context.ts'
import { roleOf } from '#server/http/permission.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { hashPassword } from '#server/http/sign-in.ts'
import { newToken } from './keep-tokens.ts'
import { askOwnPassword, refuseCommon } from './passwords.ts'
import { tellOfChange } from './tell-change.ts'

/** An API token may ask what its person may, but not change how they come in. */
export function refuseToken({ signIn }: Pick<Context, 'signIn'>): void {
  if (signIn === undefined)
    throw new Refusal('not-allowed', 'This is for somebody who is signed in; a token cannot change how one comes in.')
}

export function updateMe(context: Context, { body }: Input<typeof updateContract>): Answer<typeof updateContract> {
  refuseToken(context)
  const { tx, person } = context
  updatePersonRow(tx, person.id, definedOf(body))
  if (body.name !== undefined && body.name !== person.name)
    context.secure({ kind: 'person', told: `${person.name} is called ${body.name} now` })
  return { ok: true }
}

const pictureLimit: BodyLimit = {
  bytes: 200_000,
  seconds: 30,
  tooLarge: 'A picture has at most 200 kB; nothing was stored. Choose a smaller one.',
}

export async function setPicture(
  context: OpenContext,
  _: Input<typeof setPictureContract>,
): Promise<Answer<typeof setPictureContract>> {
  refuseToken(context)
  const bytes = await bytesOf(context.request, pictureLimit)
  const mime = (await fileTypeFromBuffer(bytes))?.mime
  if (mime !== 'image/png' && mime !== 'image/jpeg')
    throw new Refusal('wrong-kind', 'A picture is a PNG or a JPEG; nothing was stored.')
  context.store(({ tx, person }) => storePicture(tx, person.id, { mime, bytes }))
  return { ok: true }
}

export function dropPicture(context: Context): { ok: true } {
  refuseToken(context)
  storePicture(context.tx, context.person.id, null)
  return { ok: true }
}

export async function readPicture(
  { tx, person }: OpenContext,
  { params }: Input<typeof pictureContract>,
): Promise<Response> {
  const may = person.id === params.person || person.administrator || sharesProject(tx, person.id, params.person)
  const picture = may ? pictureOf(tx, params.person) : undefined
  if (!picture) throw new Refusal('not-found', 'This person shows no picture.')
  return new Response(new Uint8Array(picture.bytes), {
    headers: { 'content-type': picture.mime, 'cache-control': 'private, max-age=300' },
  })
}

export async function changePassword(
  context: OpenContext,
  { body }: Input<typeof passwordContract>,
): Promise<Answer<typeof passwordContract>> {
  refuseToken(context)
  await askOwnPassword(context, body.password)
  await refuseCommon(body.next)
  const password = await hashPassword(body.next)
  context.store((inside) => {
    const { tx, person, now, signIn } = inside
    setPassword(tx, person.id, password, now)
    endSignIns(tx, person.id, { but: signIn ?? null })
    inside.secure({ kind: 'password', told: `${person.name} changed their password; their other sign-ins ended` })
  })
  context.services.events.endOfPerson(context.person.id)
  tellOfChange(context, context.person.id, 'Your password was changed')
  return { ok: true }
}

export function listSignIns(
  { tx, person, signIn, now }: Context,
  _: Input<typeof signInsContract>,
): Answer<typeof signInsContract> {
  return {
    rows: signInsOf(tx, person.id, now).map((each) => ({
      id: each.id,
      device: deviceOf(each.userAgent ?? ''),
      address: each.ipAddress ?? '',
      since: each.createdAt.getTime(),
      lastUsedAt: each.lastUsedAt,
      here: each.token === signIn,
    })),
  }
}

export async function endSignIn(
  context: OpenContext,
  { params }: Input<typeof endSignInContract>,
): Promise<Answer<typeof endSignInContract>> {
  refuseToken(context)
  context.store((inside) => {
    if (endSignIns(inside.tx, inside.person.id, { id: params.signIn }).length === 0)
      throw new Refusal('not-found', 'That sign-in has ended already.')
    inside.secure({ kind: 'sign-in ended', told: `${inside.person.name} ended one of their sign-ins` })
  })
  context.services.events.endOfPerson(context.person.id)
  return { ok: true }
}

export async function endOtherSignIns(
  context: OpenContext,
  _: Input<typeof endOthersContract>,
): Promise<Answer<typeof endOthersContract>> {
  refuseToken(context)
  const ended = context.store((inside) => {
    inside.secure({ kind: 'sign-in ended', told: `${inside.person.name} ended all their other sign-ins` })
    return endSignIns(inside.tx, inside.person.id, { but: inside.signIn ?? null }).length
  })
  context.services.events.endOfPerson(context.person.id)
  return { ended }
}

export function listTokens(
  { tx, person, now }: Context,
  _: Input<typeof tokensContract>,
): Answer<typeof tokensContract> {
  return {
    rows: tokensOf(tx, person.id, now).map(({ id, name, scope, projectId, createdAt, lastUsedAt, endsAt }) => ({
      id,
      name,
      scope,
      project: projectId === null ? null : (findProjectById(tx, projectId)?.key ?? null),
      createdAt,
      lastUsedAt,
      endsAt,
    })),
  }
}

export async function makeToken(
  context: OpenContext,
  { body }: Input<typeof makeTokenContract>,
): Promise<Answer<typeof makeTokenContract>> {
  refuseToken(context)
  await askOwnPassword(context, body.password)
  const { name, scope, days } = body
  const token = context.store((inside) => {
    const project = body.project === null ? null : ownProject(inside, body.project)
    inside.secure({ kind: 'token', told: `${inside.person.name} made the token “${name}” for ${scope}` })
    return newToken(inside.tx, inside.person, inside.now, { name, scope, days, projectId: project?.id ?? null })
  })
  tellOfChange(context, context.person.id, `The API token “${name}” was made in your name`)
  return { token }
}

function ownProject(context: Context, key: string) {
  const project = findProject(context.tx, key)
  if (!project || roleOf(context.tx, project, context) === null)
    throw new Refusal('not-found', `There is no project ${key} of yours; no token was made.`)
  return project
}

export function endToken(
  context: Context,
  { params }: Input<typeof endTokenContract>,
): Answer<typeof endTokenContract> {
  refuseToken(context)
  const { tx, person, now } = context
  const name = tokensOf(tx, person.id, now).find(({ id }) => id === params.token)?.name
  if (name === undefined || revokeTokens(tx, person.id, now, params.token) === 0)
    throw new Refusal('not-found', 'That token does not work any more.')
  context.secure({ kind: 'token', told: `${person.name} revoked the token “${name}”` })
  return { ok: true }
}
