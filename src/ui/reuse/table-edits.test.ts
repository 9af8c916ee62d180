import { expect } from 'chai'
import { pasted, renamed, set, type TableEdit, tableOf, withColumn, withoutRow, withRow } from './table-edits.ts'

const cards: TableEdit = {
  columns: ['number', 'holder', 'limit'],
  rows: [
    { id: 7, values: { number: '4000', holder: 'Mira' } },
    { id: 9, values: { number: '4111', limit: '20' } },
  ],
}

describe('edits of a data table', () => {
  it('begin with what is stored, without who has it', () => {
    const row = { id: 7, values: { number: '4000' }, heldBy: 'Mira', heldAt: 1, heldIn: 'TC-1', mine: true, usedIn: [] }
    const sheet = { id: 1, name: 'Cards', version: 2, columns: ['number'], usedBy: [], values: [row] }
    expect(tableOf({ ...sheet, rows: 1, held: 1, cases: 0, usedUp: false })).to.deep.equal({
      columns: ['number'],
      rows: [{ id: 7, values: { number: '4000' } }],
    })
  })
  it('take the cells of a spreadsheet from where they land, into new rows below', () => {
    const { rows } = pasted(cards, 'Ada\t30\nIlo\t40\n', 1, 1)
    expect(rows).to.deep.equal([
      { id: 7, values: { number: '4000', holder: 'Mira' } },
      { id: 9, values: { number: '4111', holder: 'Ada', limit: '30' } },
      { id: null, values: { holder: 'Ilo', limit: '40' } },
    ])
    expect(cards.rows).to.have.length(2)
    expect(cards.rows[1]?.values).to.deep.equal({ number: '4111', limit: '20' })
  })
  it('drop what is pasted past the last column', () => {
    expect(pasted(cards, '1\t2\t3', 0, 2).rows[0]?.values['limit']).to.equal('1')
    expect(Object.keys(pasted(cards, '1\t2\t3', 0, 2).rows[0]!.values)).to.have.length(3)
  })
  it('name a column anew with all it says, or take it away', () => {
    const named = renamed(cards, 'holder', 'owner')
    expect(named.columns).to.deep.equal(['number', 'owner', 'limit'])
    expect(named.rows.map(({ values }) => values['owner'])).to.deep.equal(['Mira', ''])
    const gone = renamed(cards, 'number', '')
    expect(gone.columns).to.deep.equal(['holder', 'limit'])
    expect(gone.rows.every(({ values }) => !('number' in values))).to.equal(true)
  })
  it('set one cell and leave the others', () => {
    expect(set(cards, 0, 'limit', '5').rows.map(({ values }) => values['limit'])).to.deep.equal(['5', '20'])
  })
  it('add and take away rows and columns', () => {
    expect(withRow(cards).rows.at(-1)).to.deep.equal({ id: null, values: {} })
    expect(withoutRow(cards, 7).rows.map(({ id }) => id)).to.deep.equal([9])
    expect(withColumn(cards, 'bank').columns.at(-1)).to.equal('bank')
    expect(withColumn(cards, 'limit')).to.equal(cards)
    expect(withColumn(cards, '')).to.equal(cards)
  })
})
