import { expect } from 'chai'
import { indented, pasted, split, swapped, without } from './line-edits.ts'

const lines = ['age: integer', '  child: 4 to 15', '  adult: 16 to 64']
const caret = (value: string, at: number, to = at) => ({ value, selectionStart: at, selectionEnd: to })

describe('lines edited where they stand', () => {
  it('are cut in two by Enter, and the second keeps the indent', () => {
    expect(split(lines, 1, caret(lines[1]!, 8))).to.deep.equal({
      lines: ['age: integer', '  child:', '   4 to 15', '  adult: 16 to 64'],
      line: 2,
      at: 2,
    })
  })
  it('lose what was selected when Enter cuts them', () => {
    expect(split(['one two three'], 0, caret('one two three', 3, 8)).lines).to.deep.equal(['one', 'three'])
  })
  it('grow by one when Enter is pressed after the last', () => {
    expect(split(lines, 3, caret('', 0)).lines).to.deep.equal([...lines, '', ''])
  })
  it('go away, and the one above is typed in', () => {
    expect(without(lines, 1)).to.deep.equal({ lines: [lines[0], lines[2]], line: 0 })
  })
  it('change places with a neighbour, and stay where there is none', () => {
    expect(swapped(lines, 2, -1)).to.deep.equal({ lines: [lines[0], lines[2], lines[1]], line: 1 })
    expect(swapped(lines, 0, -1)).to.equal(null)
    expect(swapped(lines, 2, 1)).to.equal(null)
    expect(swapped(lines, 3, -1)).to.equal(null)
  })
  it('are indented by two signs and back, never past the edge', () => {
    expect(indented(lines, 0, false).lines[0]).to.equal('  age: integer')
    expect(indented(lines, 1, true).lines[1]).to.equal('child: 4 to 15')
    expect(indented(lines, 0, true).lines).to.deep.equal(lines)
  })
  it('take pasted lines after what they say, or in the place of an empty one', () => {
    expect(pasted(lines, 0, 'one\r\n\ntwo\n')).to.deep.equal({
      lines: ['age: integer', 'one', 'two', lines[1], lines[2]],
      line: 1,
    })
    expect(pasted(lines, 3, 'one\ntwo')).to.deep.equal({ lines: [...lines, 'one', 'two'], line: 4 })
    expect(pasted([' '], 0, 'one\ntwo')?.lines).to.deep.equal(['one', 'two'])
    expect(pasted(lines, 0, 'one line only\n')).to.equal(null)
  })
})
