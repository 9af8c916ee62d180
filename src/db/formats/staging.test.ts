import { expect } from 'chai'
import { emptyContent } from '#core/cases/steps.ts'
import { addCases } from '#db/cases/add-cases.ts'
import { caseById } from '#db/cases/cases.ts'
import { step, caseVersion } from '#db/cases/tables.ts'
import { addRequirement, findRequirement } from '#db/requirements/requirements.ts'
import { shop, type Shop } from '#test/app.ts'
import { caseOf, makeCase } from '#test/make.ts'
import { dropLeftovers, dropStaged, findByTitle, showStaged } from './staging.ts'

/** The instant that marks what an import has not finished. */
const waiting = 1

describe('what an import has written and not yet shown', () => {
  let own: Shop
  let project: number
  beforeEach(() => {
    own = shop()
    project = own.project().id
  })
  const by = () => ({ now: own.now(), personId: 'lead' })
  const stage = (...titles: string[]): number[] =>
    addCases(
      own.db,
      project,
      titles.map((title, at) => ({
        number: 500 + at,
        position: 500 + at,
        title,
        objective: '',
        folderId: null,
        importance: 'Medium',
        component: '',
        estimate: null,
        ownerId: null,
        automation: 'Manual',
        type: 'Functional',
        deletedAt: waiting,
        content: { ...emptyContent, steps: [{ id: null, action: 'Look', expected: 'There', data: '' }] },
        fingerprint: 'f',
      })),
      by(),
    )
  const count = () => [own.db.select().from(caseVersion).all().length, own.db.select().from(step).all().length]

  it('is seen by nobody until all of it is there', async () => {
    const ids = stage('Pay by card', 'Hold a place')
    expect(findByTitle(own.db, 'test_case', project, 'Pay by card')).to.equal(null)
    showStaged(own.db, 'test_case', ids, [])
    expect(findByTitle(own.db, 'test_case', project, 'Pay by card')).to.equal(ids[0])
    expect((await caseOf(own.lead, 'TC-501')).content.steps.map(({ action }) => action)).to.deep.equal(['Look'])
  })

  it('what was cut off is taken out whole, and what was there before stays', async () => {
    await makeCase(own.lead, 'Mine')
    const before = count()
    const ids = stage('Pay by card', 'Hold a place')
    expect(dropLeftovers(own.db)).to.equal(2)
    expect(caseById(own.db, ids[0] ?? 0)).to.equal(undefined)
    expect(count()).to.deep.equal(before)
    expect(dropLeftovers(own.db)).to.equal(0)
    expect((await caseOf(own.lead, 'TC-1')).title).to.equal('Mine')
  })

  it('only what is named is taken out', () => {
    const [first = 0, second = 0] = stage('Pay by card', 'Hold a place')
    dropStaged(own.db, 'test_case', [first])
    expect([caseById(own.db, first), caseById(own.db, second)?.title]).to.deep.equal([undefined, 'Hold a place'])
  })

  it('requirements are shown under those they belong to', () => {
    const add = (title: string, number: number) =>
      addRequirement(
        own.db,
        { projectId: project, number, parentId: null, position: number, title, deletedAt: waiting },
        by(),
      )
    const [payment, card] = [add('Payment', 1), add('Card', 2)]
    showStaged(
      own.db,
      'requirement',
      [payment, card],
      [
        { id: payment, parent: null },
        { id: card, parent: payment },
      ],
    )
    const shown = findRequirement(own.db, project, 2)
    expect([shown?.parentId, shown?.deletedAt]).to.deep.equal([payment, null])
    add('Cut off', 3)
    expect(dropLeftovers(own.db)).to.equal(1)
    expect([findRequirement(own.db, project, 3), findRequirement(own.db, project, 1)?.title]).to.deep.equal([
      undefined,
      'Payment',
    ])
  })

  it('the first of the same title is meant, in its own project', async () => {
    await makeCase(own.lead, 'Twin')
    await makeCase(own.lead, 'Twin')
    expect(findByTitle(own.db, 'test_case', project, 'Twin')).to.equal((await caseOf(own.lead, 'TC-1')).id)
    expect(findByTitle(own.db, 'test_case', project + 1, 'Twin')).to.equal(null)
  })
})
