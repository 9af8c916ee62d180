import { createHash } from 'node:crypto'
import type { APIContext, APIRoute } from 'astro'
import type { z } from 'zod'
import type { Contract } from '#core/lib/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { Role } from '#core/people/contract.ts'
import { addIdempotent, findIdempotent } from '#db/installation/answers.ts'
import { type ChangeEvent } from '#db/history/changes.ts'
import { findPerson, type PersonRow } from '#db/people/people.ts'
import { roleIn } from '#db/people/members.ts'
import { tokenOwner } from '#db/people/tokens.ts'
import { findProject, type ProjectRow } from '#db/projects/projects.ts'
import { type Context, contextOf } from './context.ts'
import { problemOf } from './errors.ts'
import { type Services, services } from './services.ts'

export interface Input<C extends Contract> {
  readonly params: z.output<C['params']>
  readonly query: z.output<C['query']>
  readonly body: z.output<C['body']>
}
export type Answer<C extends Contract> = z.input<C['output']>

/** What an asynchronous use case gets: no transaction is open; it opens one for what it stores. */
export interface OpenContext extends Context {
  readonly services: Services
  readonly request: Request
  readonly address: string
  readonly store: <T>(work: (context: Context) => T) => T
}

/** A contract and a synchronous use case as an endpoint: sign-in, permission, parse, one transaction, answer. */
export const route = <C extends Contract>(
  contract: C,
  useCase: (context: Context, input: Input<C>) => Answer<C>,
): APIRoute =>
  endpoint(contract, async (asked) => {
    const text = await bodyText(contract, asked.api.request)
    const input = parse(contract, asked.api, text === '' ? undefined : json(text))
    if (contract.method === 'GET')
      return reply(contract, useCase(contextOf(asked.parts(asked.services.db)).context, input))
    const stored = inTransaction(asked, contract, text, (context) => useCase(context, input))
    return stored
  })

/** The same for what waits: files, workers, streams. Its use case may answer a `Response` of its own. */
export const openRoute = <C extends Contract>(
  contract: C,
  useCase: (context: OpenContext, input: Input<C>) => Promise<Answer<C> | Response>,
): APIRoute =>
  endpoint(contract, async (asked) => {
    const text = contract.raw ? '' : await bodyText(contract, asked.api.request)
    const input = parse(contract, asked.api, text === '' ? undefined : json(text))
    const { context } = contextOf(asked.parts(asked.services.db))
    const store = <T>(work: (context: Context) => T): T => transact(asked, work)
    const answer = await useCase(
      { ...context, services: asked.services, request: asked.api.request, address: addressOf(asked.api), store },
      input,
    )
    return answer instanceof Response ? answer : reply(contract, answer)
  })

interface Asked {
  readonly api: APIContext
  readonly services: Services
  readonly person: PersonRow
  readonly parts: (tx: Context['tx']) => Parameters<typeof contextOf>[0]
}

const nobody: PersonRow = { id: '', name: 'Nobody', email: '', administrator: false }
const noProject: ProjectRow = {
  id: 0,
  key: '',
  name: '',
  product: '',
  timeZone: 'UTC',
  workingDays: '',
  freshnessDays: 14,
  approvalRequired: false,
  reasonAsked: false,
  structureVersion: 0,
  createdAt: 0,
}
const rank: Readonly<Record<Role, number>> = { viewer: 1, tester: 2, lead: 3 }

function endpoint<C extends Contract>(contract: C, answer: (asked: Asked) => Promise<Response>): APIRoute {
  return async (api) => {
    const own = services()
    try {
      const person = await whoAsks(own, contract, api)
      const key = api.params['key']
      const project = key === undefined ? noProject : findProject(own.db, key)
      const role = project && person ? roleOf(own, project, person) : null
      allow(contract, { person, project, role, key })
      const now = own.now()
      const expected = versionNamed(contract, api.request)
      const who = person ?? nobody
      return await answer({
        api,
        services: own,
        person: who,
        parts: (tx) => ({ tx, now, person: who, project: project ?? noProject, role: role ?? 'viewer', expected }),
      })
    } catch (error) {
      return problemOf(error, own.logError)
    }
  }
}

async function whoAsks(own: Services, contract: Contract, api: APIContext): Promise<PersonRow | null> {
  if (contract.permission === 'open') return null
  const bearer = /^Bearer (\S+)$/.exec(api.request.headers.get('authorization') ?? '')?.[1]
  const id = bearer
    ? tokenOwner(own.db, createHash('sha256').update(bearer).digest('hex'))?.personId
    : await own.signIn.personOf(api.request.headers)
  return (id ? findPerson(own.db, id) : undefined) ?? null
}

export function roleOf(own: Pick<Services, 'db'>, project: ProjectRow, person: PersonRow): Role | null {
  return person.administrator ? 'lead' : roleIn(own.db, project.id, person.id)
}

/** The permission matrix: what each contract asks of whom. What is not yours is answered as if it were not there. */
function allow(
  contract: Contract,
  of: { person: PersonRow | null; project: ProjectRow | undefined; role: Role | null; key: string | undefined },
): void {
  const { permission } = contract
  if (permission === 'open') return
  if (!of.person)
    throw new Refusal('not-signed-in', 'Your sign-in has ended. Sign in again; what is written on this page is kept.')
  if (of.key !== undefined && (!of.project || of.role === null))
    throw new Refusal('not-found', `There is no project ${of.key}, or you are not one of its people.`)
  if (permission === 'person') return
  if (permission === 'administrator') {
    if (!of.person.administrator)
      throw new Refusal('not-allowed', 'Only an administrator of this installation can do this.')
    return
  }
  if (of.role === null || rank[of.role] < rank[permission])
    throw new Refusal(
      'not-allowed',
      `This asks for the role ${permission}; here you are a ${of.role ?? 'guest'}. Ask a lead of the project.`,
    )
}

function versionNamed(contract: Contract, request: Request): number {
  if (!contract.versioned) return 0
  const version = Number(/^"?(\d+)"?$/.exec(request.headers.get('if-match') ?? '')?.[1] ?? NaN)
  if (Number.isNaN(version))
    throw new Refusal('needs-version', 'Name the version this edit was made against in If-Match.')
  return version
}

const mostBody = 8_000_000

async function bodyText(contract: Contract, request: Request): Promise<string> {
  if (contract.method === 'GET') return ''
  if (Number(request.headers.get('content-length') ?? 0) > mostBody)
    throw new Refusal(
      'too-large',
      'This is more than 8 MB of text; nothing was stored. Send it in parts, or import it as a file.',
    )
  return request.text()
}

function json(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    throw new Refusal('invalid', 'The body is not JSON; nothing was stored.')
  }
}

function parse<C extends Contract>(contract: C, api: APIContext, body: unknown): Input<C> {
  const parts = {
    params: contract.params.safeParse(api.params),
    query: contract.query.safeParse(Object.fromEntries(api.url.searchParams)),
    body: contract.raw ? { success: true as const, data: undefined } : contract.body.safeParse(body),
  }
  const fields = Object.entries(parts).flatMap(([part, parsed]) =>
    parsed.success
      ? []
      : parsed.error.issues.map((issue) => ({
          field: part === 'body' ? issue.path.join('.') : `${part}.${issue.path.join('.')}`,
          message: issue.message,
        })),
  )
  if (fields.length > 0)
    throw new Refusal(
      'invalid',
      `Nothing was stored: ${fields
        .map(({ field, message }) => `${field || 'the body'} ${message}`)
        .slice(0, 3)
        .join('; ')}.`,
      { fields },
    )
  return { params: parts.params.data, query: parts.query.data, body: parts.body.data } as Input<C>
}

const checkAnswers = process.env['ROVANT_CHECK_ANSWERS'] === '1'

function reply(contract: Contract, answer: unknown, status = 200): Response {
  return replyText(answerText(contract, answer), status)
}
function answerText(contract: Contract, answer: unknown): string {
  return JSON.stringify(checkAnswers ? contract.output.parse(answer) : answer)
}
const replyText = (text: string, status: number): Response =>
  new Response(text, { status, headers: { 'content-type': 'application/json', 'cache-control': 'no-store' } })

function transact<T>(asked: Asked, work: (context: Context) => T): T {
  const changes: ChangeEvent[] = []
  let project = 0
  const result = asked.services.db.transaction(
    (tx) => {
      const made = contextOf(asked.parts(tx))
      project = made.context.project.id
      const value = work(made.context)
      changes.push(...made.changes)
      return value
    },
    { behavior: 'immediate' },
  )
  if (changes.length > 0) asked.services.events.publish(project, changes)
  return result
}

/** A writing request in one transaction; with an Idempotency-Key the answer is kept, and given again to the same request. */
function inTransaction<C extends Contract>(
  asked: Asked,
  contract: C,
  text: string,
  work: (context: Context) => Answer<C>,
): Response {
  const key = asked.api.request.headers.get('idempotency-key')
  if (key === null)
    return replyText(
      transact(asked, (context) => answerText(contract, work(context))),
      200,
    )
  if (key.length > 200) throw new Refusal('invalid', 'An Idempotency-Key has at most 200 characters.')
  const request = `${contract.method} ${asked.api.url.pathname}${asked.api.url.search}`
  const bodyHash = createHash('sha256').update(text).digest('hex')
  const answer = transact(asked, (context) => {
    const before = findIdempotent(context.tx, asked.person.id, key)
    if (before && (before.request !== request || before.bodyHash !== bodyHash))
      throw new Refusal(
        'key-reused',
        'This Idempotency-Key was used for another request; nothing was stored. Use a new key.',
      )
    if (before) return before.answer
    const made = answerText(contract, work(context))
    addIdempotent(context.tx, {
      personId: asked.person.id,
      key,
      request,
      bodyHash,
      status: 200,
      answer: made,
      at: context.now,
    })
    return made
  })
  return replyText(answer, 200)
}

function addressOf(api: APIContext): string {
  try {
    return api.clientAddress
  } catch {
    return 'local'
  }
}
