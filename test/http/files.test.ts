import { mkdtempSync, truncateSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect } from 'chai'
import { type Client, clientOf, demoData, rovant, type Running, startServer } from '../server.ts'

let server: Running
let mira: Client
const P = '/projects/FERRY'
const folder = mkdtempSync(join(tmpdir(), 'rovant-csv-'))
const file = (name: string, bytes: string | Buffer): string => {
  writeFileSync(join(folder, name), bytes)
  return join(folder, name)
}
const send = (bytes: string | Buffer, query = 'dry=no') =>
  mira.send('POST', `${P}/imports?${query}`, typeof bytes === 'string' ? Buffer.from(bytes) : bytes, {
    'content-type': 'text/csv',
  })
const countOf = async (what: 'requirements' | 'cases') => (await mira.get(`${P}/${what}?limit=1`)).body.total

describe('files', () => {
  before(async () => {
    server = await startServer({ command: 'demo', data: await demoData() })
    mira = await clientOf(server.url, 'mira')
  })
  after(() => server.stop())

  it('brings requirements in with parents, risk, release and reference', async () => {
    const answer = await send(
      'Title;Text;Parent;Risk;Release;Outside reference\nHarbour dues;All dues;;;2.4;\nDue by length;"Per ""metre""";Harbour dues;4x5;2.4;HD-1\nDue by night;;RQ-1;9;;HD-2\n',
    )
    expect(answer.body).to.include({ stored: true, requirements: 3, told: 'UTF-8, separated by “;”' })
    const rows = (await mira.get(`${P}/requirements?text=Due`)).body.rows
    const [branch, byLength, byNight] = ['Harbour dues', 'Due by length', 'Due by night'].map((title) =>
      rows.find((row: { title: string }) => row.title === title),
    )
    expect(byLength).to.include({ parent: branch.id, risk: 20, release: '2.4', outside: 'HD-1' })
    expect(byNight.parent).to.equal(1)
  })
  it('brings cases in, a row a step, with folders and links', async () => {
    const answer = await send(
      'Case,Action,Expected,Requirement,Folder,Importance\nDue is shown,Open the bill,The due is there,RQ-2,Harbour/Dues,High\n,Pay it,It is paid,,,\nDue is waived,Ask,It is 0,RQ-2,Harbour/Dues,Low\n',
    )
    expect(answer.body).to.include({ stored: true, cases: 2, steps: 3 })
    const row = (await mira.get(`${P}/cases?text=${encodeURIComponent('"due is shown"')}`)).body.rows[0]
    expect(row).to.include({ steps: 2, requirements: 1, folder: 'Dues', importance: 'High' })
  })
  it('refuses all of it, naming each place, and leaves nothing behind', async () => {
    const before = [await countOf('requirements'), await countOf('cases')]
    const problem = async (bytes: string | Buffer) => (await send(bytes)).body.detail
    expect(await problem('a,b\n1,2\n')).to.match(/Row 1 is not a header/)
    expect(await problem('title,parent\nLost,Nowhere at all\n')).to.equal(
      'Nothing was imported. One problem: row 2: its parent “Nowhere at all” is neither in the file nor in the project.',
    )
    expect(await problem('title,text\na\nb,c,d\n')).to.match(
      /2 problems: row 2: has 1 cells where the header has 2; row 3: has 3 cells/,
    )
    expect(await problem('title,text\n"never closed,x\n')).to.match(/a quote that opens is never closed/)
    expect(await problem('title,parent\na,b\nb,a\n')).to.match(/below itself by way of its parents/)
    expect(await problem('')).to.match(/nothing in the file to import/)
    expect(await problem(Buffer.from([0x50, 0x4b, 3, 4, 0, 0, 0, 0]))).to.match(/cut off or damaged/)
    expect(await problem(Buffer.from([0x1f, 0x8b, 0, 4, 0, 0, 0, 0]))).to.match(/not a text file/)
    expect(await problem('case,action,expected,requirement\nx,y,z,RQ-99999\n')).to.match(
      /row 2: there is no requirement “RQ-99999”/,
    )
    expect(await problem('title,release\nx,9.9\n')).to.match(/row 2: there is no release “9.9”/)
    expect([await countOf('requirements'), await countOf('cases')]).to.deep.equal(before)
  })
  it('reads other encodings and says which', async () => {
    const latin = await send(Buffer.from([...Buffer.from('title,text\nF'), 0xe4, ...Buffer.from('hre,x\n')]), 'dry=yes')
    expect([latin.body.told.slice(0, 12), latin.body.preview[0].title]).to.deep.equal(['Windows-1252', 'Fähre'])
    const wide = await send(
      Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from('title,text\nFähre,x\n', 'utf16le')]),
      'dry=yes',
    )
    expect([wide.body.told.slice(0, 6), wide.body.preview[0].title]).to.deep.equal(['UTF-16', 'Fähre'])
  })
  it('turns away a file of 200 MB with a sentence, in the command and over the wire', async () => {
    const big = file('big.csv', 'title\n')
    truncateSync(big, 200_000_000)
    const told = await rovant(['inspect', big])
    expect([told.code, told.err]).to.deep.equal([1, `${big}: the file has 200 MB; at most 50 MB are read. Split it.\n`])
    const wire = await send(Buffer.alloc(60_000_000, 'a'))
    expect([wire.status, wire.body.detail]).to.deep.equal([
      413,
      'The file has more than 50 MB, which is the most that is read. Split it; nothing was imported.',
    ])
  })
  it('inspects without a database, in one JSON document', async () => {
    const told = await rovant([
      'inspect',
      file('cases.csv', 'case,action,expected\nPay,Go,There\n,Pay,Paid\nRefund,Ask,Back\n'),
      '--json',
    ])
    const json = JSON.parse(told.out)
    expect([told.code, json.format, json.cases, json.steps, json.problems, json.preview.length]).to.deep.equal([
      0,
      'csv',
      2,
      3,
      [],
      2,
    ])
    const bad = await rovant(['inspect', file('none.csv', '4711,x\n'), '--json'])
    expect([bad.code, bad.out]).to.deep.equal([1, ''])
    expect(bad.err).to.match(/^Row 1 is not a header/)
    expect((await rovant(['inspect', join(folder, 'missing.csv')])).err).to.match(/there is no such file/)
  })
  it('uses exit codes 0, 1 and 2, and keeps errors to a sentence', async () => {
    expect((await rovant(['coverage'])).code).to.equal(2)
    expect((await rovant(['sail'])).code).to.equal(2)
    expect((await rovant(['--help'])).code).to.equal(0)
    const wrong = await rovant(['coverage', '--project', 'NONE', '--data', server.data])
    expect([wrong.code, wrong.err]).to.deep.equal([1, 'There is no project NONE in this data directory.\n'])
  })
  it('imports and reports from the command line as the server does', async () => {
    const done = await rovant([
      'import',
      file('more.csv', 'title,risk\nTide table,2x2\n'),
      '--project',
      'FERRY',
      '--data',
      server.data,
      '--json',
    ])
    expect(JSON.parse(done.out).imported).to.equal(1)
    // One instant for both: confidence falls with every millisecond of age.
    const at = Date.now()
    const line = JSON.parse(
      (
        await rovant([
          'coverage',
          '--project',
          'FERRY',
          '--data',
          server.data,
          '--as-of',
          new Date(at).toISOString(),
          '--json',
        ])
      ).out,
    )
    const api = (await mira.get(`${P}/reports/coverage?ids=all&asOf=${at}`)).body
    expect(line.total.figures).to.deep.equal(api.total.figures)
  })
  it('writes no file that nobody waits for any more, tells nobody that one was taken, and goes on', async () => {
    const ilo = await clientOf(server.url, 'ilo')
    const taken = async () =>
      (await ilo.get('/security-events?limit=500')).body.rows.filter(({ kind }: { kind: string }) => kind === 'export')
        .length
    const before = await taken()
    const asked = (format: string, signal?: AbortSignal) =>
      fetch(`${server.url}/api/v1${P}/export?format=${format}&what=cases`, {
        headers: { cookie: mira.cookie },
        ...(signal && { signal }),
      })
    const stopping = new AbortController()
    const stopped = asked('pdf', stopping.signal).then(
      () => 'written',
      (error: unknown) => (error instanceof Error ? error.name : ''),
    )
    setTimeout(() => stopping.abort(), 30)
    expect(await stopped).to.equal('AbortError')
    const next = await asked('csv')
    expect([next.status, (await next.text()).length > 1000]).to.deep.equal([200, true])
    expect(await taken()).to.equal(before + 1)
  })
  it('backs up while running, restores into an empty directory only, and verifies both', async () => {
    const out = join(folder, 'backup')
    expect((await rovant(['backup', out, '--data', server.data])).code).to.equal(0)
    const into = join(folder, 'restored')
    expect((await rovant(['restore', out, '--data', into])).out).to.match(/restored and verified/)
    expect((await rovant(['restore', out, '--data', into])).err).to.match(/is not empty/)
    const figures = async (data: string) =>
      JSON.parse((await rovant(['coverage', '--project', 'FERRY', '--data', data, '--json'])).out).total.figures
        .verdicts
    expect(await figures(into)).to.deep.equal(await figures(server.data))
    expect((await rovant(['verify', '--data', server.data])).out).to.match(/sound/)
  })
  it('finds what was tampered with', async () => {
    const { default: Database } = await import('better-sqlite3')
    const into = join(folder, 'restored')
    const db = new Database(join(into, 'rovant.db'))
    db.prepare("update standing_result set verdict = 'Passed' where verdict = 'Failed'").run()
    db.prepare('delete from search where rowid in (select rowid from search limit 1)').run()
    db.close()
    const told = await rovant(['verify', '--data', into, '--json'])
    expect(told.code).to.equal(1)
    expect(JSON.parse(told.out).problems.join('\n'))
      .to.match(/standing results: \d+ differ/)
      .and.match(/search index/)
  })
})
