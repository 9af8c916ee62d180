import { expect } from 'chai'
import fc from 'fast-check'
import { keyMoves } from './focus.ts'

const extent = { lines: 100, columns: 4, page: 18 }
it('moves a line, a column, a page, and to the ends', () => {
  const from = { line: 50, column: 1 }
  const to = (key: string) => keyMoves(key, from, extent)
  expect(to('ArrowDown')).to.deep.equal({ line: 51, column: 1 })
  expect(to('ArrowLeft')).to.deep.equal({ line: 50, column: 0 })
  expect(to('PageUp')).to.deep.equal({ line: 32, column: 1 })
  expect(to('End')).to.deep.equal({ line: 99, column: 1 })
  expect(to('Home')).to.deep.equal({ line: 0, column: 1 })
})
it('leaves other keys to others', () => expect(keyMoves('x', { line: 0, column: -1 }, extent)).to.equal(null))
it('never leads over an edge, wherever it starts and whichever keys are pressed', () =>
  fc.assert(
    fc.property(
      fc.record({ lines: fc.integer({ min: 1, max: 60 }), columns: fc.nat(6), page: fc.nat(30) }),
      fc.array(fc.constantFrom('ArrowDown', 'ArrowUp', 'ArrowRight', 'ArrowLeft', 'Home', 'End', 'PageDown', 'PageUp')),
      (of, keys) => {
        let focus = { line: 0, column: -1 }
        for (const key of keys) {
          focus = keyMoves(key, focus, of) ?? focus
          expect(focus.line).to.be.within(0, of.lines - 1)
          expect(focus.column).to.be.within(-1, Math.max(-1, of.columns - 1))
        }
      },
    ),
  ))
