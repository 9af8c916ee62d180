import { expect } from 'chai'
import { isTable, withCells, withValue } from './row-edits.ts'

const rows: Record<string, string>[] = [{ card: '4000' }, { card: '4111', kind: 'refused' }]
const draft = { parameters: ['card', 'kind', 'limit'], rows }

describe('data rows of a case', () => {
  it('take a value in one cell', () => {
    expect(withValue(draft.rows, 1, 'kind', 'accepted')[1]).to.deep.equal({ card: '4111', kind: 'accepted' })
    expect(withValue(draft.rows, 1, 'kind', 'accepted')[0]).to.equal(draft.rows[0])
  })
  it('take the cells of a spreadsheet, down into new rows and never past the last column', () => {
    expect(withCells(draft, 'slow\t20\tlost\nfast', 1, 1)).to.deep.equal([
      { card: '4000' },
      { card: '4111', kind: 'slow', limit: '20' },
      { kind: 'fast' },
    ])
  })
  it('know a table from the text of one cell', () => {
    expect(['a\tb', 'a\nb'].every(isTable)).to.equal(true)
    expect(['a b', 'a\n', '\ta'].some(isTable)).to.equal(false)
  })
})
