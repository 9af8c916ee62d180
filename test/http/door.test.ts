import { readdirSync, readFileSync, statSync } from 'node:fs'
import { Agent, type ClientRequest, type IncomingMessage, request as asking } from 'node:http'
import { connect } from 'node:net'
import { join } from 'node:path'
import { expect } from 'chai'
import { sendBytes } from '../raw.ts'
import { type Client, clientOf, demoData, freshData, rovant, type Running, startServer } from '../server.ts'

// What stands before everything that answers, asked as no browser would.

let server: Running
let mira: Client
describe('door', () => {
  before(async () => {
    server = await startServer({ command: 'demo', data: await demoData() })
    mira = await clientOf(server.url, 'mira')
  })
  after(() => server.stop())

  interface Told {
    readonly status: number
    readonly headers: IncomingMessage['headers']
    readonly body: string
  }
  type Sends = (request: ClientRequest) => void

  /** A request with exactly these headers; `send` writes its body, and may never end it. */
  const raw = (
    method: string,
    path: string,
    headers: Record<string, string> = {},
    send: Sends = (request) => request.end(),
  ): Promise<Told> =>
    new Promise((resolve, reject) => {
      // A line of its own, kept open as browsers do: one that says it will be closed is cut with the answer on it.
      const agent = new Agent({ keepAlive: true })
      const request = asking(`${server.url}${path}`, { method, headers, agent })
      request.on('response', (answer) => {
        let body = ''
        answer.setEncoding('utf8').on('data', (part: string) => {
          body += part
        })
        answer.on('close', () => {
          resolve({ status: answer.statusCode ?? 0, headers: answer.headers, body })
          request.destroy()
          agent.destroy()
        })
      })
      request.on('error', reject)
      send(request)
    })

  const bytes = (text: string): Promise<string> => sendBytes(server.url, text)
  const cookieOf = async (who: string): Promise<string> => (await clientOf(server.url, who)).cookie

  it('says on every answer how it may be used, also where nothing is', async () => {
    for (const [method, path] of [
      ['GET', '/sign-in'],
      ['GET', '/p/FERRY'],
      ['GET', '/nothing.png'],
      ['GET', '/_astro/nothing.js'],
      ['GET', '/mark.svg'],
      ['GET', '/healthz'],
      ['GET', '/api/v1/me'],
      ['GET', '/api/v1/nothing'],
      ['GET', '/api/nothing'],
      ['POST', '/nowhere'],
      ['PUT', '/api/v1/me'],
      ['TRACE', '/'],
      ['GET', '/%ff'],
      ['GET', '//elsewhere.example/'],
    ] as const) {
      const { status, headers } = await raw(method, path)
      expect(status, path).to.be.lessThan(500)
      expect(headers['x-content-type-options'], path).to.equal('nosniff')
      expect(headers['referrer-policy'], path).to.equal('same-origin')
      expect(headers['cross-origin-resource-policy'], path).to.equal('same-origin')
      if (path !== '/mark.svg') expect(headers['cache-control'], path).to.equal('no-store')
      expect(headers['strict-transport-security'], path).to.equal(undefined)
    }
    const { headers } = await raw('GET', '/api/v1/me')
    expect(headers['content-security-policy']).to.equal("default-src 'none'; frame-ancestors 'none'")
  })
  it('refuses methods that nothing here is asked with, and bytes that are no request, and lives on', async () => {
    const trace = await raw('TRACE', '/api/v1/me')
    expect([trace.status, JSON.parse(trace.body).detail]).to.deep.equal([405, 'Nothing here is asked with TRACE.'])
    for (const each of [
      'TRACE / HTTP/1.1\r\nHost: x\r\nConnection: close\r\n\r\n',
      'CONNECT elsewhere.example:443 HTTP/1.1\r\nHost: x\r\n\r\n',
      'GET / HTTP/1.1\r\nConnection: close\r\n\r\n',
      'GET http://elsewhere.example/ HTTP/1.1\r\nHost: x\r\nConnection: close\r\n\r\n',
      'GET /\u0000 HTTP/1.1\r\nHost: x\r\nConnection: close\r\n\r\n',
      'GET /api/v1/me HTTP/1.1\r\nHost: [\r\nConnection: close\r\n\r\n',
      'GET /sign-in HTTP/1.1\r\nHost: a b\r\nConnection: close\r\n\r\n',
      'POST /api/v1/sign-in HTTP/1.1\r\nHost: x\r\nContent-Length: -1\r\n\r\n',
      'POST /api/v1/sign-in HTTP/1.1\r\nHost: x\r\nContent-Length: 5\r\nTransfer-Encoding: chunked\r\n\r\n0\r\n\r\n',
      `GET / HTTP/1.1\r\nHost: x\r\nX: ${'y'.repeat(70_000)}\r\n\r\n`,
      '\u0016\u0003\u0001\u0002\u0000',
      '\r\n\r\n',
    ])
      expect(await bytes(each), JSON.stringify(each.slice(0, 60))).to.not.match(/^HTTP\/1\.1 5/)
    expect((await raw('GET', '/healthz')).status).to.equal(200)
  })

  /** Megabytes the process holds. */
  const held = (): number => {
    const status = readFileSync(`/proc/${server.process.pid ?? 0}/status`, 'utf8')
    return Number(/VmRSS:\s+(\d+)/.exec(status)?.[1]) / 1024
  }
  /** Sends so many megabytes of nothing in particular, as fast as they are taken; the line may be cut before all is. */
  const megabytes = (n: number): Sends => {
    const part = Buffer.alloc(1_000_000, ' ')
    return (request) => {
      let left = n
      const more = () => {
        while (left-- > 0) if (!request.write(part)) return void request.once('drain', more)
        request.end()
      }
      more()
    }
  }
  it('reads of a body that says no length as much as it wants, keeps none of the rest, and says so', async function () {
    this.timeout(120_000)
    const cookie = await cookieOf('mira')
    const item = (await mira.get('/projects/FERRY/runs/RN-5/items?limit=1')).body.rows[0].id
    const attempt = (await mira.send('POST', `/projects/FERRY/items/${item}/attempts`, {})).body.id
    const kinds = [
      ['/api/v1/sign-in', 'application/json'],
      ['/api/v1/set-up', 'application/json'],
      ['/api/v1/projects/FERRY/cases/lines', 'application/json'],
      [`/api/v1/projects/FERRY/attempts/${attempt}/evidence`, 'text/plain'],
      ['/api/v1/projects/FERRY/imports', 'text/csv'],
      ['/sign-in', 'application/x-www-form-urlencoded'],
    ] as const
    const before = held()
    const most: number[] = []
    for (const [path, type] of kinds) {
      const watch = setInterval(() => most.push(held()), 50)
      const told = raw('POST', path, { cookie, 'content-type': type }, megabytes(400))
      const { status, body } = await told.finally(() => clearInterval(watch))
      expect(status, path).to.equal(path === '/sign-in' ? 200 : 413)
      expect(body, path).to.match(/more than|at most|far too long/)
    }
    // A file is held as long as it is read, and no more than is wanted of it.
    expect(Math.max(...most) - before).to.be.lessThan(250)
  })
  it('keeps the line of a request that was answered before its body came', async function () {
    this.timeout(60_000)
    const { hostname, port } = new URL(server.url)
    const socket = connect({ host: hostname, port: Number(port) })
    let told = ''
    socket.setEncoding('latin1').on('data', (part: string) => {
      told += part
    })
    const hears = async (wanted: RegExp) => {
      for (let tries = 0; tries < 100 && !wanted.test(told); tries++)
        await new Promise((resolve) => setTimeout(resolve, 50))
      expect(told).to.match(wanted)
    }
    socket.write('PATCH /api/v1/projects/FERRY HTTP/1.1\r\nHost: x\r\nContent-Length: 2\r\n\r\n')
    await hears(/401 Unauthorized/)
    socket.write('{}')
    await new Promise((resolve) => setTimeout(resolve, 16_000))
    socket.write('GET /healthz HTTP/1.1\r\nHost: x\r\n\r\n')
    await hears(/"ok":true/)
    socket.destroy()
  })
  it('waits for slow headers no longer than it must', async function () {
    this.timeout(60_000)
    const { hostname, port } = new URL(server.url)
    const told = await new Promise<string>((resolve) => {
      let heard = ''
      const socket = connect({ host: hostname, port: Number(port) }, () =>
        socket.write('GET / HTTP/1.1\r\nHost: x\r\n'),
      )
      const drip = setInterval(() => socket.write('X-A: b\r\n'), 1000)
      socket.on('data', (part) => {
        heard += part.toString()
      })
      socket.on('error', () => undefined)
      socket.on('close', () => {
        clearInterval(drip)
        resolve(heard)
      })
    })
    expect(told).to.match(/^HTTP\/1\.1 408/)
  })
  it('lets a person have so many streams, says so, and ends them with the sign-in', async () => {
    const cookie = await cookieOf('piet')
    const opened: { status: number; answer: IncomingMessage }[] = await Promise.all(
      Array.from(
        { length: 60 },
        () =>
          new Promise<{ status: number; answer: IncomingMessage }>((resolve, reject) => {
            const request = asking(`${server.url}/api/v1/events?project=FERRY`, { headers: { cookie }, agent: false })
            request.on('response', (answer) => resolve({ status: answer.statusCode ?? 0, answer }))
            request.on('error', reject)
            request.end()
          }),
      ),
    )
    const open = opened.filter(({ status }) => status === 200)
    const refused = opened.filter(({ status }) => status === 429)
    expect([open.length, refused.length]).to.deep.equal([20, 40])
    const [first] = refused
    let sentence = ''
    for await (const part of first?.answer.setEncoding('utf8') ?? []) sentence += String(part)
    expect(JSON.parse(sentence).detail).to.equal(
      'You have 20 streams of changes open, which is the most; close some first.',
    )
    const ended = Promise.all(
      open.map(({ answer }) => new Promise<void>((resolve) => answer.resume().on('close', () => resolve()))),
    )
    expect((await raw('DELETE', '/api/v1/sign-in', { cookie })).status).to.equal(200)
    await ended
    const again = await cookieOf('piet')
    const back = asking(`${server.url}/api/v1/events?project=FERRY`, { headers: { cookie: again }, agent: false })
    const status = await new Promise((resolve) => back.on('response', (answer) => resolve(answer.statusCode)).end())
    back.destroy()
    expect(status).to.equal(200)
  })
  it('goes back after a sign-in to a place of its own, and to no other', async () => {
    const form = new URLSearchParams({ email: 'mira@tarnsey.example', password: 'ferry-2024' }).toString()
    const to = async (path: string) =>
      (
        await raw(
          'POST',
          `/sign-in?to=${encodeURIComponent(path)}`,
          { 'content-type': 'application/x-www-form-urlencoded' },
          (request) => request.end(form),
        )
      ).headers.location
    expect(await to('/p/FERRY/TC-4')).to.equal('/p/FERRY/TC-4')
    for (const away of [
      '//elsewhere.example',
      '/\\elsewhere.example',
      '/\t/elsewhere.example',
      '/.//elsewhere.example',
    ])
      expect(new URL(String(await to(away)), server.url).origin, away).to.equal(server.url)
  })
  it('serves no TLS with half of it, and sends what is behind a proxy with TLS to it for good', async () => {
    for (const half of ['--cert', '--key']) {
      const { code, err } = await rovant(['serve', half, 'x.pem', '--data', freshData(), '--port', '0'])
      expect([code, err]).to.deep.equal([1, 'TLS needs both --cert and --key; with one alone nothing is served.\n'])
    }
    const behind = await startServer({
      command: 'serve',
      data: server.data,
      env: { ROVANT_BASE_ADDRESS: 'https://rovant.example', ROVANT_TRUSTED_PROXY: '127.0.0.1' },
    })
    try {
      const answer = await fetch(`${behind.url}/sign-in`)
      expect(answer.headers.get('strict-transport-security')).to.equal('max-age=31536000')
      const write = (origin: string) => fetch(`${behind.url}/api/v1/sign-in`, { method: 'DELETE', headers: { origin } })
      expect((await write('https://rovant.example')).status).to.equal(200)
      expect((await write(behind.url)).status).to.equal(403)
    } finally {
      await behind.stop()
    }
  })
  it('keeps the files of a data directory to whoever runs it', () => {
    const open = readdirSync(server.data, { recursive: true, withFileTypes: true })
      .map((entry) => join(entry.parentPath, entry.name))
      .filter((path) => (statSync(path).mode & 0o077) !== 0)
    expect(open).to.deep.equal([])
  })
  // The last, because nobody signs in from here for a while after it.
  it('answers ten of two hundred wrong guesses in a row, whatever address they say they come from', async () => {
    const statuses = await Promise.all(
      Array.from({ length: 200 }, async (_, n) => {
        const forged = `198.51.100.${n}`
        const headers = {
          'content-type': 'application/json',
          'x-forwarded-for': forged,
          'x-real-ip': forged,
          forwarded: `for=${forged}`,
          'x-rovant-address': forged,
          'user-agent': `client ${n}`,
        }
        const guess = JSON.stringify({ email: 'mira@tarnsey.example', password: `guess-${n}` })
        return (await raw('POST', '/api/v1/sign-in', headers, (request) => request.end(guess))).status
      }),
    )
    expect(statuses.filter((status) => status === 401).length).to.equal(10)
    expect(statuses.filter((status) => status === 429).length).to.equal(190)
  })
})
