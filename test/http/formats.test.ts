import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect } from 'chai'
import { strToU8, zipSync } from 'fflate'
import { type Client, clientOf, freshData, rovant, type Running, startServer } from '../server.ts'
import { odsOf, xlsxOf } from '../workbooks.ts'

let server: Running
let mira: Client
const P = '/projects/FERRY'
const send = (bytes: string | Buffer, query = 'dry=no') =>
  mira.send('POST', `${P}/imports?${query}`, typeof bytes === 'string' ? Buffer.from(bytes) : bytes, {
    'content-type': 'application/octet-stream',
  })
const caseOf = async (title: string) => {
  const row = (await mira.get(`${P}/cases?text=${encodeURIComponent(`"${title}"`)}`)).body.rows[0]
  return row ? (await mira.get(`${P}/cases/${row.key}`)).body : undefined
}
const total = async (what: 'requirements' | 'cases') => (await mira.get(`${P}/${what}?limit=1`)).body.total

before(async () => {
  server = await startServer({ command: 'demo', data: freshData() })
  mira = await clientOf(server.url, 'mira')
})
after(() => server.stop())

it('reads a workbook: header below a title, merged cells, a second sheet that does not fit, formulas', async () => {
  const bytes = await xlsxOf(
    {
      Cases: [
        ['Cases of the harbour'],
        [],
        ['Case', 'Action', 'Expected', 'Priority'],
        ['Tie the ferry', 'Throw the line', 'It holds', 'High'],
        ['', 'Pull', 'It is tight', ''],
        ['Untie', 'Loosen', '', 'Low'],
      ],
      Notes: [['written in March']],
    },
    ['A4:A5'],
  )
  const told = (await send(bytes, 'dry=yes')).body
  expect([told.format, told.cases, told.steps, told.problems]).to.deep.equal(['xlsx', 2, 3, []])
  expect(told.mapping).to.deep.include({
    header: 3,
    first: 4,
    layout: 'a row a step',
    columns: { A: 'title', B: 'action', C: 'expected', D: 'importance' },
  })
  expect(told.notices).to.deep.equal([{ at: 'sheet “Notes”', message: 'is not read' }])
  expect((await send(bytes)).body.counts).to.deep.equal({ new: 2, changed: 0, unchanged: 0, gone: 0 })
  expect((await caseOf('Tie the ferry')).content.steps.map(({ action }: { action: string }) => action)).to.deep.equal([
    'Throw the line',
    'Pull',
  ])
})
it('reads an OpenDocument workbook with repeated and spanning cells, dates and spaces', async () => {
  const cell = (text: string, rest = '') =>
    `<table:table-cell office:value-type="string"${rest}><text:p>${text}</text:p></table:table-cell>`
  const bytes = odsOf(
    'Wharf',
    `<table:table-row>${cell('Case')}${cell('Action')}${cell('Data')}<table:table-cell table:number-columns-repeated="16381"/></table:table-row><table:table-row>${cell('Moor', ' table:number-rows-spanned="2"')}${cell('Wait<text:s text:c="2"/>here')}<table:table-cell office:value-type="date" office:date-value="2026-11-23"><text:p>23.11.</text:p></table:table-cell></table:table-row><table:table-row><table:covered-table-cell/>${cell('Tie &amp; tell')}</table:table-row><table:table-row table:number-rows-repeated="1048573"><table:table-cell table:number-columns-repeated="16384"/></table:table-row>`,
  )
  const told = (await send(bytes)).body
  expect([told.format, told.stored, told.cases, told.steps]).to.deep.equal(['ods', true, 1, 2])
  expect(
    (await caseOf('Moor')).content.steps.map(({ action, data }: { action: string; data: string }) => [action, data]),
  ).to.deep.equal([
    ['Wait  here', '2026-11-23'],
    ['Tie &amp; tell', ''],
  ])
})
it('finds what is there by its id: new, changed, unchanged, gone; and only fields the file names are touched', async () => {
  const file = (rows: string) => `id,case,action,expected,importance\n${rows}`
  const query = 'source=harbour&dry=no'
  expect(
    (
      await send(
        file(
          'H-1,Harbour light,Look,It shines,High\nH-2,Harbour horn,Press,It sounds,Low\nH-3,Harbour bell,Ring,It rings,Low\n',
        ),
        query,
      )
    ).body.counts.new,
  ).to.equal(3)
  const light = await caseOf('Harbour light')
  await mira.send(
    'PATCH',
    `${P}/cases/${light.key}`,
    { component: 'Harbour', tags: ['night'] },
    { 'if-match': String(light.version) },
  )
  const again = file(
    'H-1,Harbour light,Look closely,It shines,High\nH-2,Harbour horn,Press,It sounds,Low\nH-4,Harbour gate,Push,It opens,Low\n',
  )
  const dry = (await send(again, 'source=harbour&dry=yes')).body
  expect(dry.counts).to.deep.equal({ new: 1, changed: 1, unchanged: 1, gone: 1 })
  expect(dry.preview[0]).to.deep.include({ key: light.key, status: 'changed', changes: ['steps'] })
  expect(dry.gone[0].title).to.equal('Harbour bell')
  const stored = (await send(again, query)).body
  const after = await caseOf('Harbour light')
  expect([after.component, after.tags, after.content.steps[0].action, after.content.steps[0].id]).to.deep.equal([
    'Harbour',
    ['night'],
    'Look closely',
    light.content.steps[0].id,
  ])
  expect((await mira.send('POST', `${P}/imports/${stored.act}/undo`)).body).to.deep.equal({ deleted: 1, kept: [] })
  expect((await caseOf('Harbour light')).content.steps[0].action).to.equal('Look')
  expect(await caseOf('Harbour gate')).to.equal(undefined)
  expect((await mira.send('POST', `${P}/imports/${stored.act}/undo`)).body.detail).to.match(/taken back already/)
})
it('leaves what somebody changed since the import when it is taken back, and names it', async () => {
  await send('id,case,action\nK-1,Quay one,Walk\n', 'source=quay&dry=no')
  const stored = (await send('id,case,action\nK-1,Quay one,Run\n', 'source=quay&dry=no')).body
  const own = await caseOf('Quay one')
  await mira.send('PUT', `${P}/cases/${own.key}/working`, {
    content: { ...own.content, preconditions: 'At low tide' },
    stamp: own.contentStamp,
  })
  expect((await mira.send('POST', `${P}/imports/${stored.act}/undo`)).body).to.deep.equal({
    deleted: 0,
    kept: [own.key],
  })
  expect((await caseOf('Quay one')).content).to.deep.include({ preconditions: 'At low tide' })
})
it('keeps mappings by name, shares them, and reads by them', async () => {
  const bytes = 'Nummer;Was;Tun\n1;Ruder prüfen;Drehen\n;;Loslassen\n'
  expect((await send(bytes, 'dry=no&what=cases')).body.detail).to.match(/not a header that can be recognised/)
  const open = (await send(bytes, 'dry=yes&what=cases')).body
  expect([open.mapping.header, open.mapping.columns, open.problems[0].message.slice(0, 36)]).to.deep.equal([
    1,
    {},
    'no column is read as the title; the ',
  ])
  const mapping = { what: 'cases', header: 1, first: 2, columns: { A: 'id', B: 'title', C: 'action' }, begins: 'id' }
  const told = (await send(bytes, `dry=yes&mapping=${encodeURIComponent(JSON.stringify(mapping))}`)).body
  expect([told.cases, told.steps]).to.deep.equal([1, 2])
  await mira.send('PUT', `${P}/mappings`, { name: 'Rudder list', mapping })
  const tobin = await clientOf(server.url, 'tobin')
  expect((await tobin.get(`${P}/mappings`)).body.rows.map(({ name }: { name: string }) => name)).to.include(
    'Rudder list',
  )
  const folder = mkdtempSync(join(tmpdir(), 'rovant-map-'))
  writeFileSync(join(folder, 'rudder.csv'), bytes)
  const line = await rovant([
    'import',
    join(folder, 'rudder.csv'),
    '--project',
    'FERRY',
    '--mapping',
    'Rudder list',
    '--data',
    server.data,
    '--json',
  ])
  expect(JSON.parse(line.out)).to.deep.include({ new: 1, changed: 0 })
  const twice = await rovant([
    'import',
    join(folder, 'rudder.csv'),
    '--project',
    'FERRY',
    '--mapping',
    'Rudder list',
    '--data',
    server.data,
    '--dry-run',
    '--json',
  ])
  expect(JSON.parse(twice.out)).to.deep.equal({ new: 0, changed: 0, unchanged: 1, gone: 0, problems: [] })
  expect((await send(bytes, `mapping=${encodeURIComponent('{"what":"cases"}')}`)).body.detail).to.match(/is no mapping/)
  expect(
    (
      await rovant([
        'import',
        join(folder, 'rudder.csv'),
        '--project',
        'FERRY',
        '--mapping',
        'Nobody',
        '--data',
        server.data,
      ])
    ).err,
  ).to.match(/neither such a file nor a mapping/)
})
for (const [name, format, bytes, cases, steps] of [
  [
    'a feature file',
    'gherkin',
    'Feature: Fog\n  Background:\n    Given fog\n  Scenario: Horn in fog\n    When the horn is pressed\n    Then it sounds\n  Scenario Outline: Horn at <n> knots\n    When <n>\n    Examples:\n      | n |\n      | 3 |\n',
    2,
    3,
  ],
  [
    'Markdown',
    'markdown',
    '# Fog\n## Lamp in fog\n- importance: high\n\n1. Switch it on => It shines\n2. Wait\n',
    1,
    2,
  ],
] as const)
  it(`reads ${name}, in the command and over the wire alike`, async () => {
    const folder = mkdtempSync(join(tmpdir(), 'rovant-in-'))
    writeFileSync(join(folder, 'file.bin'), bytes)
    const told = JSON.parse((await rovant(['inspect', join(folder, 'file.bin'), '--json'])).out)
    expect(told).to.deep.include({ format, cases, steps, problems: [] })
    const wire = (await send(bytes)).body
    expect([wire.format, wire.cases, wire.steps, wire.stored]).to.deep.equal([format, cases, steps, true])
  })
it('brings the whole outline out as ReqIF and finds every requirement unchanged when it comes back', async () => {
  const out = join(mkdtempSync(join(tmpdir(), 'rovant-out-')), 'ferry.reqifz')
  expect(
    (await rovant(['export', '--project', 'FERRY', '--format', 'reqifz', '--data', server.data, '--out', out])).code,
  ).to.equal(0)
  const told = JSON.parse((await rovant(['inspect', out, '--json'])).out)
  expect([told.format, told.requirements, told.problems]).to.deep.equal(['reqif', await total('requirements'), []])
  const dry = JSON.parse(
    (await rovant(['import', out, '--project', 'FERRY', '--dry-run', '--data', server.data, '--json'])).out,
  )
  expect(dry).to.deep.equal({ new: 0, changed: 0, unchanged: await total('requirements'), gone: 0, problems: [] })
})
it('names an attribute of ReqIF that is no field of the project, and reads it once it is one', async () => {
  const out = join(mkdtempSync(join(tmpdir(), 'rovant-out-')), 'draught.reqif')
  writeFileSync(
    out,
    `<REQ-IF><CORE-CONTENT><REQ-IF-CONTENT><SPEC-TYPES><SPEC-OBJECT-TYPE IDENTIFIER="t"><SPEC-ATTRIBUTES><ATTRIBUTE-DEFINITION-STRING IDENTIFIER="a" LONG-NAME="Draught"/><ATTRIBUTE-DEFINITION-STRING IDENTIFIER="n" LONG-NAME="ReqIF.Name"/></SPEC-ATTRIBUTES></SPEC-OBJECT-TYPE></SPEC-TYPES><SPEC-OBJECTS><SPEC-OBJECT IDENTIFIER="o"><VALUES><ATTRIBUTE-VALUE-STRING THE-VALUE="3 m"><DEFINITION><ATTRIBUTE-DEFINITION-STRING-REF>a</ATTRIBUTE-DEFINITION-STRING-REF></DEFINITION></ATTRIBUTE-VALUE-STRING><ATTRIBUTE-VALUE-STRING THE-VALUE="Draught of the ferry"><DEFINITION><ATTRIBUTE-DEFINITION-STRING-REF>n</ATTRIBUTE-DEFINITION-STRING-REF></DEFINITION></ATTRIBUTE-VALUE-STRING></VALUES></SPEC-OBJECT></SPEC-OBJECTS></REQ-IF-CONTENT></CORE-CONTENT></REQ-IF>`,
  )
  const first = await rovant(['import', out, '--project', 'FERRY', '--data', server.data])
  expect([first.code, first.err]).to.deep.equal([
    0,
    'the file: “Draught” is no field of this project and is left out; a lead can define it in the set-up\n',
  ])
  const field = (await mira.send('POST', `${P}/fields`, { owner: 'requirement', name: 'Draught', kind: 'text' })).body
  const again = await rovant(['import', out, '--project', 'FERRY', '--data', server.data, '--json'])
  expect([again.err, JSON.parse(again.out).changed]).to.deep.equal(['', 1])
  const row = (await mira.get(`${P}/requirements?text=Draught`)).body.rows[0]
  expect((await mira.get(`${P}/requirements/${row.key}`)).body.custom).to.deep.equal({ [field.id]: ['3 m'] })
  await mira.send('DELETE', `${P}/fields/${field.id}`)
  await mira.send('POST', `${P}/requirements/delete`, { ids: [row.id] })
})
for (const format of ['xlsx', 'csv', 'markdown'] as const)
  for (const what of ['cases', 'requirements'] as const)
    it(`brings ${what} out as ${format} and finds each unchanged when they come back`, async () => {
      const out = join(mkdtempSync(join(tmpdir(), 'rovant-out-')), `ferry.${format}`)
      const made = await rovant([
        'export',
        '--project',
        'FERRY',
        '--format',
        format,
        '--what',
        what,
        '--data',
        server.data,
        '--out',
        out,
      ])
      expect(made.code, made.err).to.equal(0)
      const dry = JSON.parse(
        (await rovant(['import', out, '--project', 'FERRY', '--dry-run', '--data', server.data, '--json'])).out,
      )
      expect(dry).to.deep.equal({ new: 0, changed: 0, unchanged: await total(what), gone: 0, problems: [] })
    })
it('writes a printable document and a feature file, and says what a format has no place for', async () => {
  const pdf = await rovant([
    'export',
    '--project',
    'FERRY',
    '--format',
    'pdf',
    '--what',
    'requirements',
    '--data',
    server.data,
  ])
  expect(pdf.out.slice(0, 5)).to.equal('%PDF-')
  const feature = await rovant(['export', '--project', 'FERRY', '--format', 'gherkin', '--data', server.data])
  expect(feature.out).to.match(/Scenario Outline: /)
  expect(feature.err).to.match(/left out: component \(\d+ cases\)/)
  expect(
    (
      await rovant([
        'export',
        '--project',
        'FERRY',
        '--format',
        'gherkin',
        '--what',
        'requirements',
        '--data',
        server.data,
      ])
    ).err,
  ).to.match(/holds cases, not requirements/)
})
it('refuses what is made to break it, with a sentence, and stays up', async () => {
  const before = [await total('cases'), await total('requirements')]
  const problem = async (bytes: Buffer | string) => {
    const { status, body } = await send(bytes)
    expect(status).to.be.within(400, 499)
    return body.detail
  }
  const book = await xlsxOf({
    Cases: [
      ['Case', 'Action'],
      ['a', 'b'],
    ],
  })
  expect(await problem(book.subarray(0, book.length - 200))).to.match(/cut off or damaged/)
  expect(await problem(Buffer.concat([Buffer.from([0xd0, 0xcf, 0x11, 0xe0]), Buffer.alloc(600)]))).to.match(
    /encrypted, or in the old binary format/,
  )
  expect(
    await problem(
      Buffer.from(
        zipSync({ 'xl/workbook.xml': strToU8('<x/>'), 'xl/worksheets/sheet1.xml': new Uint8Array(60_000_000) }),
      ),
    ),
  ).to.match(/packed \d+ times smaller/)
  expect(
    await problem(Buffer.from(zipSync({ '../../etc/passwd': strToU8('x'), 'xl/workbook.xml': strToU8('<x/>') }))),
  ).to.match(/leads out of it/)
  expect(await problem(Buffer.from(zipSync({ 'a.txt': strToU8('x') })))).to.match(/neither a workbook/)
  expect(await problem('<?xml version="1.0"?><!DOCTYPE r [<!ENTITY a "aaaa">]><REQ-IF>&a;</REQ-IF>')).to.match(
    /defines entities of its own/,
  )
  expect(
    await problem('<?xml version="1.0"?><!DOCTYPE r [<!ENTITY a SYSTEM "file:///etc/passwd">]><REQ-IF>&a;</REQ-IF>'),
  ).to.match(/defines entities of its own/)
  expect(await problem(Array.from({ length: 100_000 }, (_, n) => `c${n}`).join(','))).to.match(
    /100000 columns; at most 500/,
  )
  expect(
    await problem(
      odsOf(
        'Wide',
        `<table:table-row>${'<table:table-cell office:value-type="string"><text:p>x</text:p></table:table-cell>'.repeat(3)}<table:table-cell office:value-type="string" table:number-columns-repeated="100000"><text:p>x</text:p></table:table-cell></table:table-row>`,
      ),
    ),
  ).to.match(/at most 500 columns/)
  expect(
    await problem(
      odsOf(
        'Tall',
        '<table:table-row table:number-rows-repeated="900000000"><table:table-cell office:value-type="string"><text:p>x</text:p></table:table-cell></table:table-row>',
      ),
    ),
  ).to.match(/is repeated 900000000 times/)
  expect(await problem('id,case,action\nTC-99999,x,y\n')).to.match(/there is no TC-99999 in this project/)
  expect(await problem('id,case,action\nTC-3,x,y\nTC-4,y,z\nTC-3,z,z\n')).to.match(
    /row 4: is TC-3 again, which row 2 is already/,
  )
  expect([await total('cases'), await total('requirements')]).to.deep.equal(before)
  expect((await fetch(`${server.url}/healthz`)).status).to.equal(200)
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
      headers: { cookie: await signInCookie() },
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
async function signInCookie(): Promise<string> {
  const answer = await fetch(`${server.url}/api/v1/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: 'mira@tarnsey.example', password: 'ferry-2024' }),
  })
  return answer.headers
    .getSetCookie()
    .map((cookie) => cookie.split(';')[0])
    .join('; ')
}
it('cancels an import that is broken off, and leaves nothing behind', async () => {
  const before = await total('cases')
  const rows = Array.from({ length: 8000 }, (_, n) => `Broken off ${n},Do it,It is done`).join('\n')
  const stop = new AbortController()
  const going = fetch(`${server.url}/api/v1${P}/imports?dry=no&job=cut`, {
    method: 'POST',
    signal: stop.signal,
    headers: { cookie: await signInCookie(), 'content-type': 'text/csv' },
    body: `case,action,expected\n${rows}\n`,
  }).catch((error: Error) => error.name)
  let seen = 0
  for (let tries = 0; tries < 400 && seen === 0; tries++) {
    const told = await mira.get(`${P}/imports/jobs/cut`)
    seen = told.status === 200 ? told.body.done : 0
    await new Promise((resolve) => setTimeout(resolve, 10))
  }
  stop.abort()
  expect(await going).to.equal('AbortError')
  expect(seen).to.be.within(1, 7999)
  for (let tries = 0; tries < 100 && (await mira.get(`${P}/imports/jobs/cut`)).status === 200; tries++)
    await new Promise((resolve) => setTimeout(resolve, 50))
  expect(await total('cases')).to.equal(before)
  expect((await rovant(['verify', '--data', server.data])).out).to.match(/sound/)
})
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
  expect((await set({ [deck.id]: ['roof'] })).body.detail).to.match(/Vessel deck: “roof” is none of car deck, sun deck/)
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
  expect((await tester.send('POST', `${P}/fields`, { owner: 'case', name: 'Mine', kind: 'text' })).status).to.equal(403)
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
    told.text.filter(({ kind }: { kind: string }) => kind !== 'same').map(({ text }: { text: string }) => text.trim()),
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
    const told = await rovant(['import', out, '--format', 'rovant-archive', '--project', 'COPY', '--data', server.data])
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
    JSON.parse((await rovant(['coverage', '--project', key, '--data', server.data, '--as-of', at, '--json'])).out).total
      .figures
  expect(await figures('TWIN')).to.deep.equal(await figures('FERRY'))
  expect((await rovant(['verify', '--data', server.data])).out).to.match(/sound/)
  expect((await rovant(['import', out, '--project', 'TWIN', '--data', server.data])).err).to.match(
    /There is a project TWIN already/,
  )
})
