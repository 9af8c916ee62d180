import Database from 'better-sqlite3'
import { createHash } from 'node:crypto'
import { join } from 'node:path'
import { expect } from 'chai'
import { leastRole } from '#core/lib/contract.ts'
import { contracts } from '#server/app/routes.ts'
import { secretIn } from '../letters.ts'
import { type Client, clientOf, demoData, freshData, type Reply, type Running, rovant, startServer } from '../server.ts'

let server: Running
let ilo: Client
let mira: Client
describe('people', () => {
  before(async () => {
    server = await startServer({ command: 'demo', data: await demoData() })
    ilo = await clientOf(server.url, 'ilo')
    mira = await clientOf(server.url, 'mira')
  })
  after(() => server.stop())

  const good = 'nine green ferries'
  const letters = async (): Promise<{ to: string; subject: string; text: string }[]> =>
    (await fetch(`${server.letters}/letters`)).json() as Promise<{ to: string; subject: string; text: string }[]>
  /** The newest letter to somebody, once it has come. */
  async function letterTo(address: string): Promise<string> {
    for (let tries = 0; tries < 50; tries++) {
      const found = (await letters()).find(({ to }) => to.includes(address))
      if (found) return found.text
      await new Promise((done) => setTimeout(done, 100))
    }
    throw new Error(`no letter came to ${address}`)
  }
  const signIn = async (
    email: string,
    password: string,
  ): Promise<{ status: number; cookie: string; detail: string }> => {
    const answer = await fetch(`${server.url}/api/v1/sign-in`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ email, password }),
    })
    const cookie = answer.headers
      .getSetCookie()
      .map((each) => each.split(';')[0])
      .join('; ')
    return { status: answer.status, cookie, detail: String(((await answer.json()) as { detail?: string }).detail) }
  }

  it('brings somebody in by a letter: invited, a password chosen, signed in, at work', async () => {
    const people = [{ name: 'Gro Vik', email: 'gro@tarnsey.example', role: 'tester' }]
    const { body } = await mira.send('POST', '/projects/FERRY/people', { people })
    expect(body.rows[0]).to.include({ was: 'invited', mailed: true, link: null })
    const text = await letterTo('gro@tarnsey.example')
    expect(text).to.contain('Mira Kell invites you to Rovant').and.to.contain(`${server.url}/password#`)
    const nobody = await clientOf(server.url, null)
    expect((await nobody.send('POST', '/password', { link: secretIn(text), password: good })).status).to.equal(200)
    expect((await nobody.send('POST', '/password', { link: secretIn(text), password: good })).status).to.equal(404)
    const { status, cookie } = await signIn('GRO@tarnsey.example', good)
    expect(status).to.equal(200)
    const gro = await clientOf(server.url, null, { cookie })
    expect((await gro.get('/projects/FERRY')).body.role).to.equal('tester')
    expect((await gro.get('/projects/DEPOT')).status).to.equal(404)
  })

  it('chooses a new password by a letter, and puts out whoever was in before', async () => {
    const before = await clientOf(server.url, 'yusra')
    const nobody = await clientOf(server.url, null)
    await nobody.send('POST', '/password/forgotten', { email: 'yusra@tarnsey.example' })
    const link = secretIn(await letterTo('yusra@tarnsey.example'))
    expect((await nobody.send('POST', '/password', { link, password: good })).status).to.equal(200)
    expect((await before.get('/me')).status).to.equal(401)
    expect((await signIn('yusra@tarnsey.example', 'ferry-2024')).status).to.equal(401)
    expect((await signIn('yusra@tarnsey.example', good)).status).to.equal(200)
  })

  it('asks of every endpoint what it names: of nobody, each role, another project, ended sign-ins and each kind of token', async () => {
    const tokens = await Promise.all(
      (['read', 'results', 'write'] as const).map(async (scope) => {
        const made = await rovant([
          'token',
          'create',
          '--person',
          'Tobin Rask',
          '--name',
          scope,
          '--scope',
          scope,
          '--data',
          server.data,
          '--json',
        ])
        const token = String((JSON.parse(made.out) as { token: string }).token)
        return [scope, await clientOf(server.url, null, { authorization: `Bearer ${token}` })] as const
      }),
    )
    const [read, results, write] = tokens.map(([, client]) => client) as [Client, Client, Client]
    const [oda, tobin, ansa] = await Promise.all(['oda', 'tobin', 'ansa'].map((who) => clientOf(server.url, who)))
    const ended = await clientOf(server.url, 'oda')
    await ended.send('DELETE', '/sign-in', {})
    const nobody = await clientOf(server.url, null)
    // Whoever asks all writing endpoints also asks those that end their own sign-in; they are asked elsewhere.
    const own = ['signOut', 'endOtherSignIns', 'endSignIn', 'changePassword', 'streamEvents']
    const wrong: string[] = []
    let asked = 0
    const ranks: Readonly<Record<string, number>> = { person: 0, viewer: 1, tester: 2, lead: 3, administrator: 4 }
    for (const contract of contracts) {
      if (own.includes(contract.name) || (contract.raw && contract.method !== 'GET')) continue
      const least = leastRole(contract)
      const inProject = contract.path.startsWith('/projects/:key')
      const pathIn = (key: string) =>
        contract.path.replace(':key', key).replace(':ref', 'RQ-99999').replace(/:\w+/g, '99999')
      const ask = async (who: Client, key = 'FERRY'): Promise<Reply> => {
        asked += 1
        return who.send(contract.method, pathIn(key), contract.method === 'GET' ? undefined : {}, { 'if-match': '1' })
      }
      const expectOf = async (as: string, who: Client, fits: (status: number) => boolean, key?: string) => {
        const { status } = await ask(who, key)
        if (!fits(status)) wrong.push(`${contract.name} as ${as}: ${status}`)
      }
      if (least === 'open') continue
      await expectOf('nobody', nobody, (status) => status === 401)
      await expectOf('ended sign-in', ended, (status) => status === 401)
      if (inProject) await expectOf('a person of another project', tobin!, (status) => status === 404, 'DEPOT')
      const rank = ranks[least] ?? 0
      for (const [as, who, has] of [
        ['viewer', oda!, 1],
        ['tester', tobin!, 2],
        ['lead', ansa!, 3],
      ] as const)
        await expectOf(as, who, (status) => (has < rank ? status === 403 : ![401, 403, 500].includes(status)))
      if (least !== 'person') await expectOf('administrator', ilo, (status) => ![401, 403, 500].includes(status))
      const mayTester = rank <= 2
      await expectOf('token to read', read, (status) =>
        contract.method === 'GET' && mayTester
          ? ![401, 403, 500].includes(status)
          : status === 403 || least === 'person',
      )
      await expectOf(
        'token to send results',
        results,
        (status) => status === 403 || least === 'person' || contract.takesResults === true,
      )
      await expectOf('token for all', write, (status) => (mayTester ? ![401, 500].includes(status) : status === 403))
    }
    process.stdout.write(`    ${asked} requests of the matrix, ${wrong.length} answered wrongly\n`)
    expect(wrong).to.deep.equal([])
    expect(asked).to.be.greaterThan(1500)
  })

  it('puts somebody out at once: sign-in, token and stream', async () => {
    const piet = await clientOf(server.url, 'piet')
    const made = await rovant([
      'token',
      'create',
      '--person',
      'Piet Vonk',
      '--name',
      'CI',
      '--data',
      server.data,
      '--json',
    ])
    const byToken = await clientOf(server.url, null, {
      authorization: `Bearer ${(JSON.parse(made.out) as { token: string }).token}`,
    })
    expect([(await piet.get('/me')).status, (await byToken.get('/me')).status]).to.deep.equal([200, 200])
    expect((await ilo.send('PATCH', '/people/piet', { ended: true })).status).to.equal(200)
    expect([(await piet.get('/me')).status, (await byToken.get('/me')).status]).to.deep.equal([401, 401])
    const tried = await signIn('piet@tarnsey.example', 'ferry-2024')
    expect([tried.status, tried.detail]).to.deep.equal([
      401,
      'Your access to this installation was ended. An administrator can let you in again.',
    ])
    expect((await ilo.send('PATCH', '/people/piet', { ended: false })).status).to.equal(200)
    expect((await signIn('piet@tarnsey.example', 'ferry-2024')).status).to.equal(200)
  })

  it('keeps of all secrets their hash alone, and says none in its events', async () => {
    const { body } = await ilo.send('POST', '/people/rolf/link', {})
    expect(body.detail).to.match(/let them in again first/)
    await fetch(server.letters, { method: 'POST' }).then((answer) => answer.text())
    const { token } = (await mira.send('POST', '/me/tokens', { password: 'ferry-2024', name: 'sheet', scope: 'read' }))
      .body
    const db = new Database(join(server.data, 'rovant.db'), { readonly: true })
    const all = db
      .prepare(
        "select name from sqlite_schema where type = 'table' and name not like 'sqlite_%' and sql not like 'create virtual%'",
      )
      .pluck()
      .all()
      .map((name) => JSON.stringify(db.prepare(`select * from "${String(name)}"`).all()))
      .join()
    db.close()
    const link = secretIn(await letterTo('gro@tarnsey.example'))
    for (const secret of [token, link, good]) expect(all.includes(secret), secret).to.equal(false)
    expect(all).to.contain(createHash('sha256').update(token).digest('hex'))
  })

  it('lets somebody in again by a command at the machine, once', async () => {
    const made = await rovant(['let-in', '--person', 'Rolf Hage', '--data', server.data])
    expect([made.code, made.err]).to.deep.equal([1, 'There is nobody called Rolf Hage here who has access.\n'])
    const told = await rovant(['let-in', '--person', 'Oda Brandt', '--administrator', '--data', server.data, '--json'])
    const { path } = JSON.parse(told.out) as { path: string }
    const nobody = await clientOf(server.url, null)
    const choose = async () => (await nobody.send('POST', '/password', { link: secretIn(path), password: good })).status
    expect([await choose(), await choose()]).to.deep.equal([200, 404])
    const { cookie } = await signIn('oda@tarnsey.example', good)
    expect((await (await clientOf(server.url, null, { cookie })).get('/me')).body.administrator).to.equal(true)
  })

  it('notes exports and backups, and writes each event to the log as a line', async () => {
    await mira.get('/projects/FERRY/export?what=cases&format=csv')
    await rovant(['backup', join(freshData(), 'out'), '--data', server.data])
    const { rows } = (await ilo.get('/security-events?limit=5')).body
    expect(rows.map(({ told }: { told: string }) => told).slice(0, 2)).to.satisfy(
      ([first, second]: string[]) =>
        /^A backup was begun/.test(first!) && second === 'cases of FERRY were exported as csv',
    )
  })
})
