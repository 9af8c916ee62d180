import { expect } from 'chai'
import {
  addComment,
  addFile,
  chooseLetters,
  listAttachments,
  listComments,
  listInbox,
  readInbox,
  readLetters,
  removeFile,
} from '#core/talk/contract.ts'
import { listHistory, restoreObject } from '#core/history/contract.ts'
import { deleteView, findAnything, listViews, saveView } from '#core/finding/contract.ts'
import { day, minute, type Shop, shop } from '#test/app.ts'
import { withMail } from '#test/letters.ts'
import { caseOf, makeCase, makeRequirements } from '#test/make.ts'
import { sendLetters } from './send-letters.ts'

it('keeps comments on what has a key, in order, without scripts', async () => {
  const of = shop()
  const ref = await makeCase(of.tester, 'Pays')
  await of.tester.ask(addComment, { body: { ref, text: '<p>First</p>' } })
  of.pass(minute)
  await of.lead.ask(addComment, { body: { ref, text: '<p>Second<script>x()</script></p>' } })
  const { rows } = await of.tester.ask(listComments, { query: { ref } })
  expect(rows.map(({ text, mine }) => [text, mine])).to.deep.equal([
    ['<p>First</p>', true],
    ['<p>Second</p>', false],
  ])
})
it('comments on a step of the case, and on none that it does not have', async () => {
  const of = shop()
  const ref = await makeCase(of.tester, 'Pays')
  const step = (await caseOf(of.tester, ref)).content.steps[0]?.id ?? null
  await of.tester.ask(addComment, { body: { ref, step, text: 'Which card?' } })
  expect((await of.viewer.ask(listComments, { query: { ref } })).rows[0]?.step).to.equal(step)
  const other = (await caseOf(of.tester, await makeCase(of.tester, 'Pays otherwise'))).content.steps[0]?.id ?? 0
  const refused = await of.tester.refused(addComment, { body: { ref, step: other, text: 'x' } })
  expect(refused.detail).to.match(/has no such step any more/)
  expect((await of.tester.refused(addComment, { body: { ref: 'TC-99', text: 'x' } })).status).to.equal(404)
})
it('tells whoever is mentioned, once, and not the writer', async () => {
  const of = shop()
  const ref = await makeCase(of.tester, 'Pays')
  const { told } = await of.tester.ask(addComment, { body: { ref, text: '@Lead Person and @Tester Person, look' } })
  expect(told).to.deep.equal(['Lead Person'])
  const inbox = await of.lead.ask(listInbox)
  expect([inbox.unread, inbox.rows[0]?.kind, inbox.rows[0]?.from]).to.deep.equal([1, 'mention', 'Tester Person'])
  expect((await of.tester.ask(listInbox)).unread).to.equal(0)
})
it('marks notices read and unread again, one’s own only', async () => {
  const of = shop()
  const ref = await makeCase(of.tester, 'Pays')
  await of.tester.ask(addComment, { body: { ref, text: '@Lead Person' } })
  const ids = (await of.lead.ask(listInbox)).rows.map(({ id }) => id)
  await of.viewer.ask(readInbox, { body: { ids } })
  expect((await of.lead.ask(listInbox)).unread).to.equal(1)
  await of.lead.ask(readInbox, { body: { ids } })
  expect((await of.lead.ask(listInbox)).unread).to.equal(0)
  await of.lead.ask(readInbox, { body: { ids, read: false } })
  expect((await of.lead.ask(listInbox)).unread).to.equal(1)
})
it('reads the inbox page by page, the newest first', async () => {
  const of = shop()
  const ref = await makeCase(of.tester, 'Pays')
  for (const n of [1, 2, 3]) await of.tester.ask(addComment, { body: { ref, text: `@Lead Person ${n}` } })
  const first = await of.lead.ask(listInbox, { query: { limit: 2 } })
  const rest = await of.lead.ask(listInbox, { query: { limit: 2, before: first.next ?? 0 } })
  expect([...first.rows, ...rest.rows].map(({ text }) => text.at(-1))).to.deep.equal(['3', '2', '1'])
})
it('attaches files to what has a key, takes them away and back', async () => {
  const of = shop()
  const [ref = ''] = await makeRequirements(of.tester, 'Pay')
  const made = await of.tester.ask(addFile, { query: { ref, name: 'notes.txt' }, file: 'To do', mime: 'text/plain' })
  const names = async () => (await of.viewer.ask(listAttachments, { query: { ref } })).rows.map(({ name }) => name)
  expect([made.size, await names()]).to.deep.equal([5, ['notes.txt']])
  await of.tester.ask(removeFile, { params: { id: made.id } })
  expect(await names()).to.deep.equal([])
  await of.tester.ask(removeFile, { params: { id: made.id }, query: { undo: true } })
  expect(await names()).to.deep.equal(['notes.txt'])
  expect(
    (await of.tester.refused(addFile, { query: { ref, name: 'x' }, file: '', mime: 'text/plain' })).status,
  ).to.equal(400)
})
it('tells the history of an object, the newest first, page by page', async () => {
  const of = shop()
  const ref = await makeCase(of.tester, 'Pays')
  for (const text of ['a', 'b']) await of.tester.ask(addComment, { body: { ref, text } })
  const first = await of.viewer.ask(listHistory, { query: { ref, limit: 2 } })
  expect([first.rows.map(({ action, person }) => [action, person])[0], first.next !== null]).to.deep.equal([
    ['commented', 'Tester Person'],
    true,
  ])
  const rest = await of.viewer.ask(listHistory, { query: { ref, limit: 2, before: first.next ?? 0 } })
  expect(rest.rows.map(({ action }) => action)).to.deep.equal(['created'])
})
it('brings back all that is named, or nothing', async () => {
  const of = shop()
  const refused = await of.tester.refused(restoreObject, { body: { refs: ['TC-1', 'RQ-9'] } })
  expect(refused.detail).to.equal('There is no TC-1 to bring back; nothing was changed.')
})
it('finds by key with or without its dash, and by words', async () => {
  const of = shop()
  await makeRequirements(of.tester, 'Pay by card')
  await makeCase(of.tester, 'Worn card pays')
  const find = async (q: string) => (await of.viewer.ask(findAnything, { query: { q } })).rows.map(({ ref }) => ref)
  expect([await find('tc-1'), await find('TC1')]).to.deep.equal([['TC-1'], ['TC-1']])
  expect(await find('card')).to.have.members(['RQ-1', 'TC-1'])
  expect([await find('worn card'), await find('nothing of this')]).to.deep.equal([['TC-1'], []])
})
it('keeps views of a list, own or shared, and lets only their maker take them away', async () => {
  const of = shop()
  const shared = await of.lead.ask(saveView, {
    body: { list: 'cases', name: 'Late', shared: true, query: 'sort=-number' },
  })
  await of.lead.ask(saveView, { body: { list: 'cases', name: 'Mine', query: 'text=x' } })
  const names = async (by = of.tester) =>
    (await by.ask(listViews, { query: { list: 'cases' } })).rows.map(({ name, mine }) => [name, mine])
  expect(await names()).to.deep.equal([['Late', false]])
  expect(await names(of.lead)).to.have.deep.members([
    ['Late', true],
    ['Mine', true],
  ])
  expect((await of.tester.refused(deleteView, { params: { id: shared.id } })).status).to.equal(404)
  await of.lead.ask(deleteView, { params: { id: shared.id } })
  expect(await names()).to.deep.equal([])
})

describe('notices as letters', () => {
  /** Somebody names the lead, who wants letters of that. */
  async function named(of: Shop): Promise<string> {
    const ref = await makeCase(of.tester, 'Pays')
    await of.lead.ask(chooseLetters, { body: { kinds: ['mention'] } })
    await of.tester.ask(addComment, { body: { ref, text: '<p>Look, @Lead Person</p>' } })
    return ref
  }
  it('leave after a moment, once, with who, what and where', async () => {
    const of = shop()
    const { letters } = withMail(of)
    const ref = await named(of)
    expect([await sendLetters(of.services), letters.length]).to.deep.equal([0, 0])
    of.pass(3 * minute)
    expect([await sendLetters(of.services), await sendLetters(of.services)]).to.deep.equal([1, 0])
    expect(letters[0]?.subject).to.match(new RegExp(`^${ref}: \\S.* names you$`))
    expect(letters[0]?.text).to.include('Look, @Lead Person').and.to.include(`https://rovant.test/p/SHOP/${ref}`)
    expect(letters[0]?.to.address).to.match(/@/)
  })
  it('do not leave where they are not wanted, or what they tell was seen by then', async () => {
    const of = shop()
    const { letters } = withMail(of)
    await named(of)
    const { rows } = await of.lead.ask(listInbox)
    await of.lead.ask(readInbox, { body: { ids: rows.map(({ id }) => id), read: true } })
    await of.lead.ask(chooseLetters, { body: { kinds: ['review'] } })
    await of.tester.ask(addComment, { body: { ref: 'TC-1', text: '<p>@Lead Person, again</p>' } })
    of.pass(day)
    expect([await sendLetters(of.services), letters.length]).to.deep.equal([0, 0])
    expect((await of.lead.ask(listInbox)).unread).to.equal(1)
  })
  it('are tried again with growing waits while the mail server refuses, and given up after three days', async () => {
    const of = shop()
    const { letters, refuse } = withMail(of)
    await named(of)
    refuse(true)
    of.pass(3 * minute)
    expect(await sendLetters(of.services)).to.equal(0)
    refuse(false)
    expect(await sendLetters(of.services)).to.equal(0)
    of.pass(2 * minute)
    expect([await sendLetters(of.services), letters.length]).to.deep.equal([1, 1])
    refuse(true)
    await of.tester.ask(addComment, { body: { ref: 'TC-1', text: '<p>@Lead Person, again</p>' } })
    for (let hours = 0; hours < 80; hours++) {
      of.pass(60 * minute)
      await sendLetters(of.services)
    }
    refuse(false)
    of.pass(day)
    expect([await sendLetters(of.services), letters.length]).to.deep.equal([0, 1])
    const stored = of.db.$client.prepare('select tries, problem, due_at from notice_letter order by notice_id').all()
    expect(Object(stored[1])).to.include({ problem: 'The mail server is full.', due_at: null })
    expect(Object(stored[1]).tries).to.be.within(10, 40)
  })
  it('do not leave to somebody whose access to the project has ended', async () => {
    const of = shop()
    const { letters } = withMail(of)
    await named(of)
    of.db.$client.exec("delete from membership where person_id = 'lead'")
    of.pass(3 * minute)
    expect([await sendLetters(of.services), letters.length]).to.deep.equal([0, 0])
  })
  it('can be chosen where no mail is set up, which is told, and of known kinds alone', async () => {
    const of = shop()
    await of.lead.ask(chooseLetters, { body: { kinds: ['late', 'mention', 'late'] } })
    expect(await of.lead.ask(readLetters)).to.deep.equal({ kinds: ['mention', 'late'], mail: false })
    expect((await of.lead.send('PUT', '/me/letters', { kinds: ['everything'] })).status).to.equal(400)
    expect((await of.tester.ask(readLetters)).kinds).to.deep.equal([])
  })
})
