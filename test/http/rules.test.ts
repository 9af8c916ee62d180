import { expect } from 'chai'
import { leastRole } from '#core/lib/contract.ts'
import { contracts } from '#server/app/routes.ts'
import { type Client, clientOf, demoData, rovant, type Running, startServer } from '../server.ts'

let server: Running
const P = '/projects/FERRY'
describe('rules', () => {
  before(async () => {
    server = await startServer({ command: 'demo', data: await demoData() })
  })
  after(() => server.stop())

  it('asks of every endpoint exactly the role it names', async () => {
    const people: readonly (readonly [who: string, rank: number, client: Client])[] = await Promise.all(
      (
        [
          ['oda', 1],
          ['tobin', 2],
          ['mira', 3],
        ] as const
      ).map(async ([who, rank]) => [who, rank, await clientOf(server.url, who)] as const),
    )
    const nobody = await clientOf(server.url, null)
    const ranks: Readonly<Record<string, number>> = { viewer: 1, tester: 2, lead: 3 }
    let asked = 0
    for (const contract of contracts) {
      const path = contract.path.replace(':key', 'FERRY').replace(':ref', 'RQ-99999').replace(/:\w+/g, '99999')
      if (contract.permission === 'open') continue
      expect(
        (await nobody.send(contract.method, path, contract.method === 'GET' ? undefined : {})).status,
        `${contract.name} without sign-in`,
      ).to.equal(401)
      if (contract.permission === 'person' || leastRole(contract) === 'administrator') continue
      for (const [who, rank, client] of people) {
        if (contract.raw && contract.method !== 'GET') continue
        const { status } = await client.send(contract.method, path, contract.method === 'GET' ? undefined : {}, {
          'if-match': '1',
        })
        asked += 1
        if (rank < (ranks[leastRole(contract)] ?? 0)) expect(status, `${contract.name} as ${who}`).to.equal(403)
        else expect(status, `${contract.name} as ${who}`).to.not.be.oneOf([401, 403, 500])
      }
    }
    expect(asked).to.be.greaterThan(150)
  })

  it('hides a project from people who are not of it', async () => {
    const tobin = await clientOf(server.url, 'tobin')
    expect((await tobin.get('/projects/DEPOT')).status).to.equal(404)
    expect((await tobin.get('/projects/DEPOT/cases')).body.detail).to.equal(
      'There is no project DEPOT, or you are not one of its people.',
    )
  })

  it('answers bad input with a sentence and the fields, and stores nothing', async () => {
    const mira = await clientOf(server.url, 'mira')
    const bad = await mira.send('POST', `${P}/defects`, { title: '', severity: 'Huge' })
    expect(bad.status).to.equal(400)
    expect(bad.headers.get('content-type')).to.equal('application/problem+json')
    expect(bad.body.field.map(({ field }: { field: string }) => field)).to.deep.equal(['title', 'severity'])
    expect((await mira.send('POST', `${P}/defects`, '{', { 'content-type': 'application/json' })).body.detail).to.match(
      /not JSON/,
    )
    expect((await mira.get(`${P}/cases?filter=%7B`)).body.detail).to.match(/cannot be read/)
    expect((await mira.get(`${P}/reports/coverage?release=9`)).body.detail).to.equal(
      'There is no release “9” in this project.',
    )
    expect((await mira.get(`${P}/cases/TC-99999`)).status).to.equal(404)
    expect((await mira.send('POST', `${P}/requirements/lines`, { lines: ' \n ' })).body.detail).to.match(
      /no line to store/,
    )
  })

  it('refuses an edit over somebody else’s newer one and answers theirs', async () => {
    const [mira, ansa] = [await clientOf(server.url, 'mira'), await clientOf(server.url, 'ansa')]
    const { version } = (await mira.get(`${P}/requirements/RQ-6`)).body
    const first = await ansa.send(
      'PATCH',
      `${P}/requirements/RQ-6`,
      { title: 'Hold a place for 25 minutes' },
      { 'if-match': String(version) },
    )
    expect(first.status).to.equal(200)
    const second = await mira.send(
      'PATCH',
      `${P}/requirements/RQ-6`,
      { title: 'Hold a place for 30 minutes' },
      { 'if-match': String(version) },
    )
    expect([second.status, second.body.current.title]).to.deep.equal([412, 'Hold a place for 25 minutes'])
    expect((await mira.send('PATCH', `${P}/requirements/RQ-6`, { title: 'x' })).status).to.equal(428)
    const sheet = (await mira.get(`${P}/cases/TC-2`)).body
    const typed = (action: string) => ({
      content: { ...sheet.content, steps: [{ id: null, action, expected: '', data: '' }] },
      stamp: sheet.contentStamp,
    })
    expect((await ansa.send('PUT', `${P}/cases/TC-2/working`, typed('Hers'))).status).to.equal(200)
    const clash = await mira.send('PUT', `${P}/cases/TC-2/working`, typed('Mine'))
    expect([clash.status, clash.body.current.content.steps[0].action]).to.deep.equal([412, 'Hers'])
  })

  it('answers a repeated request from what it kept, and a re-used key with a refusal', async () => {
    const mira = await clientOf(server.url, 'mira')
    const key = { 'idempotency-key': 'abc-1' }
    const first = await mira.send('POST', `${P}/suites`, { title: 'Once' }, key)
    const again = await mira.send('POST', `${P}/suites`, { title: 'Once' }, key)
    expect(again.body).to.deep.equal(first.body)
    expect((await mira.send('POST', `${P}/suites`, { title: 'Other' }, key)).status).to.equal(409)
  })

  it('writes only for its own origin', async () => {
    const mira = await clientOf(server.url, 'mira')
    expect(
      (await mira.send('POST', `${P}/suites`, { title: 'From elsewhere' }, { origin: 'https://elsewhere.example' }))
        .status,
    ).to.equal(403)
    expect((await mira.send('POST', `${P}/suites`, { title: 'From here' }, { origin: server.url })).status).to.equal(
      200,
    )
  })

  it('makes rich text safe on its way in', async () => {
    const mira = await clientOf(server.url, 'mira')
    const { version } = (await mira.get(`${P}/requirements/RQ-8`)).body
    await mira.send(
      'PATCH',
      `${P}/requirements/RQ-8`,
      {
        text: '<p onclick="x()">a<script>alert(1)</script><img src="http://elsewhere.example/x.png"><a href="javascript:x()">b</a></p>',
      },
      { 'if-match': String(version) },
    )
    expect((await mira.get(`${P}/requirements/RQ-8`)).body.text).to.equal(
      '<p>a<a rel="noopener noreferrer" target="_blank">b</a></p>',
    )
  })

  it('lets a token in until it is revoked, and describes the API from its schemas', async () => {
    const made = await rovant([
      'token',
      'create',
      '--person',
      'Tobin Rask',
      '--name',
      'ci',
      '--data',
      server.data,
      '--json',
    ])
    const { token } = JSON.parse(made.out)
    const ci = await clientOf(server.url, null, { authorization: `Bearer ${token}` })
    expect((await ci.get('/me')).body.name).to.equal('Tobin Rask')
    expect(
      (await rovant(['token', 'revoke', '--person', 'tobin@tarnsey.example', '--name', 'ci', '--data', server.data]))
        .code,
    ).to.equal(0)
    expect((await ci.get('/me')).status).to.equal(401)
    const described = (await ci.get('/openapi.json')).body
    expect(Object.keys(described.paths).length).to.be.greaterThan(50)
    expect(
      described.paths['/projects/{key}/cases/{ref}'].patch.parameters.map(({ name }: { name: string }) => name),
    ).to.include('If-Match')
    expect(await (await fetch(`${server.url}/healthz`)).json()).to.deep.equal({
      ok: true,
      version: '0.1.0',
      problems: [],
    })
  })

  it('approves only by a lead who did not write it', async () => {
    const [tobin, mira] = [await clientOf(server.url, 'tobin'), await clientOf(server.url, 'mira')]
    const own = (await tobin.send('POST', `${P}/cases/lines`, { lines: 'Review me\n\tLook => Seen' })).body.keys[0]
    expect((await tobin.send('POST', `${P}/cases/${own}/review`, { to: 'In review' })).body.name).to.equal('0.1')
    expect((await tobin.send('POST', `${P}/cases/${own}/review`, { to: 'Approved' })).status).to.equal(403)
    expect((await mira.send('POST', `${P}/cases/${own}/review`, { to: 'Approved' })).body.name).to.equal('1.0')
    const hers = (await mira.send('POST', `${P}/cases/lines`, { lines: 'Mine\n\tLook => Seen' })).body.keys[0]
    expect((await mira.send('POST', `${P}/cases/${hers}/review`, { to: 'Approved' })).body.detail).to.match(
      /somebody else has to approve/,
    )
  })
})
