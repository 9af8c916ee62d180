import { expect } from 'chai'
import { cutVersion } from '#core/cases/contract.ts'
import { minute, shop, type Shop } from '#test/app.ts'
import { idOf, makeCase } from '#test/make.ts'
import {
  addSuggestion,
  answerReview,
  askReview,
  findSuggestion,
  reviewsOf,
  saveSuggestion,
  suggestionsOf,
} from './reviews.ts'

describe('reviews and suggestions as they are stored', () => {
  let own: Shop
  let caseId: number
  let versionId: number
  beforeEach(async () => {
    own = shop()
    const ref = await makeCase(own.lead, 'Pay by card')
    caseId = await idOf(own.lead, ref)
    versionId = (await own.lead.ask(cutVersion, { params: { ref }, body: {} })).id ?? 0
  })
  const ask = (personId: string, askedBy = 'lead') =>
    askReview(own.db, { projectId: own.project().id, caseId, versionId, askedBy, personId, at: own.now() })
  const answer = (personId: string) =>
    answerReview(own.db, { caseId, personId, answer: 'approved', at: own.now() + minute })
  const told = () => reviewsOf(own.db, caseId).map((row) => [row.personId, row.by, row.answer])

  it('a person is asked once about a version, and again when they have answered', () => {
    ask('tester')
    ask('tester', 'second')
    expect(told()).to.deep.equal([['tester', 'Lead Person', null]])
    answer('tester')
    ask('tester', 'second')
    expect(told()).to.deep.equal([
      ['tester', 'Second Person', null],
      ['tester', 'Lead Person', 'approved'],
    ])
  })
  it('who asked hears of it once, even when another answers', () => {
    ask('tester')
    ask('second')
    expect(answer('stranger')).to.deep.equal(['lead'])
    expect(told().every(([, , said]) => said === null)).to.equal(true)
    expect(answer('second')).to.deep.equal(['lead'])
    expect(told()).to.deep.equal([
      ['second', 'Lead Person', 'approved'],
      ['tester', 'Lead Person', null],
    ])
  })
  it('an answer of a case is none of another', async () => {
    ask('tester')
    const other = await idOf(own.lead, await makeCase(own.lead, 'Hold a place'))
    expect(
      answerReview(own.db, { caseId: other, personId: 'tester', answer: 'sent back', at: own.now() }),
    ).to.deep.equal([])
    expect(reviewsOf(own.db, other)).to.deep.equal([])
    expect(told()).to.deep.equal([['tester', 'Lead Person', null]])
  })
  it('a suggestion is kept as it was decided, and found in its own project only', () => {
    const id = addSuggestion(own.db, {
      projectId: own.project().id,
      caseId,
      versionId,
      content: '{}',
      note: 'Say the amount',
      state: 'Open',
      at: own.now(),
      personId: 'tester',
    })
    expect(suggestionsOf(own.db, caseId).map(({ by, note, state }) => [by, note, state])).to.deep.equal([
      ['Tester Person', 'Say the amount', 'Open'],
    ])
    saveSuggestion(own.db, id, { state: 'Taken', decidedAt: own.now(), decidedBy: 'lead' })
    const found = findSuggestion(own.db, own.project().id, id)
    expect([found?.state, found?.decidedBy, found?.note]).to.deep.equal(['Taken', 'lead', 'Say the amount'])
    expect(findSuggestion(own.db, own.project().id + 1, id)).to.equal(undefined)
  })
})
