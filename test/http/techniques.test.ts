import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect } from 'chai'
import { type Client, clientOf, demoData, rovant, type Running, startServer } from '../server.ts'

let server: Running
let mira: Client
let oda: Client
const P = '/projects/FERRY'
describe('techniques', () => {
  before(async () => {
    server = await startServer({ command: 'demo', data: await demoData() })
    mira = await clientOf(server.url, 'mira')
    oda = await clientOf(server.url, 'oda')
  })
  after(() => server.stop())

  const folder = mkdtempSync(join(tmpdir(), 'rovant-models-'))
  const file = (name: string, content: unknown): string => {
    const path = join(folder, name)
    writeFileSync(path, typeof content === 'string' ? content : JSON.stringify(content))
    return path
  }
  const combos = { parameters: { a: ['1', '2', '3'], b: ['1', '2', '3'], c: ['1', '2', '3'], d: ['1', '2', '3'] } }

  describe('the commands', () => {
    it('combine, keep existing rows, and say the same twice', async () => {
      const model = file('combos.json', {
        ...combos,
        constraints: [{ if: { a: ['1'] }, then: { b: ['2', '3'] } }],
        negative: { c: ['bad'] },
      })
      const existing = file('existing.json', [{ a: '2', b: '2' }, { a: '1', b: '1', c: '1', d: '1' }, { a: '9' }])
      const first = await rovant(['combos', model, '--existing', existing, '--json', '--moves', '20000'])
      expect(first.code, first.err).to.equal(0)
      const answer = JSON.parse(first.out)
      expect([answer.tuples, answer.infeasible, answer.covered, answer.existing]).to.deep.equal([
        53,
        1,
        53,
        { rows: 1, covered: 1 },
      ])
      expect(answer.rows[0]).to.include({ a: '2', b: '2' })
      expect(first.err)
        .to.match(/existing\[1\].*no valid row/)
        .and.match(/existing\[2\].*no value 9/)
      expect((await rovant(['combos', model, '--existing', existing, '--json', '--moves', '20000'])).out).to.equal(
        first.out,
      )
    })
    it('answer boundaries, decisions and paths as the model files say', async () => {
      const told = await Promise.all([
        rovant([
          'boundaries',
          file('b.json', {
            inputs: { age: { type: 'integer', partitions: [{ name: 'child', from: 4, to: 15, valid: true }] } },
            values: 2,
          }),
          '--json',
        ]),
        rovant([
          'decisions',
          file('d.json', {
            conditions: { resident: ['yes', 'no'] },
            rules: [{ when: { resident: ['yes'] }, then: { fare: 'half' } }],
          }),
          '--json',
        ]),
        rovant([
          'paths',
          file('p.json', {
            initial: 'held',
            final: ['sailed'],
            transitions: [
              { from: 'held', event: 'pay', to: 'paid' },
              { from: 'paid', event: 'sail', to: 'sailed' },
            ],
          }),
          '--criterion',
          'transitions',
          '--json',
        ]),
      ])
      expect(told.map(({ code }) => code)).to.deep.equal([0, 0, 0])
      const [b, d, p] = told.map(({ out }) => JSON.parse(out))
      expect(b.cases.map(({ value }: { value: number }) => value)).to.deep.equal([3, 4, 15, 16])
      expect(b.rows[2]).to.deep.equal({ age: 3, invalid: 'age' })
      expect(d).to.include({ complete: false, combinations: 2 })
      expect(d.missing).to.deep.equal([{ resident: ['no'] }])
      expect(p).to.deep.include({ paths: [[0, 1]], steps: 2, covered: 2, of: 2, unreachable: [] })
    })
    it('answer bad models with exit 1 and the place, wrong use with exit 2, and never with a stack', async () => {
      const cases: readonly (readonly [args: readonly string[], code: number, says: RegExp])[] = [
        [['combos', file('empty.json', { parameters: {} })], 1, /no parameters yet/],
        [
          ['combos', file('twice.json', '{"parameters": {"a": ["1"], "a": ["2"]}}')],
          1,
          /parameters\.a: this name stands twice/,
        ],
        [['combos', file('half.json', '{"parameters"')], 1, /half\.json.*no JSON/],
        [
          [
            'combos',
            file('contra.json', {
              parameters: { a: ['1'], b: ['1', '2'] },
              constraints: [
                { forbid: { b: '2', a: '1' } },
                { forbid: { a: '1', b: '1' } },
                { forbid: { b: ['2'], a: ['1'] } },
              ],
            }),
          ],
          1,
          /these 2 rules[\s\S]*constraints\[1\][\s\S]*constraints\[2\]/,
        ],
        [
          ['decisions', file('unknown.json', { conditions: { a: ['x'] }, rules: [{ when: { a: ['q'] }, then: {} }] })],
          1,
          /rules\[0\]\.when\.a/,
        ],
        [
          [
            'boundaries',
            file('turned.json', { inputs: { n: { type: 'integer', partitions: [{ name: 'p', from: 9, to: 1 }] } } }),
          ],
          1,
          /inputs\.n\.partitions\[0\]/,
        ],
        [
          [
            'paths',
            file('lost.json', { initial: 'x', transitions: [{ from: 'a', event: 'e', to: 'b' }] }),
            '--criterion',
            'states',
          ],
          1,
          /initial/,
        ],
        [['paths', file('lost.json', {})], 2, /criterion/],
        [['combos', file('empty.json', { parameters: {} }), '--strength', '9'], 2, /1 to 6/],
        [['combos', join(folder, 'nowhere.json')], 1, /no such file/],
      ]
      for (const [args, code, says] of cases) {
        const told = await rovant(args)
        expect([told.code, told.out], args.join(' ')).to.deep.equal([code, ''])
        expect(told.err).to.match(says)
        expect(told.err).not.to.match(/\n\s+at /)
      }
    })
  })

  const models = async () => (await mira.get(`${P}/requirements/RQ-15/drafting`)).body.models
  const made = async (body: object): Promise<number> => {
    const answer = await mira.send('POST', `${P}/requirements/RQ-15/models`, body)
    expect(answer.status, JSON.stringify(answer.body)).to.equal(200)
    return answer.body.id
  }
  const accepted = (row: object, title = 'A case') => ({
    row,
    title,
    steps: [{ action: 'Try <it>', expected: 'Done' }],
  })

  it('keeps a model with its lines, tells revisions apart, and refuses what was changed meanwhile', async () => {
    const id = await made({
      name: 'Cards',
      model: { technique: 'combos', body: combos },
      source: { parameters: ['a: 1, 2, 3', 'not yet a line'] },
    })
    const [own] = (await models()).filter((each: { id: number }) => each.id === id)
    expect(own).to.deep.include({
      name: 'Cards',
      revision: 1,
      version: 1,
      source: { parameters: ['a: 1, 2, 3', 'not yet a line'] },
    })
    const edit = (body: object, version: number) =>
      mira.send('PATCH', `${P}/models/${id}`, body, { 'if-match': String(version) })
    expect((await edit({ model: { technique: 'combos', body: { parameters: { a: ['1'] } } } }, 1)).body).to.deep.equal({
      version: 2,
      revision: 1,
    })
    expect((await edit({ name: 'Late' }, 1)).status).to.equal(412)
    expect(
      (await edit({ model: { technique: 'paths', body: { initial: 'a', transitions: [] } } }, 2)).body.detail,
    ).to.match(/keeps its technique/)
    const row = { a: '1' }
    const first = await mira.send('POST', `${P}/models/${id}/accept`, {
      as: 'cases',
      revision: 1,
      rows: [accepted(row)],
    })
    expect(first.body.keys).to.have.length(1)
    // Rows were decided at this revision, so the next change is another one.
    expect((await edit({ model: { technique: 'combos', body: combos } }, 2)).body).to.deep.equal({
      version: 3,
      revision: 2,
    })
    expect(
      (await mira.get(`${P}/models/${id}/revisions`)).body.rows.map(({ revision }: { revision: number }) => revision),
    ).to.deep.equal([2, 1])
    expect(
      (await mira.send('POST', `${P}/models/${id}/accept`, { as: 'cases', revision: 1, rows: [accepted({ a: '2' })] }))
        .status,
    ).to.equal(412)
    expect((await mira.get(`${P}/models/${id}/file`)).body.parameters).to.deep.equal(combos.parameters)
    await mira.send('DELETE', `${P}/models/${id}`)
    expect((await models()).some((each: { id: number }) => each.id === id)).to.equal(false)
    await mira.send('POST', `${P}/models/${id}/restore`)
    expect((await models()).some((each: { id: number }) => each.id === id)).to.equal(true)
  })

  it('makes linked cases of rows once, or data rows of one case, and lets a person decide about what the model drops', async () => {
    const id = await made({
      name: 'Fares',
      model: {
        technique: 'decisions',
        body: {
          conditions: { card: ['new', 'old'] },
          rules: [
            { when: { card: ['new'] }, then: { fare: 'half' } },
            { when: { card: ['old'] }, then: { fare: 'full' } },
          ],
        },
      },
    })
    const accept = (body: object) => mira.send('POST', `${P}/models/${id}/accept`, { revision: 1, ...body })
    const one = (
      await accept({
        as: 'cases',
        rows: [accepted({ card: 'new' }, 'New card'), accepted({ card: 'new' }, 'The same again')],
      })
    ).body
    expect(one.keys).to.have.length(1)
    const sheet = (await mira.get(`${P}/cases/${one.keys[0]}`)).body
    expect([sheet.title, sheet.content.steps[0].action]).to.deep.equal(['New card', 'Try &lt;it&gt;'])
    expect((await mira.get(`${P}/requirements/RQ-15`)).body.linked.map(({ key }: { key: string }) => key)).to.include(
      one.keys[0],
    )
    expect((await accept({ as: 'cases', rows: [accepted({ card: 'new' })] })).body.detail).to.match(/accepted already/)
    const rows = (await accept({ as: 'data rows', title: 'Cards by rows', rows: [accepted({ card: 'old' })] })).body
    expect((await mira.get(`${P}/cases/${rows.keys[0]}`)).body.content.rows).to.deep.equal([
      { card: 'old', expected: 'Done' },
    ])
    const designed = async () =>
      (await mira.get(`${P}/designed?ref=RQ-15`)).body.rows[0].parts.find(
        ({ model }: { model: number }) => model === id,
      )
    expect(await designed()).to.include({ targets: 2, answered: 2 })
    const decided = await mira.send('POST', `${P}/models/${id}/decide`, {
      end: [one.rows[0]],
      retire: true,
      leaveOut: [{ card: 'none' }],
    })
    expect(decided.body.retired).to.deep.equal(one.keys)
    expect((await mira.get(`${P}/cases/${one.keys[0]}`)).body.retired).to.equal(true)
    expect(await designed()).to.include({ targets: 2, answered: 1 })
    expect((await oda.send('POST', `${P}/models/${id}/decide`, { keep: [one.rows[0]] })).status).to.equal(403)
  })

  it('merges rows into a case that is there, as a new version of it', async () => {
    const id = await made({
      name: 'Cards again',
      model: { technique: 'combos', body: { parameters: { card: ['new', 'old'] }, strength: 1 } },
    })
    const key: string = (
      await mira.send('POST', `${P}/cases/lines`, { lines: 'Takes rows\n\tPay with {card} => Paid' })
    ).body.keys[0]
    const told = await mira.send('POST', `${P}/models/${id}/accept`, {
      as: 'data rows',
      into: key,
      revision: 1,
      rows: [accepted({ card: 'new' }), accepted({ card: 'old' })],
    })
    expect(told.body.keys).to.deep.equal([key])
    const sheet = (await mira.get(`${P}/cases/${key}`)).body
    expect([sheet.content.rows.map((row: { card: string }) => row.card), sheet.content.parameters]).to.deep.equal([
      ['new', 'old'],
      ['card', 'expected'],
    ])
    expect(sheet.versions.length).to.be.greaterThan(0)
    const path = await made({
      name: 'Walk',
      model: { technique: 'paths', body: { initial: 'a', transitions: [{ from: 'a', event: 'e', to: 'b' }] } },
    })
    expect(
      (
        await mira.send('POST', `${P}/models/${path}/accept`, {
          as: 'data rows',
          revision: 1,
          rows: [accepted({ path: 'a –e→ b' })],
        })
      ).body.detail,
    ).to.match(/differ in their steps/)
  })

  it('tells a model that the requirement has changed since, until somebody says it still fits', async () => {
    const id = await made({ name: 'Held against', model: { technique: 'combos', body: combos } })
    const own = async () => (await models()).find((each: { id: number }) => each.id === id)
    const { version } = (await mira.get(`${P}/requirements/RQ-15`)).body
    await mira.send(
      'PATCH',
      `${P}/requirements/RQ-15`,
      { title: 'Another title altogether' },
      { 'if-match': String(version) },
    )
    const { revision } = (await mira.get(`${P}/requirements/RQ-15/drafting`)).body.requirement
    expect((await own()).requirementRevision).to.equal(revision - 1)
    await mira.send('PATCH', `${P}/models/${id}`, { fits: true }, { 'if-match': '1' })
    expect((await own()).requirementRevision).to.equal(revision)
  })

  it('keeps a checklist beside the models', async () => {
    const list = async () => (await mira.get(`${P}/requirements/RQ-15/drafting`)).body.checklist
    const { ids } = (
      await mira.send('POST', `${P}/requirements/RQ-15/checklist`, { lines: 'Card in a wet hand\nCard read twice' })
    ).body
    expect((await mira.send('PATCH', `${P}/checklist/${ids[0]}`, { done: true, case: 'TC-1' })).status).to.equal(200)
    expect(
      (await list()).map(({ text, done, case: of }: { text: string; done: boolean; case: string | null }) => [
        text,
        done,
        of,
      ]),
    ).to.deep.equal([
      ['Card in a wet hand', true, 'TC-1'],
      ['Card read twice', false, null],
    ])
    await mira.send('PATCH', `${P}/checklist/${ids[1]}`, { deleted: true })
    expect(await list()).to.have.length(1)
    expect((await mira.send('PATCH', `${P}/checklist/${ids[0]}`, { case: 'TC-99999' })).status).to.equal(404)
  })

  it('refuses a model that is none, with its place', async () => {
    const answer = await mira.send('POST', `${P}/requirements/RQ-15/models`, {
      name: 'x',
      model: { technique: 'combos', body: { parameters: { a: 'x' } } },
    })
    expect(answer.status).to.equal(400)
    expect(JSON.stringify(answer.body)).to.include('model.body.parameters.a')
  })

  it('counts the rows a case has already, without a change in it', async () => {
    const id = await made({
      name: 'Cards a third time',
      model: { technique: 'combos', body: { parameters: { card: ['new', 'old'], day: ['1', '2'] } } },
    })
    const key: string = (
      await mira.send('POST', `${P}/cases/lines`, { lines: 'Has rows\n\tPay with {card} on {day} => Paid' })
    ).body.keys[0]
    const before = (await mira.get(`${P}/cases/${key}`)).body
    const answer = await mira.send('POST', `${P}/models/${id}/accept`, {
      as: 'existing',
      into: key,
      revision: 1,
      rows: [accepted({ card: 'new', day: '1' }), accepted({ card: 'old', day: '1' })],
    })
    expect([answer.status, answer.body.keys]).to.deep.equal([200, [key]])
    expect((await mira.get(`${P}/cases/${key}`)).body.contentStamp).to.equal(before.contentStamp)
    const all = (await mira.get(`${P}/designed?limit=1`)).body
    expect([all.rows.length, all.next, all.total > 1]).to.deep.equal([1, 1, true])
    expect(
      (await mira.get(`${P}/designed?ref=RQ-15`)).body.rows[0].parts.find(
        ({ model }: { model: number }) => model === id,
      ),
    ).to.include({ targets: 4, answered: 2 })
    expect(
      (
        await mira.send('POST', `${P}/models/${id}/accept`, {
          as: 'existing',
          revision: 1,
          rows: [accepted({ card: 'new', day: '2' })],
        })
      ).status,
    ).to.equal(400)
  })
})
