import { expect } from 'chai'
import { plainCase, plainRequirement } from './shapes.ts'
import { caseTable, requirementTable } from './write-sheet.ts'

const cell = (table: string[][], row: number, name: string): string | undefined => table[row]?.[table[0]!.indexOf(name)]

describe('cases as a table', () => {
  const pay = {
    ...plainCase,
    row: 0,
    id: 'TC-1',
    title: 'Pay',
    folder: ['Booking', 'Payment'],
    tags: ['money', 'smoke'],
    parameters: ['card'],
    rows: [{ card: '4000' }],
    custom: { Vessel: 'Ove' },
    steps: [
      { id: 1, action: 'Open', expected: 'It is open', data: '' },
      { id: 2, action: 'Tap', expected: 'Paid', data: '{card}' },
    ],
  }
  const table = caseTable([pay, { ...plainCase, row: 1, id: 'TC-2', title: 'Hold', steps: [] }], ['Vessel'])
  it('have a row a step, and one where there is no step', () => {
    expect(table).to.have.length(1 + 2 + 1)
    expect([1, 2, 3].map((row) => cell(table, row, 'Action'))).to.deep.equal(['Open', 'Tap', ''])
  })
  it('say what belongs to the case on its first row, and its id and title on each', () => {
    expect([1, 2].map((row) => cell(table, row, 'Id'))).to.deep.equal(['TC-1', 'TC-1'])
    expect([1, 2].map((row) => cell(table, row, 'Folder'))).to.deep.equal(['Booking / Payment', ''])
    expect([1, 2].map((row) => cell(table, row, 'Vessel'))).to.deep.equal(['Ove', ''])
    expect(cell(table, 1, 'Data rows')).to.equal('card\n4000')
    expect(cell(table, 1, 'Tags')).to.equal('money, smoke')
  })
  it('have as many cells in every row as in the header', () => {
    for (const row of table) expect(row).to.have.length(table[0]!.length)
  })
})

describe('requirements as a table', () => {
  const requirement = (id: string, title: string, parent: number | { named: string } | null) => ({
    ...plainRequirement,
    row: 0,
    id,
    title,
    parent,
  })
  const table = requirementTable(
    [
      requirement('RQ-1', 'Booking', null),
      requirement('', 'Hold', 0),
      requirement('', 'Clock', 1),
      requirement('', 'Late', { named: 'RQ-9' }),
    ],
    [],
  )
  it('name a parent by its id, by its title where it has none, or as it was named', () => {
    expect([1, 2, 3, 4].map((row) => cell(table, row, 'Parent'))).to.deep.equal(['', 'RQ-1', 'Hold', 'RQ-9'])
  })
  it('leave open what nobody gave', () => {
    expect([cell(table, 1, 'Likelihood'), cell(table, 1, 'Priority')]).to.deep.equal(['', ''])
  })
})
