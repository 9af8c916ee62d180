import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import { expect } from 'chai'
import { freshData, rovant, type Running, startServer } from '../server.ts'

// What whoever runs an installation sees of it: its log, its figures, its backups.

let server: Running
let said = ''
const into = join(freshData(), 'backups')
const port = 40_000 + (process.pid % 10_000)
describe('watched', () => {
  before(async () => {
    server = await startServer({
      command: 'serve',
      data: freshData(),
      args: ['--metrics', String(port), '--backups', into, '--backup-keep', '2'],
      env: { ROVANT_LOG: 'info' },
    })
    server.process.stdout?.on('data', (part: Buffer) => {
      said += part.toString()
    })
  })
  after(() => server.stop())

  /** Waits until something is so, for a while. */
  async function until<T>(look: () => T | undefined): Promise<T> {
    for (let tries = 0; tries < 200; tries++) {
      const found = look()
      if (found !== undefined) return found
      await new Promise((done) => setTimeout(done, 100))
    }
    throw new Error('it never came')
  }
  const lines = (): Record<string, unknown>[] =>
    said
      .split('\n')
      .filter((line) => line.startsWith('{'))
      .map((line) => JSON.parse(line) as Record<string, unknown>)

  it('names every request in the log and in its answer, without what was asked behind the question mark', async () => {
    const answer = await fetch(`${server.url}/api/v1/me?secret=words`, { headers: { 'x-request-id': 'forged' } })
    const id = answer.headers.get('x-request-id')
    expect(id).to.match(/^[0-9a-f-]{36}$/)
    const line = await until(() => lines().find((each) => each['id'] === id))
    expect(line).to.include({ method: 'GET', path: '/api/v1/me', status: 401, address: '127.0.0.1' })
    expect(said).to.not.contain('secret=words')
  })
  it('writes security events to the log as lines', async () => {
    await fetch(`${server.url}/api/v1/sign-in`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ email: 'eve@tarnsey.example', password: 'some guess' }),
    })
    const line = await until(() => lines().find(({ msg }) => msg === 'Wrong password for eve@tarnsey.example'))
    expect(line['security']).to.include({ kind: 'sign-in failed', address: '127.0.0.1' })
    expect(said).to.not.contain('some guess')
  })
  it('tells its figures on a port of the machine alone, and nothing of them on its own', async () => {
    const text = await (await fetch(`http://127.0.0.1:${port}/metrics`)).text()
    expect(text).to.match(/^rovant_requests_total\{method="GET",place="api",status="401"\} [1-9]/m)
    expect((await fetch(`${server.url}/metrics`, { redirect: 'manual' })).status).to.not.equal(200)
  })
  it('makes a backup when one is due, tries it, and leaves one that can be tried again', async () => {
    const name = await until(() => {
      const [only] = readdirSync(join(into, '..')).includes('backups')
        ? readdirSync(into).filter((each) => !each.includes('making'))
        : []
      return only
    })
    const tried = await rovant(['drill', join(into, name), '--json'])
    expect(tried.code).to.equal(0)
    expect(JSON.parse(tried.out)).to.include({ ok: true, projects: 0 })
  })
})
