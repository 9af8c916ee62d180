import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect } from 'chai'
import { strToU8, zipSync } from 'fflate'
import { type Client, clientOf, demoData, rovant, type Running, startServer } from '../server.ts'
import { P, importing, signInCookie } from './ferry.ts'

let server: Running
let mira: Client
describe('versions and archives', () => {
  before(async () => {
    server = await startServer({ command: 'demo', data: await demoData() })
    mira = await clientOf(server.url, 'mira')
    await send('case,action\nTie the ferry,Throw the line\n,Pull\nMoor,Wait here\n')
  })
  after(() => server.stop())
  const { send, caseOf } = importing(() => mira)

  it('lets a lead define fields, checks their values, and carries them in and out', async () => {
    const lead = async (body: object) => (await mira.send('POST', `${P}/fields`, body)).body
    const deck = await lead({ owner: 'case', name: 'Vessel deck', kind: 'choice', choices: ['car deck', 'sun deck'] })
    const knots = await lead({ owner: 'case', name: 'Knots', kind: 'number' })
    const crew = await lead({ owner: 'case', name: 'Crews', kind: 'multi-choice', choices: ['day', 'night'] })
    expect((await lead({ owner: 'case', name: 'knots', kind: 'text' })).detail).to.match(/called knots already/)
    expect((await lead({ owner: 'case', name: 'Empty', kind: 'choice' })).detail).to.match(/needs at least one/)
    const own = await caseOf('Moor')
    const set = (custom: object) =>
      mira.send('PATCH', `${P}/cases/${own.key}`, { custom }, { 'if-match': String(own.version) })
    expect((await set({ [deck.id]: ['roof'] })).body.detail).to.match(
      /Vessel deck: “roof” is none of car deck, sun deck/,
    )
    expect((await set({ [knots.id]: ['fast'] })).body.detail).to.match(/is not a number/)
    expect((await set({ [deck.id]: ['sun deck'], [knots.id]: ['12.5'], [crew.id]: ['day', 'night'] })).status).to.equal(
      200,
    )
    expect((await caseOf('Moor')).custom).to.deep.equal({
      [deck.id]: ['sun deck'],
      [knots.id]: ['12.5'],
      [crew.id]: ['day', 'night'],
    })
    const told = (await send('case,action,Vessel deck,knots,Crews\nMoor again,x,car deck,3,night\n', 'dry=yes')).body
    expect([told.problems, told.mapping.columns]).to.deep.equal([
      [],
      { A: 'title', B: 'action', C: 'custom:Vessel deck', D: 'custom:Knots', E: 'custom:Crews' },
    ])
    expect((await send('case,action,Vessel deck\nMoor wrong,x,roof\n')).body.detail).to.match(
      /row 2: Vessel deck: “roof” is none of/,
    )
    const tester = await clientOf(server.url, 'tobin')
    expect((await tester.send('POST', `${P}/fields`, { owner: 'case', name: 'Mine', kind: 'text' })).status).to.equal(
      403,
    )
    await mira.send('DELETE', `${P}/fields/${knots.id}`)
    expect(Object.keys((await caseOf('Moor')).custom)).to.deep.equal([String(deck.id), String(crew.id)])
  })
  it('compares any two versions and restores one, keeping what was there', async () => {
    const own = await caseOf('Tie the ferry')
    await mira.send('POST', `${P}/cases/${own.key}/versions`, { why: 'first' })
    const [first, second] = own.content.steps
    await mira.send('PUT', `${P}/cases/${own.key}/working`, {
      content: {
        ...own.content,
        steps: [
          second,
          { ...first, action: 'Throw the long line' },
          { id: null, action: 'Wave', expected: '', data: '' },
        ],
      },
      stamp: own.contentStamp,
    })
    const version = (await mira.get(`${P}/cases/${own.key}`)).body.versions[0]
    const told = (await mira.get(`${P}/cases/${own.key}/compare?from=${version.id}&to=working`)).body
    expect([told.from.name, told.from.why, told.to.name]).to.deep.equal(['0.1', 'first', 'working copy'])
    expect(
      told.steps.map(({ before, after, moved }: { before: number; after: number; moved: boolean }) => [
        before,
        after,
        moved,
      ]),
    ).to.deep.equal([
      [1, 0, true],
      [0, 1, false],
      [null, 2, false],
    ])
    expect(told.steps[1].action).to.deep.equal([
      { kind: 'same', text: 'Throw the ' },
      { kind: 'added', text: 'long ' },
      { kind: 'same', text: 'line' },
    ])
    expect((await mira.send('POST', `${P}/cases/${own.key}/restore`, { version: version.id })).body).to.deep.equal({
      kept: '0.2',
    })
    const after = (await mira.get(`${P}/cases/${own.key}`)).body
    expect(after.content.steps).to.deep.equal(own.content.steps)
    expect(after.versions.map(({ name }: { name: string }) => name)).to.deep.equal(['0.2', '0.1'])
    expect((await mira.get(`${P}/cases/${own.key}/compare?from=999999&to=working`)).body.detail).to.match(
      /has no such version/,
    )
  })
  it('compares revisions of a requirement word by word', async () => {
    const row = (await mira.get(`${P}/requirements/RQ-4`)).body
    await mira.send(
      'PATCH',
      `${P}/requirements/RQ-4`,
      { text: `${row.text}<p>And <b>never</b> twice.</p>` },
      { 'if-match': String(row.version) },
    )
    const told = (await mira.get(`${P}/requirements/RQ-4/compare?from=${row.revision}&to=${row.revision + 1}`)).body
    expect(
      told.text
        .filter(({ kind }: { kind: string }) => kind !== 'same')
        .map(({ text }: { text: string }) => text.trim()),
    ).to.deep.equal(['And never twice.'])
    expect((await mira.get(`${P}/requirements/RQ-4/revisions`)).body.rows[0]).to.deep.include({
      revision: row.revision + 1,
      by: 'Mira Kell',
    })
    expect((await mira.get(`${P}/requirements/RQ-4/compare?from=1&to=99`)).body.detail).to.match(/has no revision 99/)
  })
  it('finds and replaces in many cases by one act, shows every place first, and takes it back', async () => {
    await send(
      'case,action,expected\nReplace one,Call the purser,The purser comes\nReplace two,Ask a Purser,He knows\nReplace three,Ask a passenger,She knows\n',
    )
    const ids = (await mira.get(`${P}/cases/order?text=Replace`)).body.ids
    const ask = (body: object) =>
      mira.send('POST', `${P}/cases/replace`, {
        find: 'purser',
        put: 'first <mate>',
        fields: ['title', 'action', 'expected'],
        ids,
        ...body,
      })
    const shown = (await ask({})).body
    expect([shown.cases, shown.places, shown.act]).to.deep.equal([2, 3, null])
    expect(shown.found[0].places[0]).to.deep.equal({
      field: 'action',
      step: 0,
      before: 'Call the purser',
      after: 'Call the first <mate>',
    })
    expect((await ask({ dry: false, seen: 9 })).body.detail).to.match(/stands in 3 places now, not in the 9 you saw/)
    const before = await caseOf('Replace one')
    const done = (await ask({ dry: false, seen: 3 })).body
    const after = await caseOf('Replace one')
    expect([after.content.steps[0].action, after.content.steps[0].id, after.version]).to.deep.equal([
      'Call the first &lt;mate&gt;',
      before.content.steps[0].id,
      before.version + 1,
    ])
    expect((await mira.send('POST', `${P}/imports/${done.act}/undo`)).body).to.deep.equal({ deleted: 0, kept: [] })
    expect((await caseOf('Replace two')).content.steps[0].action).to.equal('Ask a Purser')
    expect((await ask({ find: '' })).status).to.equal(400)
  })
  for (const [what, spoil, sentence] of [
    ['cut off', (bytes: Buffer) => bytes.subarray(0, bytes.length - 100), /cut off or damaged/],
    [
      'with a changed line',
      () =>
        Buffer.from(
          zipSync({
            'rovant-archive.json': strToU8('{"format":"rovant-archive","version":1,"project":{}}'),
            'tables/release.jsonl': strToU8('{"id":1}\n[broken'),
          }),
        ),
      /tables\/release.jsonl, line 2: is no JSON/,
    ],
    [
      'with a changed attachment',
      () =>
        Buffer.from(
          zipSync({
            'rovant-archive.json': strToU8('{"format":"rovant-archive","version":1,"project":{}}'),
            [`attachments/${'a'.repeat(64)}`]: strToU8('other'),
          }),
        ),
      /is not what it was/,
    ],
  ] as const)
    it(`refuses an archive ${what}, and makes no project of it`, async () => {
      const folder = mkdtempSync(join(tmpdir(), 'rovant-archive-'))
      const out = join(folder, 'ferry.zip')
      expect(
        (
          await rovant([
            'export',
            '--project',
            'FERRY',
            '--format',
            'rovant-archive',
            '--data',
            server.data,
            '--out',
            out,
          ])
        ).code,
      ).to.equal(0)
      writeFileSync(out, spoil(readFileSync(out)))
      const told = await rovant([
        'import',
        out,
        '--format',
        'rovant-archive',
        '--project',
        'COPY',
        '--data',
        server.data,
      ])
      expect([told.code, told.out]).to.deep.equal([1, ''])
      expect(told.err).to.match(sentence)
      expect((await rovant(['coverage', '--project', 'COPY', '--data', server.data])).err).to.match(
        /There is no project COPY/,
      )
    })
  it('makes a project of an archive beside the one it came from, with its evidence', async () => {
    const out = join(mkdtempSync(join(tmpdir(), 'rovant-archive-')), 'ferry.zip')
    await rovant(['export', '--project', 'FERRY', '--format', 'rovant-archive', '--data', server.data, '--out', out])
    expect(
      JSON.parse((await rovant(['import', out, '--project', 'TWIN', '--data', server.data, '--json'])).out).attachments,
    ).to.be.greaterThan(0)
    const at = new Date().toISOString()
    const figures = async (key: string) =>
      JSON.parse((await rovant(['coverage', '--project', key, '--data', server.data, '--as-of', at, '--json'])).out)
        .total.figures
    expect(await figures('TWIN')).to.deep.equal(await figures('FERRY'))
    expect((await rovant(['verify', '--data', server.data])).out).to.match(/sound/)
    expect((await rovant(['import', out, '--project', 'TWIN', '--data', server.data])).err).to.match(
      /There is a project TWIN already/,
    )
  })
  it('makes what a file says safe, and gives cells that start a formula an apostrophe on their way out only', async () => {
    await send('case,action,expected\n=2+3,<img src=x onerror=alert(1)> & more,<b>bold</b>\n')
    const own = await caseOf('=2+3')
    expect([own.title, own.content.steps[0].action]).to.deep.equal([
      '=2+3',
      '&lt;img src=x onerror=alert(1)&gt; &amp; more',
    ])
    const csv = await (
      await fetch(`${server.url}/api/v1${P}/export?format=csv&what=cases&ids=${own.id}`, {
        headers: { cookie: await signInCookie(server) },
      })
    ).text()
    expect(csv).to.match(/,'=2\+3,/)
    expect((await send(csv, 'dry=yes')).body.counts).to.deep.include({ unchanged: 1, changed: 0 })
    await send('title,text\nUnsafe text,<script>alert(1)</script>\n')
    const row = (await mira.get(`${P}/requirements?text=Unsafe`)).body.rows[0]
    expect((await mira.get(`${P}/requirements/${row.key}`)).body.text).to.equal(
      '<p>&lt;script&gt;alert(1)&lt;/script&gt;</p>',
    )
  })
})
