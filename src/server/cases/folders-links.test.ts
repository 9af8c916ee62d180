import { expect } from 'chai'
import { listCases, updateCase, writeCaseLines } from '#core/cases/contract.ts'
import { createFolder, deleteFolder, listFolders, mirrorFolders, updateFolder } from '#core/cases/folder-contract.ts'
import { confirmLink, createLinks, endLink, endLinks, updateLink } from '#core/cases/link-contract.ts'
import { listHistory } from '#core/history/contract.ts'
import { updateRequirement, writeRequirementLines } from '#core/requirements/contract.ts'
import { type Shop, shop } from '#test/app.ts'
import { caseOf, makeCase, makeRequirements, requirement } from '#test/make.ts'

const folder = (of: Shop, name: string, parent: number | null = null) =>
  of.tester.ask(createFolder, { body: { name, parent } })
const tree = async (of: Shop) => {
  const { rows } = await of.viewer.ask(listFolders)
  const name = (id: number | null): string => rows.find((row) => row.id === id)?.name ?? ''
  return rows.map((row) => `${name(row.parent)}/${row.name} ${row.cases}`)
}

it('makes folders in folders, and no two of a name in one place', async () => {
  const of = shop()
  const till = await folder(of, 'Till')
  await folder(of, 'Cards', till.id)
  const twin = await of.tester.refused(createFolder, { body: { name: 'Cards', parent: till.id } })
  expect(twin.detail).to.match(/Cards/)
  await folder(of, 'Cards')
  expect(await tree(of)).to.have.members(['/Till 0', 'Till/Cards 0', '/Cards 0'])
})
it('moves and renames a folder, and never into itself', async () => {
  const of = shop()
  const [till, cards] = [await folder(of, 'Till'), await folder(of, 'Cards')]
  await of.tester.ask(updateFolder, { params: { id: cards.id }, body: { parent: till.id, name: 'Card' } })
  expect(await tree(of)).to.have.members(['/Till 0', 'Till/Card 0'])
  const refused = await of.tester.refused(updateFolder, { params: { id: till.id }, body: { parent: cards.id } })
  expect(refused.status).to.equal(422)
})
it('takes a folder away and leaves its cases in the one above', async () => {
  const of = shop()
  const till = await folder(of, 'Till')
  const cards = await folder(of, 'Cards', till.id)
  const inner = await folder(of, 'Contactless', cards.id)
  await of.tester.ask(writeCaseLines, { body: { lines: 'A\nB', folder: cards.id } })
  const done = await of.tester.ask(deleteFolder, { params: { id: cards.id } })
  expect([done.cases.length, done.folders]).to.deep.equal([2, [inner.id]])
  expect(await tree(of)).to.have.members(['/Till 2', 'Till/Contactless 0'])
  expect((await of.tester.refused(deleteFolder, { params: { id: cards.id } })).status).to.be.oneOf([404, 410])
})
it('mirrors the branches of the requirements: first as a count, then for good, and again for nothing', async () => {
  const of = shop()
  await of.tester.ask(writeRequirementLines, { body: { lines: 'Till\n\tCards' } })
  await makeCase(of.tester, 'Pays by card', { proves: 'RQ-2' })
  expect(await of.lead.ask(mirrorFolders, { body: { dry: true } })).to.deep.equal({ folders: 1, cases: 1, undo: [] })
  expect(await tree(of)).to.deep.equal([])
  const done = await of.lead.ask(mirrorFolders)
  expect([done.folders, done.cases, done.undo[0]?.set]).to.deep.equal([1, 1, { folderId: null }])
  expect(await tree(of)).to.deep.equal(['/Till 1'])
  expect(await of.lead.ask(mirrorFolders, { body: { dry: true } })).to.deep.equal({ folders: 0, cases: 0, undo: [] })
})
it('links many to many, each pair once, and says how many it made', async () => {
  const of = shop()
  const requirements = await makeRequirements(of.tester, 'Pay', 'Leave')
  const cases = [await makeCase(of.tester, 'A'), await makeCase(of.tester, 'B')]
  const done = await of.tester.ask(createLinks, { body: { requirements, cases } })
  expect([done.made, done.of, done.links.length]).to.deep.equal([4, 4, 4])
  expect(await of.tester.ask(createLinks, { body: { requirements, cases: ['tc-1 '] } })).to.deep.equal({
    made: 0,
    of: 2,
    links: [],
  })
  const { rows } = await of.viewer.ask(listHistory, { query: { ref: 'TC-1' } })
  expect(rows.filter(({ action }) => action === 'linked')).to.have.length(2)
})
it('links none when one of the keys is none, or leads nowhere', async () => {
  const of = shop()
  const requirements = await makeRequirements(of.tester, 'Pay')
  const cases = [await makeCase(of.tester, 'A')]
  const typo = await of.tester.refused(createLinks, { body: { requirements, cases: [...cases, 'RQ-1'] } })
  expect(typo.detail).to.equal('“RQ-1” is not a key; one looks like TC-12. Nothing was linked.')
  expect((await of.tester.refused(createLinks, { body: { requirements, cases: ['TC-9'] } })).status).to.equal(404)
  expect((await caseOf(of.viewer, 'TC-1')).links).to.deep.equal([])
})
it('narrows a link to a step and to words, refuses a step the case does not have, and ends it', async () => {
  const of = shop()
  const [key = ''] = await makeRequirements(of.tester, 'Pay')
  const own = await makeCase(of.tester, 'A', { proves: key })
  const { content, links } = await caseOf(of.tester, own)
  const [link] = links
  const params = { id: link?.link ?? 0 }
  const step = content.steps[0]?.id ?? null
  await of.tester.ask(updateLink, { params, body: { step, quote: 'at once' } })
  expect((await caseOf(of.tester, own)).links[0]?.step).to.equal(step)
  expect((await of.tester.refused(updateLink, { params, body: { step: 9999, quote: '' } })).status).to.equal(400)
  await of.tester.ask(endLink, { params })
  expect((await caseOf(of.tester, own)).links).to.deep.equal([])
})
it('confirms a suspect link against the revision it is now', async () => {
  const of = shop()
  const [key = ''] = await makeRequirements(of.tester, 'Pay')
  await makeCase(of.tester, 'A', { proves: key })
  const { version } = await requirement(of.tester, key)
  await of.tester.ask(updateRequirement, { params: { ref: key }, body: { title: 'Pay now' }, version })
  const suspect = (await requirement(of.tester, key)).linked[0]
  expect(suspect?.suspect).to.equal(true)
  await of.tester.ask(confirmLink, { params: { id: suspect?.link ?? 0 } })
  expect((await requirement(of.tester, key)).suspect).to.equal(0)
})
it('files a case where it is put, and finds it there', async () => {
  const of = shop()
  const till = await folder(of, 'Till')
  const key = await makeCase(of.tester, 'A')
  const { version } = await caseOf(of.tester, key)
  await of.tester.ask(updateCase, { params: { ref: key }, body: { folderId: till.id }, version })
  const filter = JSON.stringify({ field: 'folder', op: 'is', values: ['Till'] })
  expect((await of.viewer.ask(listCases, { query: { filter } })).rows.map((row) => row.key)).to.deep.equal([key])
})

it('links all that are chosen by their ids, says how many of how many, and takes just those back', async () => {
  const of = shop()
  const [key = ''] = await makeRequirements(of.tester, 'Sums')
  const lines = Array.from({ length: 230 }, (_, n) => `Case ${n}`).join('\n')
  const { keys } = await of.tester.ask(writeCaseLines, { body: { lines } })
  const ids = of.db.$client.prepare('select id from test_case').pluck().all().map(Number)
  await of.tester.ask(createLinks, { body: { requirements: [key], cases: keys.slice(0, 16) } })
  const done = await of.tester.ask(createLinks, { body: { requirements: [key], caseIds: ids } })
  expect([done.made, done.of]).to.deep.equal([214, 230])
  expect(await of.tester.ask(endLinks, { body: { ids: done.links } })).to.deep.equal({ ended: 214 })
  expect(await of.tester.ask(endLinks, { body: { ids: done.links } })).to.deep.equal({ ended: 0 })
  expect((await requirement(of.viewer, key)).cases).to.equal(16)
  const nobody = await of.tester.refused(createLinks, { body: { requirements: [key], caseIds: [9999] } })
  expect([nobody.status, nobody.detail]).to.deep.equal([
    400,
    'There is no case 9999 in this project; nothing was stored.',
  ])
  expect((await of.tester.refused(createLinks, { body: { requirements: [key] } })).detail).to.match(/names no case/)
})
