import { expect } from 'chai'
import { shop, type Shop } from '#test/app.ts'
import { idOf, makeCase, makeRequirements, makeSuite } from '#test/make.ts'
import { saveCase } from '#db/cases/cases.ts'
import { hideRows, objectOf, restoreByRef, searchObjects } from './search.ts'

describe('what is found by a key or by words', () => {
  let own: Shop
  beforeEach(async () => {
    own = shop()
    for (const title of ['Pay by card', 'Refuse a stolen card', 'Hold a place']) await makeCase(own.lead, title)
    await makeRequirements(own.lead, 'Card payments', 'Öl der Fähre')
  })
  const find = (...words: string[]) => searchObjects(own.db, own.project().id, words, 10).map(({ ref }) => ref)

  it('a key finds its object first, also without its dash', () => {
    expect(find('tc-2')[0]).to.equal('TC-2')
    expect(find('tc2')[0]).to.equal('TC-2')
    expect(find('rq1')).to.deep.equal(['RQ-1'])
    expect(find('tc99')).to.deep.equal([])
  })
  it('all words must be there, in any object that has a title', () => {
    expect(find('card')).to.have.members(['TC-1', 'TC-2', 'RQ-1'])
    expect(find('stolen', 'card')).to.deep.equal(['TC-2'])
    expect(find('stolen', 'place')).to.deep.equal([])
    expect(find()).to.deep.equal([])
  })
  it('short words, letters of other scripts and signs of the index are words like others', () => {
    expect(find('öl')).to.deep.equal(['RQ-2'])
    expect(find('fähre')).to.deep.equal(['RQ-2'])
    for (const word of ['"', '"card', 'card*', 'a OR b', "'; drop", '%', '_']) expect(find(word)).to.be.an('array')
    expect(find('%')).to.deep.equal([])
  })
  it('suites are found by their titles, which stand in no index', async () => {
    await makeSuite(own.lead, 'Smoke at the till', [])
    expect(find('smoke')).to.deep.equal(['TS-1'])
    expect(find('smoke', 'till')).to.deep.equal(['TS-1'])
  })
  it('a changed title is found by its new words and no more by its old ones', async () => {
    saveCase(own.db, await idOf(own.lead, 'TC-3'), { title: 'Reserve a seat' })
    expect(find('reserve')).to.deep.equal(['TC-3'])
    expect(find('hold')).to.deep.equal([])
  })
  it('what is deleted is found by nobody, and found again when it is brought back', async () => {
    hideRows(own.db, 'test_case', [await idOf(own.lead, 'TC-2')], own.now())
    expect(find('stolen')).to.deep.equal([])
    expect(find('tc-2')).to.deep.equal([])
    expect(restoreByRef(own.db, own.project().id, 'TC-2')?.kind).to.equal('case')
    expect(find('stolen')).to.deep.equal(['TC-2'])
  })
  it('a key names an object of its own project, deleted or not; a word names none', async () => {
    const id = await idOf(own.lead, 'TC-1')
    hideRows(own.db, 'test_case', [id], own.now())
    expect(objectOf(own.db, own.project().id, 'TC-1')).to.deep.equal({ kind: 'case', id })
    expect(objectOf(own.db, own.project().id + 1, 'TC-1')).to.equal(undefined)
    expect(objectOf(own.db, own.project().id, 'card')).to.equal(undefined)
    expect(restoreByRef(own.db, own.project().id, 'TC-99')).to.equal(undefined)
  })
  it('no more is answered than was asked for', () => {
    expect(searchObjects(own.db, own.project().id, ['card'], 2)).to.have.lengthOf(2)
  })
})
