import { expect } from 'chai'
import {
  changeCases,
  compareCase,
  cutVersion,
  deleteCases,
  listCases,
  orderCases,
  readCase,
  readVersion,
  restoreVersion,
  storeWorkingCopy,
  updateCase,
  writeCaseLines,
} from '#core/cases/contract.ts'
import { restoreObject } from '#core/history/contract.ts'
import { type Shop, shop } from '#test/app.ts'
import { caseOf, idsOf, makeCase, makeRequirements, requirement } from '#test/make.ts'

const edit = async (of: Shop, ref: string, body: object) =>
  of.tester.ask(updateCase, { params: { ref }, body, version: (await caseOf(of.tester, ref)).version })

/** Writes other actions into the working copy; steps keep their identities. */
async function rewrite(of: Shop, ref: string, ...actions: string[]) {
  const { content, contentStamp } = await caseOf(of.tester, ref)
  const steps = actions.map((action, at) => ({ id: null, expected: '', data: '', ...content.steps[at], action }))
  return of.tester.ask(storeWorkingCopy, {
    params: { ref },
    body: { content: { ...content, steps }, stamp: contentStamp },
  })
}
const actions = async (of: Shop, ref: string) =>
  (await caseOf(of.tester, ref)).content.steps.map(({ action }) => action)

it('writes cases and their steps as lines, linked to a requirement', async () => {
  const of = shop()
  const [key = ''] = await makeRequirements(of.tester, 'Pay')
  const { id } = await requirement(of.tester, key)
  const lines = 'Pays by card\n\tInsert the card => It is read\n\tTake it\nPays in cash'
  const { keys } = await of.tester.ask(writeCaseLines, { body: { lines, requirement: id } })
  expect(keys).to.deep.equal(['TC-1', 'TC-2'])
  const { content, links } = await caseOf(of.tester, 'TC-1')
  expect(content.steps.map(({ action, expected }) => [action, expected])).to.deep.equal([
    ['Insert the card', 'It is read'],
    ['Take it', ''],
  ])
  expect(links.map((link) => link.key)).to.deep.equal([key])
})
it('refuses lines for a requirement, a folder or a template that is not there', async () => {
  const of = shop()
  for (const body of [{ requirement: 9 }, { folder: 9 }, { template: 9 }])
    expect((await of.tester.refused(writeCaseLines, { body: { lines: 'x', ...body } })).status).to.be.oneOf([400, 404])
  expect((await of.lead.ask(listCases)).total).to.equal(0)
})
it('edits fields, and refuses an edit over a newer one', async () => {
  const of = shop()
  const key = await makeCase(of.tester, 'Pays')
  await edit(of, key, { importance: 'Critical', estimate: 12, tags: ['card'] })
  const after = await caseOf(of.tester, key)
  expect([after.importance, after.estimate, after.tags]).to.deep.equal(['Critical', 12, ['card']])
  const late = await of.lead.refused(updateCase, { params: { ref: key }, body: { title: 'x' }, version: 1 })
  expect(late.status).to.equal(412)
  expect(late.current, 'what stands elsewhere, too').to.deep.include({ tags: ['card'], custom: {}, retired: false })
})
it('keeps an owner to people of the project, and a folder to its own', async () => {
  const of = shop()
  const key = await makeCase(of.tester, 'Pays')
  const { version } = await caseOf(of.tester, key)
  for (const [field, value] of [
    ['ownerId', 'stranger'],
    ['folderId', 77],
  ] as const) {
    const refused = await of.tester.refused(updateCase, { params: { ref: key }, body: { [field]: value }, version })
    expect([refused.status, refused.fields]).to.deep.equal([400, [field]])
  }
})
it('retires and brings back, and the day of retiring is the first', async () => {
  const of = shop()
  const key = await makeCase(of.tester, 'Pays')
  await edit(of, key, { retired: true })
  const day = () => of.db.$client.prepare('select retired_at from test_case').pluck().get()
  const first = day()
  of.pass(1000)
  const [id = 0] = await idsOf(of.tester, [key])
  const again = await of.tester.ask(changeCases, { body: { ids: [id], set: { retired: true } } })
  expect([again.changed, day()]).to.deep.equal([0, first])
  const back = await of.tester.ask(changeCases, { body: { ids: [id], set: { retired: false } } })
  expect([back.changed, back.undo[0]?.set, day()]).to.deep.equal([1, { retired: true }, null])
})
it('changes many at once with what each was before, for any mix of fields', async () => {
  const of = shop()
  const keys = [await makeCase(of.tester, 'A'), await makeCase(of.tester, 'B')]
  await edit(of, 'TC-2', { importance: 'Low', tags: ['old'] })
  const ids = await idsOf(of.tester, keys)
  const done = await of.tester.ask(changeCases, {
    body: { ids, set: { importance: 'High', estimate: 5 }, tags: { add: ['new'], drop: ['old'] } },
  })
  expect(done.changed).to.equal(2)
  for (const { id, set } of done.undo) await of.tester.ask(changeCases, { body: { ids: [id], set } })
  const { rows } = await of.tester.ask(listCases)
  expect(rows.map(({ importance, estimate, tags }) => [importance, estimate, tags])).to.deep.equal([
    ['Medium', null, []],
    ['Low', null, ['old']],
  ])
})
it('changes nothing where many are asked for nothing', async () => {
  const of = shop()
  const ids = await idsOf(of.tester, [await makeCase(of.tester, 'A')])
  expect(await of.tester.ask(changeCases, { body: { ids, set: {} } })).to.deep.equal({ changed: 0, undo: [] })
})
it('deletes, says that it was, and brings back', async () => {
  const of = shop()
  const ids = await idsOf(of.tester, [await makeCase(of.tester, 'A')])
  const { refs } = await of.lead.ask(deleteCases, { body: { ids } })
  expect((await of.viewer.refused(readCase, { params: { ref: 'TC-1' } })).detail).to.equal(
    'TC-1 was deleted; it can be brought back.',
  )
  await of.tester.ask(restoreObject, { body: { refs } })
  expect((await caseOf(of.viewer, 'TC-1')).title).to.equal('A')
})
it('stores what is typed in the working copy, and cuts a version only where it says something new', async () => {
  const of = shop()
  const key = await makeCase(of.tester, 'Pays')
  await rewrite(of, key, 'Insert the card')
  expect((await of.tester.ask(cutVersion, { params: { ref: key } })).cut).to.equal(true)
  expect((await of.tester.ask(cutVersion, { params: { ref: key } })).cut).to.equal(false)
  await rewrite(of, key, 'Hold the card to it')
  const second = await of.tester.ask(cutVersion, { params: { ref: key }, body: { why: 'the new reader' } })
  const sheet = await caseOf(of.tester, key)
  expect(sheet.versions.map(({ name }) => name)[0]).to.equal(second.name)
  expect(new Set(sheet.versions.map(({ name }) => name)).size).to.equal(sheet.versions.length)
})
it('refuses to store over what somebody else typed meanwhile, and keeps theirs', async () => {
  const of = shop()
  const key = await makeCase(of.tester, 'Pays')
  const { content, contentStamp } = await caseOf(of.lead, key)
  await rewrite(of, key, 'Theirs')
  const late = await of.lead.refused(storeWorkingCopy, { params: { ref: key }, body: { content, stamp: contentStamp } })
  expect([late.status, late.detail.slice(0, 35)]).to.deep.equal([412, 'Somebody changed the steps of TC-1 '])
  expect(await actions(of, key)).to.deep.equal(['Theirs'])
})
it('keeps the identity of a step through a change and a move', async () => {
  const of = shop()
  const key = await makeCase(of.tester, 'Pays', { steps: ['One', 'Two'] })
  const before = (await caseOf(of.tester, key)).content.steps.map(({ id }) => id)
  const { content, contentStamp } = await caseOf(of.tester, key)
  const turned = { ...content, steps: [...content.steps].reverse() }
  await of.tester.ask(storeWorkingCopy, { params: { ref: key }, body: { content: turned, stamp: contentStamp } })
  expect((await caseOf(of.tester, key)).content.steps.map(({ id }) => id)).to.deep.equal([...before].reverse())
})
it('drops empty steps, and takes scripts out of the others', async () => {
  const of = shop()
  const key = await makeCase(of.tester, 'Pays')
  await rewrite(of, key, 'Look<script>x()</script>', ' ')
  expect(await actions(of, key)).to.deep.equal(['Look'])
})
it('compares two versions, and restores one without losing the other', async () => {
  const of = shop()
  const key = await makeCase(of.tester, 'Pays', { steps: ['Insert the card'] })
  const first = await of.tester.ask(cutVersion, { params: { ref: key } })
  await rewrite(of, key, 'Hold the card to it')
  const second = await of.tester.ask(cutVersion, { params: { ref: key } })
  const version = first.id ?? (await caseOf(of.tester, key)).versions.at(-1)?.id ?? 0
  const compared = await of.viewer.ask(compareCase, {
    params: { ref: key },
    query: { from: version, to: second.id ?? 0 },
  })
  expect(compared.steps.map(({ changed }) => changed)).to.deep.equal([true])
  await of.tester.ask(restoreVersion, { params: { ref: key }, body: { version } })
  expect(await actions(of, key)).to.deep.equal(['Insert the card'])
  const kept = await of.viewer.ask(readVersion, { params: { id: second.id ?? 0 } })
  expect(kept.content.steps.map(({ action }) => action)).to.deep.equal(['Hold the card to it'])
})
it('refuses a version of another case', async () => {
  const of = shop()
  const [a, b] = [await makeCase(of.tester, 'A'), await makeCase(of.tester, 'B')]
  await of.tester.ask(cutVersion, { params: { ref: b } })
  const other = (await caseOf(of.tester, b)).versions[0]?.id ?? 0
  const refused = await of.tester.refused(restoreVersion, { params: { ref: a }, body: { version: other } })
  expect(refused.status).to.equal(404)
})
it('lists pages that together are the order, each case once', async () => {
  const of = shop()
  for (const title of ['A', 'B', 'C', 'D', 'E']) await makeCase(of.tester, title)
  const { ids } = await of.viewer.ask(orderCases, { query: { sort: '-title' } })
  const seen: number[] = []
  let cursor: number | null = 0
  while (cursor !== null) {
    const page: { rows: { id: number }[]; next: number | null } = await of.viewer.ask(listCases, {
      query: { sort: '-title', limit: 2, cursor },
    })
    seen.push(...page.rows.map(({ id }) => id))
    cursor = page.next
  }
  expect(seen).to.deep.equal(ids)
})
it('reads a key in small letters', async () => {
  const of = shop()
  await makeCase(of.tester, 'A')
  expect((await caseOf(of.viewer, 'tc-1')).key).to.equal('TC-1')
})
