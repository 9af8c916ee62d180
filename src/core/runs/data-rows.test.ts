import { expect } from 'chai'
import fc from 'fast-check'
import { chosenRows, isRowsText } from './data-rows.ts'

describe('which data rows a run executes', () => {
  it('are numbers and spans; all where nothing is said', () => {
    expect(chosenRows('1, 3-5', 9)).to.deep.equal([1, 3, 4, 5])
    expect(chosenRows('', 3)).to.deep.equal([1, 2, 3])
    expect(chosenRows('2 – 3', 9)).to.deep.equal([2, 3])
    expect(chosenRows('7', 3)).to.deep.equal([1])
    expect(chosenRows('7', 0)).to.deep.equal([])
  })
  it('are refused where they name none', () => {
    for (const text of ['first', '0', '5-3', '1..3', '-1', '1,x', '99999'])
      expect(isRowsText(text), text).to.equal(false)
    for (const text of ['', '1', ' 1 , 2 ', '1-1', '3,1']) expect(isRowsText(text), text).to.equal(true)
  })
  it('are there, each once, in their order, and no others than were named', () => {
    const span = fc.tuple(fc.integer({ min: 1, max: 30 }), fc.integer({ min: 0, max: 9 }))
    fc.assert(
      fc.property(fc.array(span, { minLength: 1, maxLength: 5 }), fc.integer({ min: 1, max: 40 }), (spans, n) => {
        const text = spans.map(([from, more]) => (more === 0 ? String(from) : `${from}-${from + more}`)).join(',')
        const named = spans.flatMap(([from, more]) => Array.from({ length: more + 1 }, (_, at) => from + at))
        const wanted = [...new Set(named)].filter((row) => row <= n).sort((a, b) => a - b)
        expect(chosenRows(text, n)).to.deep.equal(wanted.length === 0 ? [1] : wanted)
      }),
    )
  })
})
