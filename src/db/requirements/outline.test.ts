import { expect } from 'chai'
import { shop, type Shop } from '#test/app.ts'
import { makeRequirements, requirement } from '#test/make.ts'
import { hideRows } from '#db/finding/search.ts'
import {
  branchIds,
  childIds,
  childrenOf,
  depthsOf,
  lastPosition,
  outlinePlaces,
  pathOf,
  placeRequirement,
  siblings,
} from './outline.ts'

describe('the outline as it is stored', () => {
  let own: Shop
  let ids: number[]
  // RQ-1 Payment › RQ-2 Card › RQ-3 Refused; RQ-1 › RQ-4 Cash; RQ-5 Boarding
  beforeEach(async () => {
    own = shop()
    const lines = 'Payment\n\tCard\n\t\tRefused\n\tCash\nBoarding'
    const keys = await makeRequirements(own.lead, lines)
    ids = await Promise.all(keys.map(async (key) => (await requirement(own.lead, key)).id))
  })
  const project = () => own.project().id
  const hide = (...of: number[]) =>
    hideRows(
      own.db,
      'requirement',
      of.map((at) => ids[at] ?? 0),
      own.now(),
    )
  const id = (at: number) => ids[at] ?? 0

  it('a way leads from the top to the requirement above, without itself', () => {
    expect(pathOf(own.db, id(2)).map(({ title }) => title)).to.deep.equal(['Payment', 'Card'])
    expect(pathOf(own.db, id(0))).to.deep.equal([])
  })
  it('a branch is what is named and everything below it, each once', () => {
    expect(branchIds(own.db, project(), [id(0), id(1)]).map(({ key }) => key)).to.have.members([
      'RQ-1',
      'RQ-2',
      'RQ-3',
      'RQ-4',
    ])
    expect(branchIds(own.db, project(), [])).to.deep.equal([])
  })
  it('a branch of another project is none of this one', () => {
    expect(branchIds(own.db, project() + 1, [id(0)])).to.deep.equal([])
    expect(outlinePlaces(own.db, project() + 1)).to.deep.equal([])
  })
  it('what is deleted is no child, no sibling and no part of a branch', () => {
    hide(1)
    expect(childrenOf(own.db, project(), id(0)).map(({ title }) => title)).to.deep.equal(['Cash'])
    expect(childIds(own.db, project(), id(0))).to.deep.equal([id(3)])
    expect(siblings(own.db, project(), id(0))).to.deep.equal([id(3)])
    expect(branchIds(own.db, project(), [id(0)]).map(({ key }) => key)).to.have.members(['RQ-1', 'RQ-3', 'RQ-4'])
  })
  it('depths count from the top', () => {
    const depths = depthsOf(own.db, project())
    expect(ids.map((each) => depths.get(each))).to.deep.equal([0, 1, 2, 1, 0])
  })
  it('a requirement is placed among its new siblings in the order given', () => {
    placeRequirement(own.db, id(4), id(0), [id(3), id(4), id(1)])
    expect(childIds(own.db, project(), id(0))).to.deep.equal([id(3), id(4), id(1)])
    expect(lastPosition(own.db, project(), id(0))).to.equal(3)
    expect(siblings(own.db, project(), null)).to.deep.equal([id(0)])
  })
  it('the last position of an empty place is zero', () => {
    expect(lastPosition(own.db, project(), id(2))).to.equal(0)
  })
})
