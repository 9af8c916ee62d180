import { parse } from 'csv-parse/sync'
import { expect } from 'chai'
import { listAttempts } from '#core/runs/attempts-contract.ts'
import { storeWorkingCopy } from '#core/cases/contract.ts'
import { createTable, updateTable } from '#core/reuse/table-contract.ts'
import { bringItemsIn, sendItemsOut } from '#core/runs/file-contract.ts'
import { listItems, updateRun, readRun } from '#core/runs/contract.ts'
import { addEvidence, recordWhole, startAttempt } from '#core/runs/desk-contract.ts'
import { giveVerdicts, takeVerdictsBack } from '#core/runs/many-contract.ts'
import { expectSound } from '#test/sound.ts'
import { minute, shop, type Shop } from '#test/app.ts'
import { addRemark, caseOf, execute, makeCase, makeDealtRun, sent, start, whole } from '#test/make.ts'
import { csvText } from '#server/http/csv-text.ts'

describe('a run as a file', () => {
  let of: Shop
  let ids: number[]
  const params = { ref: 'RN-1' }
  beforeEach(async () => {
    of = shop()
    await makeCase(of.lead, 'Adult pays', { steps: ['Enter it => It is taken', 'Pay => It is paid'] })
    await makeCase(of.lead, 'Child pays', { steps: ['Look => It is half'] })
    ids = (await makeDealtRun(of, ['TC-1', 'TC-2'])).items.map(({ id }) => id)
  })
  const file = (query: string) => of.viewer.send('GET', `/projects/SHOP/runs/RN-1/file?${query}`)
  const table = (text: unknown): string[][] => parse(String(text), { bom: true, relax_column_count: true })
  /** What goes out as CSV, filled in by `fill`. */
  const filled = async (fill: (line: Record<string, string>) => Partial<Record<string, string>>): Promise<string> => {
    const { body } = await of.lead.send('POST', '/projects/SHOP/runs/RN-1/out', { as: 'csv' })
    const [head = [], ...rows] = table(body)
    return csvText([
      head,
      ...rows.map((cells) => {
        const line = Object.fromEntries(head.map((name, at) => [name, cells[at] ?? '']))
        const said = { ...line, ...fill(line) }
        return head.map((name) => said[name] ?? '')
      }),
    ])
  }
  const bring = (text: string, dry: 'yes' | 'no', person = 'tester') =>
    of.lead.ask(bringItemsIn, { params, query: { person, dry }, file: text, mime: 'text/csv' })
  const attempts = async () => (await of.viewer.ask(listAttempts, {})).rows

  it('holds its items with their results, and of steps, words and defects what is chosen', async () => {
    const attempt = await execute(of, ids[0] ?? 0, 'Failed')
    await whole(of, attempt.id, 'Failed')
    const { body, headers } = await file('as=csv&with=steps,rows,words')
    expect(headers.get('content-disposition')).to.equal('attachment; filename="SHOP-RN-1.csv"')
    const [head = [], ...rows] = table(body)
    const at = (name: string) => head.indexOf(name)
    expect(rows.map((row) => [row[at('Item')], row[at('Case')], row[at('Step')], row[at('Verdict')]])).to.deep.equal([
      [`RN-1/${ids[0]}`, 'TC-1', '', 'Failed'],
      [`RN-1/${ids[0]}`, 'TC-1', '1', 'Failed'],
      [`RN-1/${ids[0]}`, 'TC-1', '2', ''],
      [`RN-1/${ids[1]}`, 'TC-2', '', 'Not run'],
      [`RN-1/${ids[1]}`, 'TC-2', '1', ''],
    ])
    expect(head).to.not.include('Defects')
    expect(table((await file('as=csv')).body)).to.have.lengthOf(3)
    for (const as of ['pdf', 'xlsx']) expect((await file(`as=${as}&with=steps,pictures`)).status).to.equal(200)
    expect((await file('as=csv&with=everything')).status).to.equal(400)
  })
  it('goes out with a version that is there when it comes back, and comes in as what somebody executed', async () => {
    const text = await filled(({ Case, Step }) =>
      Case === 'TC-1' && Step === '2'
        ? { Verdict: 'failed', 'What happened': 'It asks <b>twice' }
        : Case === 'TC-1' && Step === '1'
          ? { Verdict: 'Passed' }
          : Case === 'TC-2' && Step === ''
            ? { Verdict: 'Passed', 'What happened': 'Half, indeed' }
            : {},
    )
    expect(text).to.include('v0.1')
    // It is changed while it is away: what was executed stays what it was.
    const { content, contentStamp } = await caseOf(of.lead, 'TC-1')
    await of.lead.ask(storeWorkingCopy, {
      params: { ref: 'TC-1' },
      body: { content: { ...content, steps: content.steps.slice(0, 1) }, stamp: contentStamp },
    })
    of.pass(minute)
    const told = await bring(text, 'yes', 'second')
    expect([told.counts, told.stored]).to.deep.equal([{ new: 2, there: 0, problem: 0, empty: 0 }, false])
    expect(await attempts()).to.deep.equal([])
    const stored = await bring(text, 'no', 'second')
    expect([stored.counts.new, stored.undo.length]).to.deep.equal([2, 2])
    expect(
      (await attempts()).map((row) => [
        row.case,
        row.verdict,
        row.version,
        row.person,
        row.recordedBy,
        row.comment,
        row.timing,
      ]),
    ).to.have.deep.members([
      ['TC-1', 'Failed', '0.1', 'Second Person', 'Lead Person', '', 'typed'],
      ['TC-2', 'Passed', '0.1', 'Second Person', 'Lead Person', 'Half, indeed', 'typed'],
    ])
    expectSound(of)
    const again = await bring(text, 'no', 'second')
    expect([again.counts, again.undo, (await attempts()).length]).to.deep.equal([
      { new: 0, there: 2, problem: 0, empty: 0 },
      [],
      2,
    ])
    await of.lead.ask(takeVerdictsBack, { params, body: { ids: stored.undo } })
    const { rows } = await of.viewer.ask(listItems, { params })
    expect(rows.find(({ case: own }) => own === 'TC-2')?.verdict).to.equal('Not run')
    expectSound(of)
  })
  it('takes the project’s own words, and a whole that goes against its steps with what was written as the reason', async () => {
    addRemark(of)
    const text = await filled(({ Case, Step }) =>
      Case === 'TC-2'
        ? Step === ''
          ? { Verdict: 'with a REMARK', 'What happened': 'The list jumps' }
          : { Verdict: 'Failed' }
        : {},
    )
    const stored = await bring(text, 'no')
    expect([stored.counts.new, stored.counts.empty]).to.deep.equal([1, 1])
    const [row] = await attempts()
    expect([row?.verdict, row?.word]).to.deep.equal(['Passed', 'With a remark'])
  })
  it('names by line what cannot be stored and stores the rest', async () => {
    const text = await filled(({ Case, Step }) =>
      Step !== '' ? {} : Case === 'TC-1' ? { Verdict: 'Splendid' } : { Verdict: 'Passed' },
    )
    const told = await bring(text, 'no')
    expect(told.counts).to.deep.equal({ new: 1, there: 0, problem: 1, empty: 0 })
    expect(told.rows.find(({ becomes }) => becomes === 'problem')).to.deep.include({
      line: 2,
      case: 'TC-1',
      why: '“Splendid” is no verdict here',
    })
    const wrong = await bring(text.replaceAll('v0.1', 'v7.3'), 'yes')
    expect(wrong.rows[1]?.why).to.include('no version “v7.3”')
    const foreign = await bring(text.replaceAll(`RN-1/${ids[1]}`, 'RN-1/999'), 'yes')
    expect(foreign.rows.find(({ item }) => item === 999)?.why).to.include('no such item in RN-1')
    const other = await bring(text.replaceAll('RN-1/', 'RN-2/'), 'yes')
    expect([other.counts.new, other.rows[0]?.why]).to.deep.equal([0, 'is an item of RN-2, and this is RN-1'])
    expect(
      (await of.lead.refused(bringItemsIn, { params, query: { person: 'tester' }, file: 'a,b\n1,2', mime: 'text/csv' }))
        .detail,
    ).to.include('no table of items')
    await of.tester.refused(bringItemsIn, { params, query: { person: 'tester' }, file: text, mime: 'text/csv' })
  })
  it('is not taken where only the named person records, or where the run is over', async () => {
    const text = await filled(({ Step }) => (Step === '' ? { Verdict: 'Passed' } : {}))
    const { version, policy } = await of.lead.ask(readRun, { params })
    await of.lead.ask(updateRun, { params, body: { policy: { ...policy, records: 'named' } }, version })
    const named = await bring(text, 'yes', 'second')
    expect(named.rows.map(({ why }) => why).join()).to.include('only the named person records')
    expect((await bring(text, 'yes', 'tester')).counts.new).to.equal(2)
    const now = await of.lead.ask(readRun, { params })
    await of.lead.ask(updateRun, { params, body: { state: 'Aborted', reason: 'Over' }, version: now.version })
    expect((await bring(text, 'yes', 'tester')).rows[0]?.why).to.equal('RN-1 is aborted')
    await of.lead.refused(sendItemsOut, { params, body: { as: 'csv', ids: [999] } })
  })
  it('lets nobody at the desk say that they record for somebody else', async () => {
    const { version, policy } = await of.lead.ask(readRun, { params })
    await of.lead.ask(updateRun, { params, body: { policy: { ...policy, records: 'named' } }, version })
    const attempt = await start(of, ids[0] ?? 0)
    const body = { verdict: 'Passed' as const, ...sent(of), forOther: true }
    const { detail } = await of.as('second').refused(recordWhole, { params: { id: attempt.id }, body })
    expect(detail).to.include('only the named person records')
  })
})

it('stores nothing of an item that was refused half way, and all of the others', async () => {
  const of = shop()
  for (const title of ['Adult', 'Child']) await makeCase(of.lead, title)
  const { id } = await of.lead.ask(createTable, { body: { name: 'Cards', columns: ['number'] } })
  await of.lead.ask(updateTable, {
    params: { id },
    body: { rows: [{ id: null, values: { number: '4000' } }] },
    version: 1,
  })
  const { content, contentStamp } = await caseOf(of.lead, 'TC-1')
  await of.lead.ask(storeWorkingCopy, {
    params: { ref: 'TC-1' },
    body: { content: { ...content, table: { id, mode: 'one' } }, stamp: contentStamp },
  })
  const run = await makeDealtRun(of, ['TC-1', 'TC-2'])
  const other = await makeDealtRun(of, ['TC-1'])
  // The only card is with somebody.
  await of.as('second').ask(startAttempt, { params: { id: other.items[0]?.id ?? 0 }, body: {} })
  const ids = run.items.map((item) => item.id)
  const given = await of.lead.ask(giveVerdicts, {
    params: { ref: run.key },
    body: { ids, verdict: 'Passed', reason: 'Seen in passing' },
  })
  expect([given.changed, given.left.map(({ item }) => item)]).to.deep.equal([1, ids.slice(0, 1)])
  expect(given.left[0]?.why).to.match(/^All 1 rows of Cards are checked out/)
  const attempts = (await of.viewer.ask(listAttempts, {})).rows
  expect(attempts.map((row) => [row.case, row.verdict])).to.have.deep.members([
    ['TC-1', 'Not run'],
    ['TC-2', 'Passed'],
  ])
  const csv = csvText([
    ['Item', 'Version', 'Verdict'],
    ...run.items.map((item) => [`${run.key}/${item.id}`, 'v0.1', 'Failed']),
  ])
  const back = await of.lead.ask(bringItemsIn, {
    params: { ref: run.key },
    query: { person: 'tester', dry: 'no' },
    file: csv,
    mime: 'text/csv',
  })
  expect([back.counts.new, back.counts.problem, back.undo.length]).to.deep.equal([1, 1, 1])
  expect(back.rows[0]?.why).to.match(/^All 1 rows of Cards are checked out/)
  expect((await of.viewer.ask(listAttempts, {})).total).to.equal(3)
  expectSound(of)
})

it('puts the pictures of attempts into a PDF, and says how many had no room', async () => {
  const of = shop()
  await makeCase(of.lead, 'Adult')
  const run = await makeDealtRun(of, ['TC-1'])
  const attempt = await start(of, run.items[0]?.id ?? 0)
  const png = Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
    'base64',
  )
  await of.tester.ask(addEvidence, {
    params: { id: attempt.id },
    query: { name: 'one.png' },
    file: png,
    mime: 'image/png',
  })
  const left = async (query: string) => {
    const { headers, status } = await of.viewer.send('GET', `/projects/SHOP/runs/${run.key}/file?as=pdf&${query}`)
    expect(status).to.equal(200)
    return JSON.parse(decodeURIComponent(headers.get('x-rovant-left-out') ?? ''))
  }
  expect(await left('with=pictures')).to.deep.equal([])
  // One whose bytes are gone, as from a store that is away, is counted and not passed over.
  of.db.$client.prepare(`update attachment set hash = 'gone'`).run()
  expect(await left('with=pictures')).to.deep.equal(['1 picture'])
  expect(await left('with=steps')).to.deep.equal([])
})
