import { expect } from 'chai'
import {
  addComment,
  addFile,
  listAttachments,
  listComments,
  listInbox,
  readInbox,
  removeFile,
} from '#core/talk/contract.ts'
import { listHistory, restoreObject } from '#core/history/contract.ts'
import { deleteView, findAnything, listViews, saveView } from '#core/finding/contract.ts'
import { minute, shop } from '#test/app.ts'
import { caseOf, makeCase, makeRequirements } from '#test/make.ts'

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
