import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect } from 'chai'
import { strToU8, zipSync } from 'fflate'
import { type Client, clientOf, demoData, rovant, type Running, startServer } from '../server.ts'
import { odsOf, xlsxOf } from '../workbooks.ts'
import { P, importing, signInCookie } from './ferry.ts'

let server: Running
let mira: Client
describe('formats', () => {
  before(async () => {
    server = await startServer({ command: 'demo', data: await demoData() })
    mira = await clientOf(server.url, 'mira')
  })
  after(() => server.stop())
  const { send, caseOf, total } = importing(() => mira)

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
    expect((await caseOf('Tie the ferry')).content.steps.map(({ action }: { action: string }) => action)).to.deep.equal(
      ['Throw the line', 'Pull'],
    )
  })
  it('reads an OpenDocument workbook with repeated and spanning cells, dates and spaces', async () => {
    const cell = (text: string, rest = '') =>
      `<table:table-cell office:value-type="string"${rest}><text:p>${text}</text:p></table:table-cell>`
    const bytes = odsOf(
      'Wharf',
      [
        `<table:table-row>${cell('Case')}${cell('Action')}${cell('Data')}`,
        '<table:table-cell table:number-columns-repeated="16381"/></table:table-row>',
        `<table:table-row>${cell('Moor', ' table:number-rows-spanned="2"')}${cell('Wait<text:s text:c="2"/>here')}`,
        '<table:table-cell office:value-type="date" office:date-value="2026-11-23"><text:p>23.11.</text:p></table:table-cell>',
        `</table:table-row><table:table-row><table:covered-table-cell/>${cell('Tie &amp; tell')}</table:table-row>`,
        '<table:table-row table:number-rows-repeated="1048573">',
        '<table:table-cell table:number-columns-repeated="16384"/></table:table-row>',
      ].join(''),
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
      { A: 'id' },
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
    expect(JSON.parse(twice.out)).to.deep.equal({ new: 0, changed: 0, unchanged: 1, gone: 0, problems: [], unread: [] })
    expect((await send(bytes, `mapping=${encodeURIComponent('{"what":"cases"}')}`)).body.detail).to.match(
      /is no mapping/,
    )
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
    expect(dry).to.deep.equal({
      new: 0,
      changed: 0,
      unchanged: await total('requirements'),
      gone: 0,
      problems: [],
      unread: [],
    })
  })
  it('names an attribute of ReqIF that is no field of the project, and reads it once it is one', async () => {
    const out = join(mkdtempSync(join(tmpdir(), 'rovant-out-')), 'draught.reqif')
    writeFileSync(
      out,
      `<REQ-IF><CORE-CONTENT><REQ-IF-CONTENT>
      <SPEC-TYPES><SPEC-OBJECT-TYPE IDENTIFIER="t"><SPEC-ATTRIBUTES>
        <ATTRIBUTE-DEFINITION-STRING IDENTIFIER="a" LONG-NAME="Draught"/>
        <ATTRIBUTE-DEFINITION-STRING IDENTIFIER="n" LONG-NAME="ReqIF.Name"/>
      </SPEC-ATTRIBUTES></SPEC-OBJECT-TYPE></SPEC-TYPES>
      <SPEC-OBJECTS><SPEC-OBJECT IDENTIFIER="o"><VALUES>
        <ATTRIBUTE-VALUE-STRING THE-VALUE="3 m">
          <DEFINITION><ATTRIBUTE-DEFINITION-STRING-REF>a</ATTRIBUTE-DEFINITION-STRING-REF></DEFINITION>
        </ATTRIBUTE-VALUE-STRING>
        <ATTRIBUTE-VALUE-STRING THE-VALUE="Draught of the ferry">
          <DEFINITION><ATTRIBUTE-DEFINITION-STRING-REF>n</ATTRIBUTE-DEFINITION-STRING-REF></DEFINITION>
        </ATTRIBUTE-VALUE-STRING>
      </VALUES></SPEC-OBJECT></SPEC-OBJECTS>
    </REQ-IF-CONTENT></CORE-CONTENT></REQ-IF>`,
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
        expect(dry).to.deep.equal({
          new: 0,
          changed: 0,
          unchanged: await total(what),
          gone: 0,
          problems: [],
          unread: [],
        })
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
    const cell = '<table:table-cell office:value-type="string"'
    const wide = `${`${cell}><text:p>x</text:p></table:table-cell>`.repeat(3)}${cell} table:number-columns-repeated="100000"><text:p>x</text:p></table:table-cell>`
    const tall = `<table:table-row table:number-rows-repeated="900000000">${cell}><text:p>x</text:p></table:table-cell></table:table-row>`
    for (const [file, says] of [
      [Array.from({ length: 100_000 }, (_, n) => `c${n}`).join(','), /100000 columns; at most 500/],
      [odsOf('Wide', `<table:table-row>${wide}</table:table-row>`), /at most 500 columns/],
      [odsOf('Tall', tall), /is repeated 900000000 times/],
      ['id,case,action\nTC-99999,x,y\n', /there is no TC-99999 in this project/],
      ['id,case,action\nTC-3,x,y\nTC-4,y,z\nTC-3,z,z\n', /row 4: is TC-3 again, which row 2 is already/],
    ] as const)
      expect(await problem(file)).to.match(says)
    expect([await total('cases'), await total('requirements')]).to.deep.equal(before)
    expect((await fetch(`${server.url}/healthz`)).status).to.equal(200)
  })
  it('cancels an import that is broken off, and leaves nothing behind', async () => {
    const before = await total('cases')
    const rows = Array.from({ length: 8000 }, (_, n) => `Broken off ${n},Do it,It is done`).join('\n')
    const stop = new AbortController()
    const going = fetch(`${server.url}/api/v1${P}/imports?dry=no`, {
      method: 'POST',
      signal: stop.signal,
      headers: { cookie: await signInCookie(server), 'content-type': 'text/csv', 'rovant-job': 'cut' },
      body: `case,action,expected\n${rows}\n`,
    }).catch((error: Error) => error.name)
    let seen = 0
    for (let tries = 0; tries < 400 && seen === 0; tries++) {
      const told = await mira.get(`${P}/going/cut`)
      seen = told.status === 200 ? told.body.done : 0
      await new Promise((resolve) => setTimeout(resolve, 10))
    }
    stop.abort()
    expect(await going).to.equal('AbortError')
    expect(seen).to.be.within(1, 7999)
    for (let tries = 0; tries < 100 && (await mira.get(`${P}/going/cut`)).status === 200; tries++)
      await new Promise((resolve) => setTimeout(resolve, 50))
    expect(await total('cases')).to.equal(before)
    expect((await rovant(['verify', '--data', server.data])).out).to.match(/sound/)
  })
})
