import { expect } from 'chai'
import fc from 'fast-check'
import { outlineLines, outlineOrder, wouldCycle } from './outline.ts'

it('reads Tabs and spaces as levels that never jump', () => {
  expect(outlineLines('Fares\n\tIslander\n\t\t\t\tExpired card\n\n  - Off-peak\nDeck')).to.deep.equal([
    { title: 'Fares', depth: 0 },
    { title: 'Islander', depth: 1 },
    { title: 'Expired card', depth: 2 },
    { title: 'Off-peak', depth: 1 },
    { title: 'Deck', depth: 0 },
  ])
})
it('never jumps by more than one level, whatever is pasted', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.stringMatching(/^[\t ]{0,9}$/), fc.stringMatching(/^[a-z]{1,5}$/)), { maxLength: 30 }),
      (lines) => {
        const read = outlineLines(lines.map(([indent, word]) => indent + word).join('\n'))
        expect(read).to.have.length(lines.length)
        read.forEach(({ depth }, index) => expect(depth).to.be.at.most((read[index - 1]?.depth ?? -1) + 1))
      },
    ),
  )
})
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
