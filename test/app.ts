import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { BodyOf, Contract, OutputOf, QueryOf } from '#core/lib/contract.ts'
import { roles } from '#core/lib/rights.ts'
import type { Db } from '#db/open.ts'
import { addMember } from '#db/people/members.ts'
import { addPerson } from '#db/people/people.ts'
import { addProject, findProject, type ProjectRow } from '#db/projects/projects.ts'
import { addBuild, addEnvironment, addIteration, addRelease } from '#db/projects/releases.ts'
import { inlineJobs } from '#server/app/all-jobs.ts'
import { answerApi } from '#server/app/answer-api.ts'
import { eventHub } from '#server/http/events.ts'
import { guessCounter } from '#server/http/guesses.ts'
import { sealBy } from '#server/http/seal.ts'
import type { Services } from '#server/http/services.ts'
import type { SignInLibrary } from '#server/http/sign-in.ts'
import { evidenceOf } from '#server/integrations/evidence-place.ts'
import { noMail } from '#server/integrations/mail.ts'
import { memoryDb } from './memory.ts'

// The whole server in this process: a database in memory, jobs done inline, and a clock that stands until it is moved. Nothing listens.

export const startOfTests = Date.UTC(2026, 10, 23, 9)
export const minute = 60_000
export const day = 86_400_000
const projectKey = 'SHOP'

/** Nobody comes in by a password or a code here; who asks is named in a header. */
const nobodyCame = async () => ({ ok: false, personId: null, answer: new Response(null, { status: 401 }) })
const noSignIn: SignInLibrary = {
  personOf: async () => null,
  tryPassword: nobodyCame,
  tryCode: nobodyCame,
  end: async () => new Response(null),
  comeIn: async () => new Response(null),
  beginFactor: async () => null,
  confirmFactor: nobodyCame,
  dropFactor: nobodyCame,
  newCodes: async () => null,
  codesLeft: async () => 0,
}

interface Reply {
  readonly status: number
  // Answers are read freely here; the server checks each against its contract before it leaves.
  // eslint-disable-next-line @typescript-eslint/no-explicit-any
  readonly body: any
  readonly headers: Headers
}

interface AskOf<C extends Contract> {
  readonly params?: Readonly<Record<string, string | number>>
  readonly query?: QueryOf<C>
  readonly body?: BodyOf<C>
  readonly version?: number
  readonly idempotencyKey?: string
  readonly file?: Uint8Array | string
  readonly mime?: string
}

interface Refused {
  readonly status: number
  readonly detail: string
  readonly fields: readonly string[]
  readonly current: unknown
}

/** Somebody who asks the server by its contracts; the project is `SHOP` unless another is named. */
export interface Person {
  /** Asks what must be answered. */
  readonly ask: <C extends Contract>(contract: C, of?: AskOf<C>) => Promise<OutputOf<C>>
  /** Asks what must be refused; anything else is an error. */
  readonly refused: <C extends Contract>(contract: C, of?: AskOf<C>) => Promise<Refused>
  readonly send: (method: string, path: string, body?: unknown, headers?: Record<string, string>) => Promise<Reply>
}

export interface App {
  readonly db: Db
  readonly services: Services
  readonly ask: (method: string, path: string, body?: unknown, headers?: Record<string, string>) => Promise<Reply>
  readonly as: (personId: string) => Person
  readonly project: (key?: string) => ProjectRow
  /** Lets time go by; all that is stored bears the time of this clock. */
  readonly pass: (ms: number) => void
  readonly now: () => number
}

export function memoryApp(db: Db = memoryDb()): App {
  let now = startOfTests
  const broke: unknown[] = []
  const folder = mkdtempSync(join(tmpdir(), 'rovant-app-'))
  const services: Services = {
    db,
    data: folder,
    evidence: evidenceOf(folder),
    seal: sealBy('the key of tests'),
    guesses: guessCounter(),
    events: eventHub(),
    jobs: inlineJobs(db, () => now),
    now: () => now,
    logError: (error) => broke.push(error),
    signIn: {
      ...noSignIn,
      personOf: async (headers) => {
        const personId = headers.get('x-test-person')
        return personId === null ? null : { personId, signIn: `sign-in of ${personId}` }
      },
    },
    mail: noMail,
    baseAddress: 'https://rovant.test',
    logSecurity: () => undefined,
  }
  process.env['ROVANT_CHECK_ANSWERS'] = '1'
  const ask: App['ask'] = async (method, path, body, headers = {}) => {
    const url = new URL(`http://rovant.test/api/v1${path}`)
    const raw = body instanceof Uint8Array || typeof body === 'string'
    const init = body === undefined ? {} : { body: raw ? new Blob([body as BlobPart]) : JSON.stringify(body) }
    const request = new Request(url, { method, headers, ...init })
    const answer = await answerApi(services, { request, url, address: 'test' })
    const text = await answer.text()
    // A bug is shown as the bug, and not as the sentence that people are told of it.
    if (answer.status === 500) throw broke.at(-1)
    return { status: answer.status, body: parsed(text), headers: answer.headers }
  }
  const project = (key = projectKey): ProjectRow => {
    const row = findProject(db, key)
    if (!row) throw new Error(`no project ${key}`)
    return row
  }
  const pass = (ms: number) => {
    now += ms
  }
  return { db, services, ask, as: (id) => personOf(ask, id), project, pass, now: () => now }
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return text
  }
}

function personOf(ask: App['ask'], id: string): Person {
  const send: Person['send'] = (method, path, body, headers = {}) =>
    ask(method, path, body, { 'x-test-person': id, ...headers })
  const asked = <C extends Contract>(contract: C, of: AskOf<C> = {}): Promise<Reply> => {
    const params: Readonly<Record<string, string | number>> = { key: projectKey, ...of.params }
    const path = contract.path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(String(params[name])))
    const query = Object.entries(Object(of.query)).flatMap(([name, value]): [string, string][] =>
      value === undefined ? [] : [[name, String(value)]],
    )
    const search = query.length === 0 ? '' : `?${new URLSearchParams(query)}`
    const body = of.file ?? of.body ?? (contract.method === 'GET' ? undefined : {})
    return send(contract.method, `${path}${search}`, body, {
      ...(of.version !== undefined && { 'if-match': String(of.version) }),
      ...(of.idempotencyKey !== undefined && { 'idempotency-key': of.idempotencyKey }),
      ...(of.mime !== undefined && { 'content-type': of.mime }),
    })
  }
  return {
    send,
    ask: async (contract, of) => {
      const { status, body } = await asked(contract, of)
      if (status !== 200) throw new Error(`${contract.name} was refused with ${status}: ${String(body.detail)}`)
      return body
    },
    refused: async (contract, of) => {
      const { status, body } = await asked(contract, of)
      if (status < 400) throw new Error(`${contract.name} was answered: ${JSON.stringify(body).slice(0, 300)}`)
      const fields = (body.field ?? []).map(({ field }: { field: string }) => field)
      return { status, detail: body.detail, fields, current: body.current }
    },
  }
}

export interface Shop extends App {
  readonly lead: Person
  readonly tester: Person
  readonly viewer: Person
  /** Somebody of the installation who is not of the project. */
  readonly stranger: Person
  readonly release: number
  readonly nextRelease: number
  readonly iteration: number
  /** Two offered builds of the release, the older first. */
  readonly builds: readonly [number, number]
  readonly environments: readonly [number, number]
}

/** A small project with people of each role, two releases, two builds and two environments; everything else is for the test to make. */
export function shop(): Shop {
  const app = memoryApp()
  const { db } = app
  const projectId = addProject(db, {
    key: projectKey,
    name: 'Shop',
    product: 'Till',
    createdAt: startOfTests - 90 * day,
  })
  for (const id of [...roles, 'stranger', 'second']) {
    const person = { id, name: `${id[0]?.toUpperCase()}${id.slice(1)} Person`, email: `${id}@shop.example` }
    addPerson(db, { ...person, administrator: false, passwordHash: 'none' }, startOfTests)
    if (id !== 'stranger') addMember(db, projectId, id, { role: roles.find((role) => role === id) ?? 'lead' })
  }
  const release = addRelease(db, projectId, {
    name: '1.0',
    state: 'In test',
    startOn: '2026-11-01',
    dueOn: '2026-12-15',
  })
  const nextRelease = addRelease(db, projectId, { name: '2.0', state: 'Planned', startOn: null, dueOn: '2027-03-01' })
  const iteration = addIteration(db, { releaseId: release, name: 'First', startOn: null, dueOn: null })
  const build = (name: string, days: number) =>
    addBuild(db, projectId, { releaseId: release, name, offeredAt: startOfTests - days * day })
  const environment = (name: string) => addEnvironment(db, projectId, { name, seats: null, values: { engine: name } })
  return {
    ...app,
    lead: app.as('lead'),
    tester: app.as('tester'),
    viewer: app.as('viewer'),
    stranger: app.as('stranger'),
    release,
    nextRelease,
    iteration,
    builds: [build('1.0.0', 5), build('1.0.1', 2)],
    environments: [environment('Red'), environment('Blue')],
  }
}
