import { expect } from 'chai'
import fc from 'fast-check'
import { fromSchema, type Schema } from '../from-schema.ts'
import { sendBytes } from '../raw.ts'
import { type Client, clientOf, demoData, type Reply, rovant, type Running, startServer } from '../server.ts'

// Whatever is asked in the shapes that the API describes of itself, and whatever is asked beside them: an answer or a refusal with
// a sentence, never a failure of the server, and the data are sound after it. Nothing here knows what an endpoint does.

interface Parameter {
  readonly name: string
  readonly in: 'path' | 'query' | 'header'
  readonly required?: boolean
  readonly schema: Schema
}
interface Operation {
  readonly 'x-least-role': string
  readonly operationId: string
  readonly parameters: readonly Parameter[]
  readonly requestBody?: { readonly content: Readonly<Record<string, { readonly schema?: Schema }>> }
}
interface Asking {
  readonly name: string
  readonly method: string
  readonly path: string
  readonly of: Operation
}
interface Request {
  readonly path: Readonly<Record<string, unknown>>
  readonly query: Readonly<Record<string, unknown>>
  readonly body: unknown
  readonly version: number
}

/** A stream that does not end, and what would end the person's own sign-in or asks for a machine without people. */
const apart = ['health', 'streamEvents', 'signIn', 'signOut', 'setUpFirst']
const runs = 16
/** Asked last, so that the others find something. */
const takesAway = /^(delete|drop|merge|send|remove|undo|end)/

let server: Running
let mira: Client
/** An administrator, for what only one may ask. */
let ilo: Client
let asked: readonly Asking[] = []
describe('anything', () => {
  before(async () => {
    server = await startServer({ command: 'demo', data: await demoData() })
    mira = await clientOf(server.url, 'mira')
    ilo = await clientOf(server.url, 'ilo')
    const { paths } = (await mira.get('/openapi.json')).body
    asked = Object.entries<Record<string, Operation>>(paths)
      .flatMap(([path, methods]) =>
        Object.entries(methods).map(([method, of]): Asking => ({
          name: of.operationId,
          method: method.toUpperCase(),
          path,
          of,
        })),
      )
      .filter(({ name }) => !apart.includes(name))
      .sort((a, b) => Number(takesAway.test(a.name)) - Number(takesAway.test(b.name)))
  })
  after(() => server.stop())

  /** What a person would write there; a scope that names nothing would be refused before anything else is reached. */
  const usualWords: Readonly<Record<string, readonly string[]>> = {
    key: ['FERRY', 'FERRY', 'FERRY', 'DEPOT'],
    person: ['yusra', 'oda'],
    release: ['2.4', '2.3', 'any'],
    iteration: ['any'],
    build: ['any'],
    environment: ['any'],
    sort: ['title', '-number'],
    group: ['state'],
    filter: [
      '{"field":"title","op":"contains","values":["a"]}',
      '{"any":[{"field":"state","op":"is","values":["Approved"]},{"all":[]}]}',
    ],
    ids: ['1', '3,2,1'],
    count: ['yes', 'no'],
  }

  /** Keys and numbers of objects that are there most of the time, and anything else sometimes. */
  function valueOf({ name, schema }: Parameter): fc.Arbitrary<unknown> {
    const words = usualWords[name]
    const usual = words
      ? fc.constantFrom(...words)
      : schema.type === undefined || schema.type === 'integer'
        ? fc.integer({ min: 1, max: 40 })
        : fromSchema(schema)
    return fc.oneof({ weight: 19, arbitrary: usual }, { weight: 1, arbitrary: fromSchema({ type: 'string' }) })
  }

  function requestsOf({ of }: Asking): fc.Arbitrary<Request> {
    const record = (place: Parameter['in'], required: (each: Parameter) => boolean) => {
      const own = of.parameters.filter((each) => each.in === place)
      return fc.record(Object.fromEntries(own.map((each) => [each.name, valueOf(each)])), {
        requiredKeys: own.filter(required).map(({ name }) => name),
      })
    }
    const schema = of.requestBody?.content['application/json']?.schema
    const body =
      of.requestBody === undefined
        ? fc.constant(undefined)
        : schema === undefined
          ? fc.string()
          : fc.oneof(
              { weight: 8, arbitrary: fromSchema(schema) },
              { weight: 1, arbitrary: fc.jsonValue({ maxDepth: 2 }) },
            )
    return fc.record({
      path: record('path', () => true),
      query: record('query', ({ required }) => required === true),
      body,
      version: fc.integer({ min: 0, max: 4 }),
    })
  }

  async function ask({ method, path, of }: Asking, { path: params, query, body, version }: Request): Promise<Reply> {
    const address = path.replace(
      /\{(\w+)\}/g,
      (_, name: string) => encodeURIComponent(wellFormed(String(params[name]))) || 'x',
    )
    const search = new URLSearchParams(
      Object.entries(query).map(([name, value]) => [name, typeof value === 'string' ? value : JSON.stringify(value)]),
    )
    const send = (against: number) =>
      (of['x-least-role'] === 'administrator' ? ilo : mira).send(
        method,
        `${address}${search.size > 0 ? `?${search}` : ''}`,
        body,
        { 'if-match': String(against) },
      )
    const first = await send(version)
    // Somebody whose edit meets a newer one looks at it and tries again.
    const current = Number(Object(Object(first.body).current).version)
    return first.status === 412 && Number.isInteger(current) ? send(current) : first
  }
  /** Half a letter cannot be written in an address; a body may hold it. */
  const wellFormed = (text: string): string => text.replace(/[\ud800-\udfff]/g, '?')

  it('answers anything that may be asked, and anything that may not, with an answer or a sentence', async function () {
    this.timeout(600_000)
    expect(asked.length).to.be.greaterThan(150)
    const reached = new Set<string>()
    for (const each of asked) {
      await fc.assert(
        fc.asyncProperty(requestsOf(each), async (request) => {
          const { status, body, headers } = await ask(each, request)
          expect(status, `${each.name} broke: ${JSON.stringify(body)}`).to.be.lessThan(500)
          if (status < 400) reached.add(each.name)
          // An address that is none of the API's own is answered by the page for what is not there.
          else if (headers.get('content-type')?.startsWith('application/problem+json')) {
            expect(body.status, each.name).to.equal(status)
            expect(body.detail, each.name)
              .to.be.a('string')
              .and.match(/\S.*[.?!”…)]$/s)
          } else expect(status, `${each.name}: ${String(body).slice(0, 200)}`).to.be.oneOf([400, 403, 404])
        }),
        { numRuns: runs, seed: 20261123, endOnFailure: true },
      )
    }
    // A test that is always refused would prove little: most endpoints have done their work at least once.
    expect(
      reached.size / asked.length,
      `these did nothing: ${asked
        .filter(({ name }) => !reached.has(name))
        .map(({ name }) => name)
        .join(', ')}`,
    ).to.be.greaterThan(0.6)
  })

  /** Requests no library would make: what differs from a good one, by its name. */
  const odd: Readonly<Record<string, (of: { readonly line: string; readonly cookie: string }) => Buffer>> = {
    'bytes that are no text': ({ line, cookie }) => bytesOf(line, cookie, Buffer.from([0xff, 0xfe, 0x00, 0x80, 0xc3])),
    'a NUL in a text': ({ line, cookie }) =>
      bytesOf(line, cookie, Buffer.from('{"title":"a\\u0000b","lines":"\u0000"}')),
    'a body cut in the middle of a letter': ({ line, cookie }) =>
      bytesOf(line, cookie, Buffer.from('{"title":"ü').subarray(0, -1)),
    'a body deeper than a stack': ({ line, cookie }) => bytesOf(line, cookie, Buffer.from('['.repeat(60_000))),
    'names that every object has': ({ line, cookie }) =>
      bytesOf(line, cookie, Buffer.from('{"__proto__":{"a":1},"constructor":1,"toString":null,"ids":{"length":9}}')),
    'numbers that are none': ({ line, cookie }) =>
      bytesOf(line, cookie, Buffer.from('{"ids":[1e999,-0,9007199254740993],"limit":1e400}')),
    'a packed body that is not': ({ line, cookie }) =>
      bytesOf(line, cookie, Buffer.from('{}'), ['content-encoding: gzip']),
    'another kind of body': ({ line, cookie }) =>
      bytesOf(line, cookie, Buffer.from('a=1&b=%zz'), ['content-type: multipart/form-data; boundary=']),
    'a query that cannot be read': ({ line, cookie }) =>
      bytesOf(`${line}?%zz=%00&limit=-1&limit=1e9&ids=1,,2&filter=%7B%22&sort=%F0%9F`, cookie, Buffer.from('{}')),
    'headers that say nothing sensible': ({ line, cookie }) =>
      bytesOf(line, cookie, Buffer.from('{}'), [
        'if-match: "\u00e9"',
        'if-match: 1e3',
        `idempotency-key: ${'k'.repeat(300)}`,
        'rovant-job: ../../x',
        'accept: \t,;q=9',
        'range: bytes=9-1',
        'origin: null',
        'cookie: =;;=;rovant',
        'last-event-id: -1e9',
      ]),
  }
  const bytesOf = (line: string, cookie: string, body: Buffer, more: readonly string[] = []): Buffer =>
    Buffer.concat([
      Buffer.from(
        [
          `${line} HTTP/1.1`,
          `host: ${new URL(server.url).host}`,
          `origin: ${server.url}`,
          `cookie: ${cookie}`,
          'content-type: application/json',
          `content-length: ${body.length}`,
          'connection: close',
          ...more,
          '\r\n',
        ].join('\r\n'),
        'latin1',
      ),
      body,
    ])

  it('answers raw bytes at every endpoint with a sentence, never with a failure of its own', async function () {
    this.timeout(600_000)
    const params: Readonly<Record<string, string>> = { key: 'FERRY', id: '1', person: 'yusra' }
    const { cookie, get } = mira
    let answered = 0
    for (const { method, path, name } of asked) {
      const line = `${method} /api/v1${path.slice(path.startsWith('/api/v1') ? 7 : 0).replace(/\{(\w+)\}/g, (_, each: string) => params[each] ?? '%F0%9F%00')}`
      for (const [what, made] of Object.entries(odd)) {
        const told = await sendBytes(server.url, made({ line, cookie }), { keep: true })
        const status = Number(/^HTTP\/1\.1 (\d{3})/.exec(told)?.[1] ?? 0)
        expect(status, `${name}, ${what}: ${told.slice(0, 400)}`).to.be.within(200, 499)
        answered++
      }
    }
    expect(answered).to.be.greaterThan(1500)
    // Asked as somebody who is signed in, from the first to the last.
    expect((await get('/me')).status).to.equal(200)
  })

  it('is up after it, with sound data, and answers every list and report', async function () {
    this.timeout(120_000)
    expect(await (await fetch(`${server.url}/healthz`)).json()).to.include({ ok: true })
    const lists = ['requirements', 'cases', 'routines', 'plans', 'suites', 'runs', 'defects']
    for (const list of lists) {
      const order = await mira.get(`/projects/FERRY/${list}/order`)
      expect(order.status, list).to.equal(200)
      expect((await mira.get(`/projects/FERRY/${list}?limit=500`)).status, list).to.equal(200)
    }
    for (const report of ['coverage', 'gaps', 'stale', 'board'])
      expect((await mira.get(`/projects/FERRY/reports/${report}`)).status, report).to.be.oneOf([200, 404])
    const page = await rovant(['verify', '--data', server.data])
    expect(page.out + page.err).to.match(/sound/)
  })
})
