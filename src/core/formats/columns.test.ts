import { expect } from 'chai'
import fc from 'fast-check'
import { columnIndex, columnName } from './column-names.ts'
import { fieldsOf, guessWhat, mapColumns } from './columns.ts'

describe('columns of a spreadsheet', () => {
  it('are named by letters and found again', () => {
    expect([0, 25, 26, 51, 52, 701, 702].map(columnName)).to.deep.equal(['A', 'Z', 'AA', 'AZ', 'BA', 'ZZ', 'AAA'])
    fc.assert(
      fc.property(fc.nat(20_000), (index) => {
        expect(columnIndex(columnName(index))).to.equal(index)
      }),
    )
  })
})

describe('headers', () => {
  it('are known whatever their letters and marks', () => {
    expect(mapColumns('cases', ['Test Case Title', 'EXPECTED-RESULT', 'Test_Data', 'Colour'])).to.deep.equal([
      'title',
      'expected',
      'data',
      null,
    ])
  })
  it('give a field to the first that fits it', () => {
    expect(mapColumns('requirements', ['Title', 'Name', 'Text'])).to.deep.equal(['title', null, 'text'])
  })
  it('prefer a field of the project’s own', () => {
    expect(mapColumns('cases', ['Vessel', 'Type'], ['Vessel', 'Type'])).to.deep.equal(['custom:Vessel', 'custom:Type'])
  })
  it('tell cases by steps and by the word, else requirements by a title', () => {
    expect(guessWhat(['Title', 'Step', 'Expected'])).to.equal('cases')
    expect(guessWhat(['Case title', 'Owner'])).to.equal('cases')
    expect(guessWhat(['Title', 'Text'])).to.equal('requirements')
    expect(guessWhat(['Colour', 'Size'])).to.equal(null)
  })
  it('stand for fields there are', () => {
    expect(fieldsOf('cases')).to.include.members(['title', 'action', 'expected', 'rows'])
    expect(fieldsOf('requirements')).to.include.members(['title', 'text', 'parent', 'likelihood'])
  })
})
