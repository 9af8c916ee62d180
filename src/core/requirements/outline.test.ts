import { expect } from 'chai'
import { outlineOrder, wouldCycle } from './outline.ts'

it('reads an outline depth first by position', () => {
  const places = [
    { id: 1, parent: null, position: 2 },
    { id: 2, parent: null, position: 1 },
    { id: 3, parent: 1, position: 1 },
    { id: 4, parent: 99, position: 3 },
  ]
  expect(outlineOrder(places).map(({ place, depth }) => [place.id, depth])).to.deep.equal([
    [2, 0],
    [1, 0],
    [3, 1],
    [4, 0],
  ])
})
it('sees a branch that would be moved below itself', () => {
  const places = [
    { id: 1, parent: null, position: 1 },
    { id: 2, parent: 1, position: 1 },
    { id: 3, parent: 2, position: 1 },
  ]
  expect([wouldCycle(places, 1, 3), wouldCycle(places, 3, 1), wouldCycle(places, 1, null)]).to.deep.equal([
    true,
    false,
    false,
  ])
})
