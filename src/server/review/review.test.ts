import { expect } from 'chai'
import { readVersion, storeWorkingCopy } from '#core/cases/contract.ts'
import {
  decideSuggestion,
  readSuggestion,
  reviewCase,
  startSuggestion,
  storeSuggestion,
} from '#core/review/contract.ts'
import { listInbox } from '#core/talk/contract.ts'
import { type Shop, shop } from '#test/app.ts'
import { caseOf, makeCase } from '#test/make.ts'

const review = (of: Shop, ref: string, to: 'Draft' | 'In review' | 'Approved', people: string[] = [], why = '') =>
  of.lead.ask(reviewCase, { params: { ref }, body: { to, people, why } })
const asked = async (of: Shop) => {
  const key = await makeCase(of.tester, 'Pays')
  await of.tester.ask(reviewCase, { params: { ref: key }, body: { to: 'In review', people: ['lead'] } })
  return key
}

it('asks people by name, tells them, and approves the version as a whole number', async () => {
  const of = shop()
  const key = await asked(of)
  const { rows } = await of.lead.ask(listInbox)
  expect(rows.map(({ kind, ref }) => [kind, ref])).to.deep.equal([['review', key]])
  expect((await review(of, key, 'Approved')).name).to.equal('1.0')
  const sheet = await caseOf(of.viewer, key)
  expect([sheet.state, sheet.versionName]).to.deep.equal(['Approved', '1.0'])
})
it('does not let whoever wrote it approve it', async () => {
  const of = shop()
  const key = await makeCase(of.lead, 'Pays')
  await of.lead.ask(reviewCase, { params: { ref: key }, body: { to: 'In review' } })
  const refused = await of.lead.refused(reviewCase, { params: { ref: key }, body: { to: 'Approved' } })
  expect(refused.status).to.be.oneOf([403, 422])
  expect((await caseOf(of.viewer, key)).state).to.equal('In review')
})
it('does not let whoever wrote in the working copy approve it through a version somebody else cut', async () => {
  const of = shop()
  const key = await makeCase(of.tester, 'Pays')
  const { content, contentStamp } = await caseOf(of.lead, key)
  expect((await caseOf(of.lead, key)).wroteIt).to.equal(false)
  const preconditions = 'A held place'
  await of.lead.ask(storeWorkingCopy, {
    params: { ref: key },
    body: { content: { ...content, preconditions }, stamp: contentStamp },
  })
  await of.tester.ask(reviewCase, { params: { ref: key }, body: { to: 'In review' } })
  expect((await caseOf(of.lead, key)).wroteIt).to.equal(true)
  const refused = await of.lead.refused(reviewCase, { params: { ref: key }, body: { to: 'Approved' } })
  expect(refused.detail).to.equal('You wrote in this version, so somebody else has to approve it.')
})
it('lets a lead approve what others wrote since they approved it last', async () => {
  const of = shop()
  const key = await asked(of)
  await review(of, key, 'Approved')
  const { content, contentStamp } = await caseOf(of.tester, key)
  const preconditions = 'A held place'
  await of.tester.ask(storeWorkingCopy, {
    params: { ref: key },
    body: { content: { ...content, preconditions }, stamp: contentStamp },
  })
  expect((await review(of, key, 'Approved')).name).to.equal('2.0')
})
it('does not let a tester approve anything', async () => {
  const of = shop()
  const key = await makeCase(of.lead, 'Pays')
  await of.lead.ask(reviewCase, { params: { ref: key }, body: { to: 'In review' } })
  expect((await of.tester.refused(reviewCase, { params: { ref: key }, body: { to: 'Approved' } })).status).to.equal(403)
})
it('sends it back with a reason, which the author is told', async () => {
  const of = shop()
  const key = await asked(of)
  await review(of, key, 'Draft', [], 'The second step is missing')
  expect((await caseOf(of.viewer, key)).state).to.equal('Draft')
  const [told] = (await of.tester.ask(listInbox)).rows
  expect([told?.kind, told?.text.includes('second step')]).to.deep.equal(['answer', true])
})
it('asks nobody who is not of the project', async () => {
  const of = shop()
  const key = await makeCase(of.tester, 'Pays')
  const body = { to: 'In review' as const, people: ['stranger'] }
  expect((await of.tester.refused(reviewCase, { params: { ref: key }, body })).status).to.be.oneOf([400, 422])
})
const suggestion = async (of: Shop, key: string) => {
  const { id } = await of.lead.ask(startSuggestion, { params: { ref: key } })
  return of.lead.ask(readSuggestion, { params: { id } })
}
it('lets somebody suggest a change in a copy of their own, and the author take it', async () => {
  const of = shop()
  const key = await makeCase(of.tester, 'Pays')
  const own = await suggestion(of, key)
  const steps = own.content.steps.map((step) => ({ ...step, action: 'Look twice' }))
  await of.lead.ask(storeSuggestion, {
    params: { id: own.id },
    body: { content: { ...own.content, steps }, stamp: own.contentStamp, note: 'Once is not enough' },
  })
  expect((await caseOf(of.tester, key)).content.steps[0]?.action).to.equal('Look')
  await of.tester.ask(decideSuggestion, { params: { id: own.id }, body: { take: true } })
  expect((await caseOf(of.tester, key)).content.steps[0]?.action).to.equal('Look twice')
  const again = await of.tester.refused(decideSuggestion, { params: { id: own.id }, body: { take: true } })
  expect(again.status).to.equal(422)
})
it('keeps a suggestion to whoever writes it', async () => {
  const of = shop()
  const key = await makeCase(of.tester, 'Pays')
  const own = await suggestion(of, key)
  const refused = await of.tester.refused(storeSuggestion, { params: { id: own.id }, body: { note: 'Mine now' } })
  expect(refused.status).to.be.oneOf([403, 404, 422])
})
it('declines a suggestion and leaves the case as it is', async () => {
  const of = shop()
  const key = await makeCase(of.tester, 'Pays')
  const own = await suggestion(of, key)
  const steps = own.content.steps.map((step) => ({ ...step, action: 'Look away' }))
  await of.lead.ask(storeSuggestion, {
    params: { id: own.id },
    body: { content: { ...own.content, steps }, stamp: own.contentStamp },
  })
  await of.tester.ask(decideSuggestion, { params: { id: own.id }, body: { take: false } })
  expect((await caseOf(of.tester, key)).content.steps[0]?.action).to.equal('Look')
  expect((await of.viewer.ask(readSuggestion, { params: { id: own.id } })).state).to.equal('Declined')
})
it('keeps what was typed since a suggestion began, as a version of its own', async () => {
  const of = shop()
  const key = await makeCase(of.tester, 'Pays')
  const own = await suggestion(of, key)
  const steps = own.content.steps.map((step) => ({ ...step, expected: 'It is there, twice' }))
  await of.lead.ask(storeSuggestion, {
    params: { id: own.id },
    body: { content: { ...own.content, steps }, stamp: own.contentStamp },
  })
  const { content, contentStamp } = await caseOf(of.tester, key)
  const typed = { ...content, preconditions: 'The till is open' }
  await of.tester.ask(storeWorkingCopy, { params: { ref: key }, body: { content: typed, stamp: contentStamp } })
  await of.tester.ask(decideSuggestion, { params: { id: own.id }, body: { take: true } })
  const after = await caseOf(of.tester, key)
  expect(after.content.steps[0]?.expected).to.equal('It is there, twice')
  const kept = await Promise.all(after.versions.map(({ id }) => of.viewer.ask(readVersion, { params: { id } })))
  expect(kept.map(({ content: said }) => said.preconditions)).to.include('The till is open')
})
