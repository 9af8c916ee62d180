import { expect } from 'chai'
import fc from 'fast-check'
import { undoGroups } from './many.ts'

it('asks once for all that had the same before', () => {
  expect(
    undoGroups([
      { id: 1, set: { a: 1 } },
      { id: 2, set: { a: 2 } },
      { id: 3, set: { a: 1 } },
    ]),
  ).to.deep.equal([
    { ids: [1, 3], set: { a: 1 } },
    { ids: [2], set: { a: 2 } },
  ])
  expect(undoGroups([])).to.deep.equal([])
})
it('gives every object back its own values, once', () =>
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.record({ id: fc.nat(50), set: fc.record({ a: fc.nat(2), b: fc.constantFrom(null, 'x') }) }), {
        selector: ({ id }) => id,
      }),
      (undo) => {
        const back = undoGroups(undo).flatMap(({ ids, set }) => ids.map((id) => ({ id, set })))
        expect([...back].sort((a, b) => a.id - b.id)).to.deep.equal([...undo].sort((a, b) => a.id - b.id))
      },
    ),
  ))
