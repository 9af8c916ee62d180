import { expect } from 'chai'
import fc from 'fast-check'
import { outlineLines } from './outline-lines.ts'

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
