import { setImmediate } from 'node:timers/promises'
import { expect } from 'chai'
import { changeCases, deleteCases, listCases, writeCaseLines } from '#core/cases/contract.ts'
import { exportFile, replaceText, undoImport } from '#core/formats/contract.ts'
import { readGoing, restoreObject, stopGoing } from '#core/history/contract.ts'
import { dropLeftovers } from '#server/formats/leftovers.ts'
import { verifyData } from '#server/installation/verify-data.ts'
import { type Shop, shop } from '#test/app.ts'
import { makeCase, meanwhile } from '#test/make.ts'

// More than one transaction takes: done in sets, between which others have their turn.

const many = 220

async function withMany(): Promise<Shop & { readonly ids: number[] }> {
  const of = shop()
  const lines = Array.from({ length: many }, (_, n) => `Insert the card ${n}\n  Push card ${n} => It is read`).join(
    '\n',
  )
  await of.tester.ask(writeCaseLines, { body: { lines } })
  return { ...of, ids: column(of, 'select id from test_case order by id') }
}
const column = (of: Shop, text: string): number[] => of.db.$client.prepare(text).pluck().all().map(Number)
const count = (of: Shop, where: string): number =>
  column(of, `select count(*) from test_case where deleted_at is null and ${where}`)[0] ?? -1

const patch = '/projects/SHOP/cases'
const named = { 'rovant-job': 'j1' }

describe('a change of many', () => {
  it('changes all of them, and what it answers takes all of it back', async () => {
    const of = await withMany()
    const done = await of.tester.ask(changeCases, { body: { ids: of.ids, set: { importance: 'Critical' } } })
    expect([done.changed, done.undo.length, done.stopped]).to.deep.equal([many, many, undefined])
    expect(count(of, `importance = 'Critical'`)).to.equal(many)
    expect(column(of, `select count(*) from change where action = 'changed'`)).to.deep.equal([many])
    const { ids, set } = { ids: done.undo.map(({ id }) => id), set: done.undo[0]?.set ?? {} }
    await of.tester.ask(changeCases, { body: { ids, set } })
    expect(count(of, `importance = 'Critical'`)).to.equal(0)
  })
  it('gives others their turn, and is told how far it is by its name to the one who asked alone', async () => {
    const of = await withMany()
    const seen: unknown[] = []
    let ended = false
    const going = of.tester
      .send('PATCH', patch, { ids: of.ids, set: { component: 'Till' } }, named)
      .finally(() => (ended = true))
    while (!ended) {
      // Whoever asks over a line comes with a turn of the loop; within one process that is to be given.
      await setImmediate()
      const { status, body } = await of.tester.send('GET', '/projects/SHOP/going/j1')
      if (status === 200 && body.done > 0) {
        seen.push(body)
        expect((await of.lead.refused(readGoing, { params: { job: 'j1' } })).status).to.equal(404)
        expect((await of.lead.refused(stopGoing, { params: { job: 'j1' } })).status).to.equal(404)
      }
    }
    expect((await going).body.changed).to.equal(many)
    expect(seen.length).to.be.greaterThan(1)
    expect(seen.at(0)).to.have.property('of', many)
    expect((await of.tester.refused(readGoing, { params: { job: 'j1' } })).status).to.equal(404)
  })
  it('stopped by the one who asked, says what stayed; that is taken back as one', async () => {
    const of = await withMany()
    let stopping: Promise<unknown> = Promise.resolve()
    meanwhile(of, () => void (stopping = of.tester.ask(stopGoing, { params: { job: 'j1' } })))
    const { body } = await of.tester.send('PATCH', patch, { ids: of.ids, set: { component: 'Till' } }, named)
    await stopping
    expect(body.changed).to.be.within(1, many - 1)
    expect(body.stopped).to.equal(`Stopped after ${body.changed} of ${many}; what was done so far stays.`)
    expect(count(of, `component = 'Till'`)).to.equal(body.changed)
    await of.tester.ask(changeCases, {
      body: { ids: body.undo.map(Object).map(({ id }: { id: number }) => id), set: { component: '' } },
    })
    expect(count(of, `component = 'Till'`)).to.equal(0)
  })
  it('says why the rest was not done when somebody deletes one of them meanwhile; refused at the first, nothing is', async () => {
    const of = await withMany()
    const [last] = of.ids.slice(-1)
    meanwhile(of, () => of.db.$client.prepare('update test_case set deleted_at = 5 where id = ?').run(last))
    const done = await of.tester.ask(changeCases, { body: { ids: of.ids, set: { component: 'Till' } } })
    expect(done.changed).to.be.within(40, many - 1)
    expect(done.stopped).to.match(/^It ended after \d+ of 220, and what was done so far stays: 1 of the chosen ones /)
    const refused = await of.tester.refused(changeCases, {
      body: { ids: [last ?? 0, ...of.ids.slice(0, 150)], set: { component: 'Door' } },
    })
    expect(refused.status).to.be.oneOf([410, 404])
    expect(count(of, `component = 'Door'`)).to.equal(0)
  })
  it('with an Idempotency-Key is done once, and answers the same again', async () => {
    const of = await withMany()
    const ask = { body: { ids: of.ids, set: { component: 'Till' } }, idempotencyKey: 'k' }
    const [first, second] = [await of.tester.ask(changeCases, ask), await of.tester.ask(changeCases, ask)]
    expect(first.changed).to.equal(many)
    expect(second).to.deep.equal(first)
    const other = { ...ask, body: { ids: of.ids, set: { component: 'Door' } } }
    expect((await of.tester.refused(changeCases, other)).status).to.equal(409)
  })
  it('deletes and brings back by the same way', async () => {
    const of = await withMany()
    const { refs } = await of.lead.ask(deleteCases, { body: { ids: of.ids } })
    expect([refs.length, (await of.lead.ask(listCases)).total]).to.deep.equal([many, 0])
    await of.lead.ask(restoreObject, { body: { refs } })
    expect((await of.lead.ask(listCases)).total).to.equal(many)
  })
})

const ask = { find: 'card', put: 'ticket', fields: ['title' as const, 'action' as const], dry: false, seen: 2 * many }
const said = (of: Shop) =>
  of.db.$client
    .prepare(
      `select c.title, s.action from test_case c join case_version v on v.case_id = c.id and v.major is null
       join version_step s on s.version_id = v.id order by c.id`,
    )
    .all()
const waiting = (of: Shop) => column(of, 'select count(*) from case_version where major < 0')[0]

describe('a text replaced in many', () => {
  it('is replaced everywhere by one act, which is taken back word by word', async () => {
    const of = await withMany()
    const before = said(of)
    const done = await of.tester.ask(replaceText, { body: ask })
    expect([done.cases, done.places, done.left, done.stopped]).to.deep.equal([many, 2 * many, [], undefined])
    expect(JSON.stringify(said(of))).to.not.contain('card')
    const back = await of.tester.ask(undoImport, { params: { id: done.act ?? 0 } })
    expect(back.kept).to.deep.equal([])
    expect(said(of)).to.deep.equal(before)
  })
  it('leaves alone, and names, what somebody changed while it went on', async () => {
    const of = await withMany()
    const last = of.ids.at(-1)
    meanwhile(of, () =>
      of.db.$client.prepare(`update test_case set title = 'Mine', version = version + 1 where id = ?`).run(last),
    )
    const done = await of.tester.ask(replaceText, { body: ask })
    expect([done.cases, done.left]).to.deep.equal([many - 1, [`TC-${many}`]])
    expect(count(of, `title = 'Mine'`)).to.equal(1)
    await of.tester.ask(undoImport, { params: { id: done.act ?? 0 } })
    expect([count(of, `title = 'Mine'`), count(of, `title like '%card%'`)]).to.deep.equal([1, many - 1])
  })
  it('stopped, says what stayed; nothing waits behind, and undo takes back just that', async () => {
    const of = await withMany()
    const before = said(of)
    let stopping: Promise<unknown> = Promise.resolve()
    meanwhile(of, () => void (stopping = of.tester.ask(stopGoing, { params: { job: 'j1' } })))
    const { body } = await of.tester.send('POST', '/projects/SHOP/cases/replace', ask, named)
    await stopping
    expect(body.cases).to.be.within(1, many - 1)
    expect(body.stopped).to.equal(`Stopped after ${body.cases} of ${many} cases; what was replaced so far stays.`)
    expect(count(of, `title like '%ticket%'`)).to.equal(body.cases)
    expect(waiting(of)).to.equal(body.cases)
    await of.tester.ask(undoImport, { params: { id: body.act } })
    expect(said(of)).to.deep.equal(before)
  })
  it('cut off by the end of the process, keeps what had happened as an act, and drops what waited', async () => {
    const of = await withMany()
    const before = said(of)
    const done = await of.tester.ask(replaceText, { body: ask })
    // As if the last hundred had not come to their turn.
    const rest = of.ids.slice(-100)
    const undone = { all: rest.join(','), act: -(done.act ?? 0) }
    of.db.$client.exec(`
      update case_version set major = ${undone.act}, minor = 1 where major is null and case_id in (${undone.all});
      update case_version set major = null, minor = null where major = ${undone.act} and minor = 0 and case_id in (${undone.all});
      update case_version set minor = 0 where major = ${undone.act} and minor = 1 and case_id in (${undone.all});
      update test_case set title = replace(title, 'ticket', 'card'), version = version - 1 where id in (${undone.all});
      update import_act set undone_at = 1 where id = ${done.act}`)
    const store = { db: of.db, close: () => undefined }
    dropLeftovers(store)
    expect(waiting(of)).to.equal(many - 100)
    // A database in memory has no log of writes ahead.
    const found = await verifyData(store, of.services.data)
    expect(found.filter((each) => !each.startsWith('the journal'))).to.deep.equal([])
    const back = await of.tester.ask(undoImport, { params: { id: done.act ?? 0 } })
    expect(back.kept).to.deep.equal([])
    expect(said(of)).to.deep.equal(before)
  })
  it('being taken back and stopped, leaves the rest to be taken back later', async () => {
    const of = await withMany()
    const before = said(of)
    const { act } = await of.tester.ask(replaceText, { body: ask })
    let stopping: Promise<unknown> = Promise.resolve()
    meanwhile(of, () => void (stopping = of.tester.ask(stopGoing, { params: { job: 'j1' } })))
    const { body } = await of.tester.send('POST', `/projects/SHOP/imports/${act}/undo`, undefined, named)
    await stopping
    expect(body.stopped).to.match(/^Stopped after \d+ of 220; the rest can be taken back later\.$/)
    expect(count(of, `title like '%ticket%'`)).to.be.within(1, many - 1)
    await of.tester.ask(undoImport, { params: { id: act ?? 0 } })
    expect(said(of)).to.deep.equal(before)
  })
})

it('writes a file of many cases as it would be written of one', async () => {
  const of = shop()
  await makeCase(of.tester, 'Insert the card', { steps: ['Push => It is read'] })
  const { status, headers, body } = await of.viewer.send('GET', '/projects/SHOP/export?format=csv&what=cases')
  expect([status, headers.get('content-disposition')]).to.deep.equal([200, 'attachment; filename="SHOP-cases.csv"'])
  expect(String(body)).to.contain('Insert the card')
  expect((await of.viewer.refused(exportFile, { query: { format: 'gherkin', what: 'requirements' } })).detail).to.equal(
    'gherkin holds cases, not requirements; take xlsx, csv, markdown, reqif, reqifz or pdf.',
  )
})
