import { expect } from 'chai'
import { createLinks } from '#core/cases/link-contract.ts'
import { listHistory, restoreObject } from '#core/history/contract.ts'
import {
  changeRequirements,
  compareRevisions,
  deleteRequirements,
  listRequirements,
  listRevisions,
  mergeRequirements,
  moveRequirement,
  orderRequirements,
  readRequirement,
  splitRequirement,
  updateRequirement,
  writeRequirementLines,
} from '#core/requirements/contract.ts'
import { type Shop, shop } from '#test/app.ts'
import { makeCase, makeRequirements, requirement } from '#test/make.ts'

const titles = async (of: Shop) =>
  (await of.viewer.ask(listRequirements)).rows.map(({ title, depth }) => `${'  '.repeat(depth)}${title}`)
const edit = async (of: Shop, ref: string, body: object) =>
  of.tester.ask(updateRequirement, { params: { ref }, body, version: (await requirement(of.tester, ref)).version })
const idsOfAll = async (of: Shop) => (await of.viewer.ask(orderRequirements)).ids

it('writes an outline of lines in one act', async () => {
  const of = shop()
  await of.tester.ask(writeRequirementLines, { body: { lines: 'Pay\n\tBy card\n\t\tTwice\n\tIn cash\nLeave' } })
  expect(await titles(of)).to.deep.equal(['Pay', '  By card', '    Twice', '  In cash', 'Leave'])
})
it('writes below a requirement, testable from a release', async () => {
  const of = shop()
  const [key = ''] = await makeRequirements(of.tester, 'Pay')
  const { id } = await requirement(of.tester, key)
  await of.tester.ask(writeRequirementLines, { body: { lines: 'By card', under: id, release: of.release } })
  const made = await requirement(of.tester, 'RQ-2')
  expect([made.parent, made.release]).to.deep.equal([id, '1.0'])
})
it('refuses lines below what is not there, or for a release of nobody', async () => {
  const of = shop()
  expect((await of.tester.refused(writeRequirementLines, { body: { lines: 'x', under: 77 } })).status).to.equal(400)
  expect((await of.tester.refused(writeRequirementLines, { body: { lines: 'x', release: 77 } })).detail).to.equal(
    'There is no release 77 in this project; nothing was stored.',
  )
  expect((await of.tester.refused(writeRequirementLines, { body: { lines: ' \n\t' } })).detail).to.match(/no line/)
})
it('counts a revision where title or text change, and nowhere else', async () => {
  const of = shop()
  const [key = ''] = await makeRequirements(of.tester, 'Pay')
  expect((await edit(of, key, { state: 'Agreed', likelihood: 4, impact: 5 })).revision).to.equal(1)
  expect((await edit(of, key, { title: 'Pay by card' })).revision).to.equal(2)
  expect((await edit(of, key, { text: '<p>At once</p>' })).revision).to.equal(3)
  const { rows } = await of.viewer.ask(listRevisions, { params: { ref: key } })
  expect(rows.map(({ revision, title }) => `${revision} ${title}`)).to.deep.equal([
    '3 Pay by card',
    '2 Pay by card',
    '1 Pay',
  ])
  const words = await of.viewer.ask(compareRevisions, { params: { ref: key }, query: { from: 1, to: 2 } })
  expect(words.title.filter(({ kind }) => kind === 'added').map(({ text }) => text.trim())).to.deep.equal(['by card'])
})
it('leaves no trace of an edit that changes nothing', async () => {
  const of = shop()
  const [key = ''] = await makeRequirements(of.tester, 'Pay')
  const before = await requirement(of.tester, key)
  expect(await edit(of, key, { title: 'Pay', state: before.state })).to.deep.equal({
    version: before.version,
    revision: 1,
  })
  expect((await of.viewer.ask(listHistory, { query: { ref: key } })).rows.map(({ action }) => action)).to.deep.equal([
    'created',
  ])
})
it('refuses an edit over a newer one and answers the newer', async () => {
  const of = shop()
  const [key = ''] = await makeRequirements(of.tester, 'Pay')
  const { version } = await requirement(of.tester, key)
  await edit(of, key, { title: 'Pay by card' })
  const late = await of.lead.refused(updateRequirement, { params: { ref: key }, body: { title: 'Mine' }, version })
  expect([late.status, Object(late.current).title]).to.deep.equal([412, 'Pay by card'])
})
it('takes scripts out of its text, whoever sends them', async () => {
  const of = shop()
  const [key = ''] = await makeRequirements(of.tester, 'Pay')
  await edit(of, key, { text: '<p onclick="x()">At once</p><script>steal()</script>' })
  expect((await requirement(of.tester, key)).text).to.equal('<p>At once</p>')
})
it('lets only people of the project own it', async () => {
  const of = shop()
  const [key = ''] = await makeRequirements(of.tester, 'Pay')
  const { version } = await requirement(of.tester, key)
  const refused = await of.tester.refused(updateRequirement, {
    params: { ref: key },
    body: { ownerId: 'stranger' },
    version,
  })
  expect([refused.status, refused.fields]).to.deep.equal([400, ['ownerId']])
})
it('moves a branch before a sibling and under another, and never below itself', async () => {
  const of = shop()
  await of.tester.ask(writeRequirementLines, { body: { lines: 'A\n\tB\nC' } })
  const [a, b, c] = [
    await requirement(of.tester, 'RQ-1'),
    await requirement(of.tester, 'RQ-2'),
    await requirement(of.tester, 'RQ-3'),
  ]
  await of.tester.ask(moveRequirement, { params: { ref: 'RQ-3' }, body: { under: null, before: a.id } })
  expect(await titles(of)).to.deep.equal(['C', 'A', '  B'])
  await of.tester.ask(moveRequirement, { params: { ref: 'RQ-1' }, body: { under: c.id } })
  expect(await titles(of)).to.deep.equal(['C', '  A', '    B'])
  const refused = await of.tester.refused(moveRequirement, { params: { ref: 'RQ-3' }, body: { under: b.id } })
  expect(refused.detail).to.equal('RQ-3 cannot be moved below itself.')
})
it('changes many at once, says how many, and takes it back to what each was', async () => {
  const of = shop()
  await makeRequirements(of.tester, 'A', 'B', 'C')
  await edit(of, 'RQ-2', { priority: 2 })
  const ids = await idsOfAll(of)
  const done = await of.tester.ask(changeRequirements, { body: { ids, set: { priority: 2, state: 'Agreed' } } })
  expect(done.changed).to.equal(3)
  for (const { id, set } of done.undo) await of.tester.ask(changeRequirements, { body: { ids: [id], set } })
  const { rows } = await of.viewer.ask(listRequirements)
  expect(rows.map(({ priority, state }) => [priority, state])).to.deep.equal([
    [null, 'Draft'],
    [2, 'Draft'],
    [null, 'Draft'],
  ])
})
it('puts tags on many and takes them off, and sets what they are testable from', async () => {
  const of = shop()
  await makeRequirements(of.tester, 'A', 'B')
  const ids = await idsOfAll(of)
  await of.tester.ask(changeRequirements, { body: { ids, set: {}, tags: { add: ['card', 'till'] } } })
  const targets = [{ release: of.release, iteration: of.iteration }]
  const done = await of.tester.ask(changeRequirements, { body: { ids, set: { targets }, tags: { drop: ['till'] } } })
  expect(done.changed).to.equal(2)
  const [first] = (await of.viewer.ask(listRequirements)).rows
  expect([first?.tags, first?.release, first?.iteration]).to.deep.equal([['card'], '1.0', 'First'])
  expect(done.undo[0]?.set).to.deep.equal({ targets: [], tags: ['card', 'till'] })
})
it('changes none of many when one of them is gone', async () => {
  const of = shop()
  await makeRequirements(of.tester, 'A', 'B')
  const ids = await idsOfAll(of)
  await of.lead.ask(deleteRequirements, { body: { ids: ids.slice(0, 1) } })
  const refused = await of.tester.refused(changeRequirements, { body: { ids, set: { state: 'Agreed' } } })
  expect([refused.status, refused.detail.slice(0, 9)]).to.deep.equal([410, '1 of the '])
  expect((await requirement(of.tester, 'RQ-2')).state).to.equal('Draft')
})
it('refuses an iteration of another release for many', async () => {
  const of = shop()
  await makeRequirements(of.tester, 'A')
  const targets = [{ release: of.nextRelease, iteration: of.iteration }]
  const refused = await of.tester.refused(changeRequirements, {
    body: { ids: await idsOfAll(of), set: { targets } },
  })
  expect(refused.detail).to.equal('That iteration does not belong to that release.')
})
it('deletes a branch with what is below, and brings it back', async () => {
  const of = shop()
  await of.tester.ask(writeRequirementLines, { body: { lines: 'A\n\tB\nC' } })
  const { refs } = await of.lead.ask(deleteRequirements, { body: { ids: [(await requirement(of.tester, 'RQ-1')).id] } })
  expect([...refs].sort()).to.deep.equal(['RQ-1', 'RQ-2'])
  expect((await of.viewer.refused(readRequirement, { params: { ref: 'RQ-2' } })).status).to.equal(410)
  await of.tester.ask(restoreObject, { body: { refs } })
  expect(await titles(of)).to.deep.equal(['A', '  B', 'C'])
})
it('splits sentences off into a requirement of their own, with the cases', async () => {
  const of = shop()
  const [key = ''] = await makeRequirements(of.tester, 'Pay')
  await edit(of, key, { text: '<p>By card. In cash. By voucher.</p>' })
  await makeCase(of.tester, 'Pays', { proves: key })
  const made = await of.tester.ask(splitRequirement, {
    params: { ref: key },
    body: { title: 'Cash', sentences: [1], links: true },
  })
  const [whole, part] = [await requirement(of.tester, key), await requirement(of.tester, made.key)]
  expect(whole.text).to.not.contain('In cash')
  expect([part.text.includes('In cash'), part.linked.length]).to.deep.equal([true, 1])
})
it('merges requirements into one that has their cases, and the old key leads there', async () => {
  const of = shop()
  await makeRequirements(of.tester, 'Pay', 'Pay by card')
  const own = await makeCase(of.tester, 'Pays', { proves: 'RQ-2' })
  const done = await of.tester.ask(mergeRequirements, { params: { ref: 'RQ-1' }, body: { take: ['RQ-2'] } })
  expect(done).to.deep.equal({ links: 1, taken: ['RQ-2'] })
  expect((await requirement(of.tester, 'RQ-1')).linked.map(({ key }) => key)).to.deep.equal([own])
  const old = await of.viewer.refused(readRequirement, { params: { ref: 'RQ-2' } })
  expect([old.status, old.current]).to.deep.equal([410, { address: '/p/SHOP/RQ-1' }])
  const self = await of.tester.refused(mergeRequirements, { params: { ref: 'RQ-1' }, body: { take: ['RQ-1'] } })
  expect(self.detail).to.match(/cannot be merged into itself/)
})
it('tells a link as suspect once the requirement says something else', async () => {
  const of = shop()
  const [key = ''] = await makeRequirements(of.tester, 'Pay')
  const own = await makeCase(of.tester, 'Pays')
  await of.tester.ask(createLinks, { body: { requirements: [key], cases: [own] } })
  expect((await requirement(of.tester, key)).suspect).to.equal(0)
  await edit(of, key, { title: 'Pay at once' })
  const after = await requirement(of.tester, key)
  expect([after.suspect, after.linked[0]?.suspect]).to.deep.equal([1, true])
})
it('finds by words, filter and group, and counts what fits', async () => {
  const of = shop()
  await makeRequirements(of.tester, 'Pay by card', 'Pay in cash', 'Leave')
  await edit(of, 'RQ-1', { state: 'Agreed' })
  const found = await of.viewer.ask(listRequirements, { query: { text: 'pay' } })
  expect([found.total, found.rows.map(({ key }) => key)]).to.deep.equal([2, ['RQ-1', 'RQ-2']])
  const filter = JSON.stringify({ field: 'state', op: 'is', values: ['Agreed'] })
  expect((await of.viewer.ask(orderRequirements, { query: { filter } })).total).to.equal(1)
  const grouped = await of.viewer.ask(orderRequirements, { query: { group: 'state' } })
  expect(grouped.groups).to.deep.equal([
    { value: 'Agreed', count: 1 },
    { value: 'Draft', count: 2 },
  ])
  const bad = await of.viewer.refused(listRequirements, { query: { sort: 'colour' } })
  expect(bad.detail).to.equal('There is no field “colour” to sort or group by here.')
})
